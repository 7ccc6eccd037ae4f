"""Ticks off a kit list: several people at once, sent late, sent twice."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from sqlalchemy.orm import Session

from iron_bucket.core.bench.unit import Unit
from iron_bucket.core.bucket.ticks import Stage, Tally, Tick, Trouble, tallied, thing_of
from iron_bucket.core.errors import BadValue
from iron_bucket.desk.bucket.returned import take_returned
from iron_bucket.desk.bucket.view import BucketView, bucket_view
from iron_bucket.desk.jobs import require_job
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.store.people import names_of
from iron_bucket.store.ticks import TickRow, add_ticks, known_ticks, ticks_of

#: What a phone may have waited to send.
MOST_AT_ONCE = 500


def tick_of(row: TickRow) -> Tick:
    """As it was sent."""
    return Tick(
        tick_id=row.tick_id,
        thing=row.thing,
        stage=Stage(row.stage),
        count=row.count,
        trouble=Trouble(row.trouble),
        note=row.note,
        made_at=row.made_at,
    )


def tick_row(tick: Tick, job_id: int, person_id: int) -> TickRow:
    """As it is kept."""
    return TickRow(
        tick_id=tick.tick_id,
        job_id=job_id,
        thing=tick.thing,
        stage=tick.stage.value,
        count=tick.count,
        trouble=tick.trouble.value,
        note=tick.note,
        person_id=person_id,
        made_at=tick.made_at,
        received_at=now(),
    )


@dataclass(kw_only=True, eq=False)
class TickView:
    """A bucket with its ticks."""

    bucket: BucketView
    rows: Sequence[TickRow]
    people: Mapping[int, str]

    @cached_property
    def needed(self) -> dict[str, int]:
        """How many of each line there are."""
        return {thing_of(*line.sort): line.quantity for line in self.bucket.kit.lines if line.quantity}

    @cached_property
    def tallies(self) -> dict[str, Tally]:
        """By thing."""
        return tallied((tick_of(row) for row in self.rows), self.needed)

    def units_of(self, thing: str) -> tuple[Unit, ...]:
        """Of a line, those that have names."""
        return tuple(unit for unit in self.bucket.gear.units if unit.head_slug == thing and not unit.is_retired)

    @property
    def mark(self) -> str:
        """Another one after every tick and every change of the job."""
        return f"{self.bucket.job.version}.{len(self.rows)}"

    def last_of(self, thing: str) -> str:
        """Who ticked it last, empty where nobody did."""
        row = next((row for row in reversed(self.rows) if row.thing == thing), None)
        return self.people.get(row.person_id, "") if row else ""


@one_transaction
def open_ticks(session: Session, person_id: int, job_id: int) -> TickView:
    """Raises: NotFound, also for somebody else's job."""
    return _view(session, person_id, job_id)


def _view(session: Session, person_id: int, job_id: int) -> TickView:
    row = require_job(session, person_id, job_id)
    rows = ticks_of(session, job_id)
    people = names_of(session, {each.person_id for each in rows})
    return TickView(bucket=bucket_view(session, row), rows=rows, people=people)


@one_transaction
def put_ticks(session: Session, person_id: int, job_id: int, ticks: Sequence[Tick]) -> TickView:
    """Those that are not here yet; one that is sent again changes nothing.

    Raises: NotFound; BadValue for too many.
    """
    require_job(session, person_id, job_id)
    if len(ticks) > MOST_AT_ONCE:
        raise BadValue("ticks", len(ticks), f"up to {MOST_AT_ONCE} at once")
    known = known_ticks(session, job_id, [tick.tick_id for tick in ticks])
    new: dict[str, Tick] = {}
    for tick in ticks:
        if tick.tick_id not in known:
            new.setdefault(tick.tick_id, tick)
    add_ticks(session, [tick_row(tick, job_id, person_id) for tick in new.values()])
    if any(tick.trouble for tick in new.values()):
        bucket = _view(session, person_id, job_id).bucket
        sources = {thing_of(*sort): source for sort, source in bucket.sources.items()}
        take_returned(session, person_id, bucket.job.name, list(new.values()), sources)
        session.flush()
    return _view(session, person_id, job_id)
