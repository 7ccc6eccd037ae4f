"""What is kept of one person, and what goes with them."""

from typing import Any

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from iron_bucket.store.base import Base
from iron_bucket.store.crews import FIRST_CREW, CrewPersonRow, CrewRow, OwnedByCrew, enter_every_crew
from iron_bucket.store.events import EventRow
from iron_bucket.store.history import ChangeRow
from iron_bucket.store.jobs import JobPersonRow, JobRow
from iron_bucket.store.people import PersonRow
from iron_bucket.store.photos import PhotoRow
from iron_bucket.store.readings import ColumnMapRow, ReadingRow
from iron_bucket.store.setups import ShareRow
from iron_bucket.store.sign_ins import CodeRow, SignInRow
from iron_bucket.store.spectra import SpectrumRow
from iron_bucket.store.ticks import KitShareRow, TickRow

#: Of every table that names a person, the columns that are told.
_TOLD: dict[type[Base], tuple[str, ...]] = {
    SignInRow: ("began_at", "seen_at", "ended_at", "address", "device"),
    CodeRow: ("made_at", "expires_at", "used_at"),
    EventRow: ("at", "kind", "text", "address"),
    CrewPersonRow: ("crew_id", "role"),
    JobPersonRow: ("job_id", "role"),
    ChangeRow: ("made_at", "scope", "scope_number", "text", "undone_at"),
    ReadingRow: ("made_at", "item", "is_struck"),
    SpectrumRow: ("made_at", "subject_slug", "name"),
    ColumnMapRow: ("signature", "uses"),
    PhotoRow: ("made_at", "place_id", "caption"),
    TickRow: ("made_at", "job_id", "thing", "stage", "count", "trouble", "note"),
    ShareRow: ("made_at", "setup_id", "revoked_at", "expires_at"),
    KitShareRow: ("made_at", "job_id", "has_prices", "revoked_at", "expires_at"),
}
_GROUPS: tuple[tuple[type[Base], type[Base], str], ...] = (
    (CrewRow, CrewPersonRow, "crew_id"),
    (JobRow, JobPersonRow, "job_id"),
)


def rows_of(session: Session, person_id: int) -> dict[str, Any]:
    """The person, and what names them in each table, ready for JSON."""
    enter_every_crew(session)
    row = session.get_one(PersonRow, person_id)
    found: dict[str, Any] = {
        "person": {"name": row.name, "sign_in": row.sign_in, "created_at": row.created_at.isoformat()}
    }
    for kind, columns in _TOLD.items():
        attributes: dict[str, Any] = {name: getattr(kind, name) for name in columns}
        query = select(*attributes.values()).where(kind.person_id == person_id)  # type: ignore[attr-defined]
        rows = [dict(zip(columns, values, strict=True)) for values in session.execute(query)]
        found[kind.__tablename__] = [
            {name: value.isoformat() if hasattr(value, "isoformat") else value for name, value in each.items()}
            for each in rows
        ]
    return found


def _theirs(session: Session, person_id: int, people: Any, key: str) -> dict[int, tuple[int, int]]:
    """Of each group that somebody belongs to, how many do, and how many others are gaffers."""
    number = getattr(people, key)
    mine = select(number).where(people.person_id == person_id)
    others = func.sum((people.role == "gaffer") & (people.person_id != person_id))
    query = select(number, func.count(), others).where(number.in_(mine)).group_by(number)
    return {found: (int(count), int(gaffers or 0)) for found, count, gaffers in session.execute(query)}


def left_without_gaffer(session: Session, person_id: int) -> list[str]:
    """Names of crews and jobs of others that would be."""
    names: list[str] = []
    for group, people, key in _GROUPS:
        theirs = _theirs(session, person_id, people, key)
        left = [number for number, (count, gaffers) in theirs.items() if count > 1 and not gaffers]
        query = select(group.name).where(group.id.in_(left))  # type: ignore[attr-defined]
        names += session.scalars(query.order_by(group.name))  # type: ignore[attr-defined]
    return names


def _alone(session: Session, person_id: int, people: Any, key: str) -> list[int]:
    """Of each group that somebody belongs to, those that nobody else does."""
    return [number for number, (count, _) in _theirs(session, person_id, people, key).items() if count == 1]


def left_empty(session: Session, person_id: int) -> list[str]:
    """Names of crews that would be, whose gear jobs of others use."""
    crews, jobs = (_alone(session, person_id, people, key) for _, people, key in _GROUPS)
    used = select(JobRow.crew_id).where(JobRow.crew_id.in_(crews), JobRow.id.not_in(jobs))
    return list(session.scalars(select(CrewRow.name).where(CrewRow.id.in_(used)).order_by(CrewRow.name)))


def forget_person(session: Session, person_id: int) -> None:
    """Everything that names somebody and is nobody else's work; jobs and crews that are theirs alone."""
    enter_every_crew(session)
    crews, jobs = (_alone(session, person_id, people, key) for _, people, key in _GROUPS)
    session.execute(delete(JobRow).where(JobRow.id.in_(jobs)))
    for owned in OwnedByCrew.__subclasses__():
        session.execute(delete(owned).where(owned.crew_id.in_(crews)))
    session.execute(delete(CrewRow).where(CrewRow.id.in_(crews), CrewRow.id != FIRST_CREW))  # new rows begin there
    for kind in (JobPersonRow, CrewPersonRow, SignInRow, CodeRow, EventRow, ColumnMapRow):
        session.execute(delete(kind).where(kind.person_id == person_id))
