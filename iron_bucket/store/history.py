"""One history for everything that is done: each entry keeps how the rows it touched stood before and after.

Nothing is taken out of it but by thinning what is old: an undo is an entry of its own. Undone changes stay for redo
until something else is done in the same scope.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Any, NamedTuple, Protocol

from sqlalchemy import ForeignKey, Index, String, delete, func, or_, select, tuple_, update
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import TABLE_ARGS, Base, batched
from iron_bucket.store.bench import GearRow
from iron_bucket.store.bucket import BucketPlanRow, lines_of, restore, snapshot
from iron_bucket.store.crews import OwnedByCrew
from iron_bucket.store.days import DayPlanRow
from iron_bucket.store.jobs import JobRow
from iron_bucket.store.people import PersonRow
from iron_bucket.store.places import PlaceRow
from iron_bucket.store.power import PowerRow
from iron_bucket.store.readings import ReadingRow
from iron_bucket.store.setups import SetupRow
from iron_bucket.store.spectra import SpectrumRow
from iron_bucket.store.states import State


class ScopeKind(StrEnum):
    """Within what changes are undone one after the other. On the bench everybody undoes their own."""

    BENCH = "bench"
    DAYS = "days"
    JOB = "job"
    PLACE = "place"
    POWER = "power"
    SETUP = "setup"


class Scope(NamedTuple):
    """``number``: the job's (of its power and days, too), place's or set-up's; of a crew's bench the person's."""

    kind: ScopeKind
    number: int


class EntryKind(StrEnum):
    """What an entry is: a change; one undone or done again, named by ``of_id``; a note of what cannot be undone."""

    CHANGE = "change"
    UNDO = "undo"
    REDO = "redo"
    NOTE = "note"


class ChangeRow(OwnedByCrew, Base):
    """One entry. ``slug``: the piece of the bench that it is told of. ``touched``: table, key, and the states before
    and after of every row by their digests; None where there was no row. ``is_dropped``: undone, and overtaken by
    another change since. In entries from before there were states, these stand there whole.
    """

    __tablename__ = "history"
    __table_args__ = (Index("ix_history_scope", "scope", "scope_number", "is_dropped", "id"), TABLE_ARGS)

    id: Mapped[int] = mapped_column(primary_key=True)
    scope: Mapped[str] = mapped_column(String(10))
    scope_number: Mapped[int]
    person_id: Mapped[int] = mapped_column(ForeignKey("people.id"))
    slug: Mapped[str] = mapped_column(String(120), index=True, default="")
    text: Mapped[str] = mapped_column(String(300))
    kind: Mapped[str] = mapped_column(String(10), default=EntryKind.CHANGE, server_default=EntryKind.CHANGE)
    of_id: Mapped[int | None] = mapped_column(index=True)
    touched: Mapped[list[Any]]
    made_at: Mapped[datetime]
    undone_at: Mapped[datetime | None]
    is_dropped: Mapped[bool] = mapped_column(default=False)


class Keeper(Protocol):
    """How rows of one table are read and put back."""

    def state(self, session: Session, key: str | int) -> State | None:
        """How they stand, held until the transaction ends; None where there is nothing."""

    def put_back(self, session: Session, key: str | int, state: State | None, at: datetime) -> None:
        """Make them what they were; None takes them away."""


@dataclass(frozen=True, slots=True, kw_only=True)
class _Row:
    """One row by its key; what counts its changes counts on."""

    kind: type[Base]
    key: str
    columns: tuple[str, ...]

    def _find(self, session: Session, key: str | int) -> Any:
        return session.scalars(select(self.kind).where(getattr(self.kind, self.key) == key).with_for_update()).first()

    def state(self, session: Session, key: str | int) -> State | None:
        row = self._find(session, key)
        return None if row is None else self.state_of(row)

    def state_of(self, row: Any) -> State:
        values = {column: getattr(row, column) for column in self.columns}
        return {column: value.isoformat() if isinstance(value, datetime) else value for column, value in values.items()}

    def put_back(self, session: Session, key: str | int, state: State | None, at: datetime) -> None:
        row = self._find(session, key)
        if state is None:
            if row is not None:
                session.delete(row)
            return
        values = {name: datetime.fromisoformat(value) if name == "made_at" else value for name, value in state.items()}
        counted = {"changed_at": at} if hasattr(self.kind, "changed_at") else {}
        if row is None:
            session.add(self.kind(**{self.key: key} | values | counted))
            return
        for column, value in (values | counted).items():
            setattr(row, column, value)
        if hasattr(row, "version"):
            row.version += 1


class _BucketLines:
    """All lines of a job's bucket together, by the job's number."""

    def state(self, session: Session, key: str | int) -> State | None:
        return snapshot(lines_of(session, [int(key)]))

    def put_back(self, session: Session, key: str | int, state: State | None, at: datetime) -> None:
        restore(session, int(key), state or {"lines": []})
        job = session.get_one(JobRow, int(key))
        job.version, job.changed_at = job.version + 1, at


_READING = ("configuration_slug", "modifier_slug", "unit_slug", "item", "person_id", "is_struck", "made_at")
_SPECTRUM = ("subject_slug", "name", "item", "figures", "digest", "person_id", "made_at")
_ROWS = {
    "gear": _Row(kind=GearRow, key="slug", columns=("kind", "slug", "item", "digest")),
    "readings": _Row(kind=ReadingRow, key="id", columns=_READING),
    "spectra": _Row(kind=SpectrumRow, key="id", columns=_SPECTRUM),
    "jobs": _Row(kind=JobRow, key="id", columns=("name", "places", "rules", "is_archived")),
    "places": _Row(kind=PlaceRow, key="id", columns=("name", "document")),
    "setups": _Row(kind=SetupRow, key="id", columns=("document",)),
    "power": _Row(kind=PowerRow, key="job_id", columns=("document",)),
    "day_plans": _Row(kind=DayPlanRow, key="job_id", columns=("document",)),
    "bucket_plans": _Row(kind=BucketPlanRow, key="job_id", columns=("document",)),
}
#: Every table that a change may touch.
KEEPERS: dict[str, Keeper] = {**_ROWS, "bucket_lines": _BucketLines()}


def row_state(row: Base) -> State:
    """A row as it stands, ready to be kept as JSON."""
    return _ROWS[row.__tablename__].state_of(row)


class StepAhead(NamedTuple):
    """The change that undo or redo would take, by its number and text."""

    number: int
    text: str


class Around(NamedTuple):
    """What undo and redo would do; None where there is nothing."""

    undo: StepAhead | None
    redo: StepAhead | None


NO_STEPS = Around(None, None)


def _in_scope(scope: Scope) -> Any:
    is_change = ChangeRow.kind == EntryKind.CHANGE
    return (
        ChangeRow.scope == scope.kind,
        ChangeRow.scope_number == scope.number,
        ChangeRow.is_dropped.is_(False),
        is_change,
    )


def _last_standing(scope: Scope) -> Any:
    return select(func.max(ChangeRow.id)).where(*_in_scope(scope), ChangeRow.undone_at.is_(None)).scalar_subquery()


def _first_undone(scope: Scope) -> Any:
    return select(func.min(ChangeRow.id)).where(*_in_scope(scope), ChangeRow.undone_at.is_not(None)).scalar_subquery()


def around(session: Session, scope: Scope) -> Around:
    """What stands last and what was undone last: one query."""
    either = or_(ChangeRow.id == _last_standing(scope), ChangeRow.id == _first_undone(scope))
    found = {
        is_standing: StepAhead(number, text)
        for number, text, is_standing in session.execute(
            select(ChangeRow.id, ChangeRow.text, ChangeRow.undone_at.is_(None)).where(either)
        )
    }
    return Around(found.get(True), found.get(False))


def last_standing(session: Session, scope: Scope) -> ChangeRow | None:
    """The change that undo would undo."""
    return session.scalars(select(ChangeRow).where(ChangeRow.id == _last_standing(scope))).one_or_none()


def first_undone(session: Session, scope: Scope) -> ChangeRow | None:
    """The change that redo would do again."""
    return session.scalars(select(ChangeRow).where(ChangeRow.id == _first_undone(scope))).one_or_none()


def change_in(session: Session, scope: Scope, number: int) -> ChangeRow | None:
    """One change of a scope, dropped or not."""
    of_scope = (ChangeRow.scope == scope.kind, ChangeRow.scope_number == scope.number)
    return session.scalars(select(ChangeRow).where(ChangeRow.id == number, *of_scope)).one_or_none()


def last_step_of(session: Session, change: ChangeRow) -> ChangeRow | None:
    """The undo or redo that a change saw last."""
    query = select(ChangeRow).where(ChangeRow.of_id == change.id).order_by(ChangeRow.id.desc()).limit(1)
    return session.scalars(query).one_or_none()


def drop_undone(session: Session, scope: Scope) -> None:
    """Something else is done now: what was undone can only be told."""
    session.execute(
        update(ChangeRow).where(*_in_scope(scope), ChangeRow.undone_at.is_not(None)).values(is_dropped=True)
    )


def changes_told_of(session: Session, slugs: list[str], limit: int) -> list[tuple[ChangeRow, str]]:
    """Changes told of some pieces of the bench with the name of who made them, newest first."""
    query = (
        select(ChangeRow, PersonRow.name)
        .join(PersonRow, PersonRow.id == ChangeRow.person_id)
        .where(ChangeRow.slug.in_(slugs))
        .order_by(ChangeRow.id.desc())
        .limit(limit)
    )
    return [(row, name) for row, name in session.execute(query)]


def entries_before(session: Session, until: datetime) -> list[int]:
    """Numbers of what was entered before a time."""
    return list(session.scalars(select(ChangeRow.id).where(ChangeRow.made_at < until)))


def last_of_each_day(session: Session, until: datetime) -> set[int]:
    """Of what was entered before a time, the last change of each day in each scope, and every note."""
    day = func.date(ChangeRow.made_at)
    old = ChangeRow.made_at < until
    last = (
        select(func.max(ChangeRow.id))
        .where(old, ChangeRow.touched != [])
        .group_by(ChangeRow.scope, ChangeRow.scope_number, day)
    )
    notes = select(ChangeRow.id).where(old, ChangeRow.kind == EntryKind.NOTE)
    return {*session.scalars(last), *session.scalars(notes)}


def thin_out(session: Session, numbers: list[int], until: datetime) -> None:
    """Take some entries away; what is left from before a time can be brought back, but no longer undone."""
    for some in batched(numbers):
        session.execute(delete(ChangeRow).where(ChangeRow.id.in_(some)))
    session.execute(update(ChangeRow).where(ChangeRow.made_at < until).values(is_dropped=True))


def touched_by_all(session: Session) -> Iterator[list[Any]]:
    """What every entry touched, one after the other, those of this moment too."""
    yield from session.scalars(select(ChangeRow.touched).with_for_update(read=True).execution_options(yield_per=500))


def _within(scopes: Sequence[Scope]) -> Any:
    """Of some scopes; with none, of the bench, which is everybody's of a crew."""
    if not scopes:
        return ChangeRow.scope == ScopeKind.BENCH
    return tuple_(ChangeRow.scope, ChangeRow.scope_number).in_([(scope.kind.value, scope.number) for scope in scopes])


def entries_of(
    session: Session, scopes: Sequence[Scope], *, before: int | None, most: int
) -> list[tuple[ChangeRow, str]]:
    """What was entered, newest first, each with the name of who did it: one query."""
    query = select(ChangeRow, PersonRow.name).join(PersonRow, PersonRow.id == ChangeRow.person_id)
    query = query.where(_within(scopes))
    if before is not None:
        query = query.where(ChangeRow.id < before)
    return [(row, name) for row, name in session.execute(query.order_by(ChangeRow.id.desc()).limit(most))]


def entry_in(session: Session, scopes: Sequence[Scope], number: int) -> ChangeRow | None:
    """One entry of some scopes."""
    return session.scalars(select(ChangeRow).where(ChangeRow.id == number, _within(scopes))).one_or_none()
