"""What an installation needs now and then: whether its tables are new enough, what is old, what cannot be read."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import timedelta

from sqlalchemy.orm import Session

from iron_bucket.core.errors import BadValue
from iron_bucket.core.places.place import Place
from iron_bucket.desk.job_contents import entry_of, kept_crew_kit, kept_days, kept_plan, kept_power
from iron_bucket.desk.setups.kept import kept_setup
from iron_bucket.desk.thinning import thin_history
from iron_bucket.desk.transaction import all_or_nothing, now
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.gear_rows import item_of
from iron_bucket.formats.reading_rows import reading_of
from iron_bucket.formats.record_json import read_record
from iron_bucket.formats.spectrum import spectrum_from_row
from iron_bucket.store.bench import GearRow
from iron_bucket.store.bucket import BucketLineRow, BucketPlanRow
from iron_bucket.store.crews import enter_every_crew
from iron_bucket.store.days import DayPlanRow
from iron_bucket.store.events import drop_old_events
from iron_bucket.store.jobs import JobRow
from iron_bucket.store.places import PlaceRow
from iron_bucket.store.power import PowerRow
from iron_bucket.store.readings import ReadingRow
from iron_bucket.store.schema import newest_migration, standing_migration
from iron_bucket.store.setups import SetupRow
from iron_bucket.store.sign_ins import drop_old_sign_ins
from iron_bucket.store.spectra import SpectrumRow
from iron_bucket.store.whole_table import missing_states, rows_in_turn

SIGN_INS_KEPT_FOR, EVENTS_KEPT_FOR = timedelta(days=90), timedelta(days=400)


def waits_for(session: Session) -> str:
    """The migration that the tables lack; empty where they are new enough. Raises: SQLAlchemyError."""
    stands, newest = standing_migration(session), newest_migration()
    return newest if stands < newest else ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Pruned:
    """How many rows went, by what they were."""

    history: int
    states: int
    sign_ins: int
    events: int


def prune(session: Session) -> Pruned:
    """Thin old history, and take away old sign-ins and what was told long ago."""
    enter_every_crew(session)
    with all_or_nothing(session):
        thinned = thin_history(session)
        return Pruned(
            history=thinned.entries,
            states=thinned.states,
            sign_ins=drop_old_sign_ins(session, now() - SIGN_INS_KEPT_FOR),
            events=drop_old_events(session, now() - EVENTS_KEPT_FOR),
        )


_READERS: dict[type, Callable[..., object]] = {
    GearRow: lambda row: item_of(row.kind, row.item),
    ReadingRow: lambda row: reading_of(Fields(row.item)),
    SpectrumRow: lambda row: spectrum_from_row(Fields(row.item)),
    PlaceRow: lambda row: read_record(Place, row.document),
    SetupRow: lambda row: kept_setup(row.document),
    JobRow: lambda row: kept_crew_kit(row.rules.get("kit", {})),
    PowerRow: lambda row: kept_power(row.document),
    BucketPlanRow: lambda row: kept_plan(row.document),
    DayPlanRow: lambda row: kept_days(row.document),
    BucketLineRow: entry_of,
}


def unreadable(session: Session) -> Iterator[str]:
    """A sentence for every row that cannot be read, and every state that an entry names and nobody keeps."""
    enter_every_crew(session)
    for kind, read in _READERS.items():
        for number, row in rows_in_turn(session, kind):
            try:
                read(row)
            except (BadValue, KeyError, TypeError, ValueError) as bad:
                yield f"{row.__tablename__} {number}: {bad}"
    for number, digest in missing_states(session):
        yield f"history {number}: the state {digest[:12]} is not kept"
