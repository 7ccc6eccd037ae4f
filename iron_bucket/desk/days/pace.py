"""How long passes really took, what earlier jobs teach of it, and how many people rig."""

from dataclasses import dataclass
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.core.power.job.pace import PARTS, Pace, PassTaken, learned_pace, taken_id
from iron_bucket.core.power.job.shooting_day import usual_time_of
from iron_bucket.desk.days.view import DaysView, days_scope, days_view
from iron_bucket.desk.history import record
from iron_bucket.desk.job_contents import kept_power
from iron_bucket.desk.jobs import require_job
from iron_bucket.desk.power.edit import put_power_changes
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.formats.record_json import write_record
from iron_bucket.store.power import powers_of_others

Row = dict[str, Any]
#: Older jobs teach nothing any more.
_MOST_JOBS = 40


@dataclass(frozen=True, slots=True, kw_only=True)
class Learned:
    """``pace`` of so many passes in so many earlier jobs."""

    pace: Pace
    passes: int
    jobs: int


@one_transaction
def earlier_pace(session: Session, person_id: int, job_id: int) -> Learned | None:
    """What this person's other jobs took against the typical times; None where nothing was timed. What cannot be read
    teaches nothing.
    """
    return _earlier_pace(session, person_id, job_id)


def _earlier_pace(session: Session, person_id: int, job_id: int) -> Learned | None:
    timed: list[tuple[PassTaken, ...]] = []
    for row in powers_of_others(session, person_id, job_id, _MOST_JOBS):
        try:
            timed.append(kept_power(row.document).taken)
        except BadValue:
            continue
    taken = [each for some in timed for each in some]
    pace = learned_pace(taken)
    return Learned(pace=pace, passes=len(taken), jobs=sum(bool(some) for some in timed)) if pace else None


@one_transaction
def took(session: Session, person_id: int, job_id: int, setup_id: int, minutes: dict[str, int]) -> DaysView:
    """How long one pass really took, by its parts. Raises: NotFound, BadValue."""
    view = days_view(session, person_id, job_id)
    each = next(each for each in view.day_with(setup_id).passes if each.of.setup_id == setup_id)
    usual = usual_time_of(each.of)
    found = PassTaken(
        piece_id=taken_id(setup_id),
        setup_id=setup_id,
        rig_min=minutes["rig"],
        shoot_min=minutes["shoot"],
        strike_min=minutes["strike"],
        rule_rig_min=usual.rig_min,
        rule_shoot_min=usual.shoot_min,
        rule_strike_min=usual.strike_min,
    )
    row = write_record(found)
    known = any(one.piece_id == found.piece_id for one in view.power.power.taken)
    change: Row = {"operation": "add", "where": "taken", "to": row}
    if known:
        fields = {key: value for key, value in row.items() if key.endswith("_min")}
        change = {"operation": "set", "where": "taken", "piece_id": found.piece_id, "to": fields}
    text = f"timed {each.of.setup.name}, {each.of.setup.width.value}"
    return _put(session, person_id, job_id, [change], text)


@one_transaction
def use_pace(session: Session, person_id: int, job_id: int) -> DaysView:
    """Times by rule go as earlier jobs went. Raises: NotFound; NoAnswer where nothing was timed."""
    learned = _earlier_pace(session, person_id, job_id)
    if learned is None:
        raise NoAnswer("No earlier job has been timed.")
    to = {f"{name}_pace": getattr(learned.pace, name) for name in PARTS}
    return _put(session, person_id, job_id, [{"operation": "set", "to": to}], "took the pace of earlier jobs")


@one_transaction
def put_crew(session: Session, person_id: int, job_id: int, crew: int, was: int | None) -> DaysView:
    """So many people rig and strike. Raises: NotFound, BadValue, ChangedMeanwhile."""
    said: Row = {} if was is None else {"was": {"crew": was}}
    change = {"operation": "set", "to": {"crew": crew}, **said}
    return _put(session, person_id, job_id, [change], f"a crew of {crew}")


def _put(session: Session, person_id: int, job_id: int, changes: list[Row], text: str) -> DaysView:
    require_job(session, person_id, job_id)
    record(session, days_scope(job_id), person_id, text, [put_power_changes(session, job_id, changes)])
    session.flush()
    return days_view(session, person_id, job_id)
