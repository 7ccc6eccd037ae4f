"""What was done to the bench, by whom, and how it stood before and after."""

from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKey, Index, String, func, select
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import TABLE_ARGS, Base
from iron_bucket.store.bench import GearRow
from iron_bucket.store.bucket import BucketLineRow
from iron_bucket.store.jobs import CrewRow, JobRow
from iron_bucket.store.people import PersonRow
from iron_bucket.store.readings import ReadingRow
from iron_bucket.store.spectra import SpectrumRow


class BenchChangeRow(Base):
    """One change. ``slug`` is the piece that it is told of;

    ``touched`` lists table, key, before and after of every row.
    """

    __tablename__ = "bench_changes"
    __table_args__ = (Index("ix_bench_changes_standing", "person_id", "undone_at", "id"), TABLE_ARGS)

    id: Mapped[int] = mapped_column(primary_key=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("people.id"))
    slug: Mapped[str] = mapped_column(String(120), index=True)
    text: Mapped[str] = mapped_column(String(300))
    touched: Mapped[list[Any]]
    made_at: Mapped[datetime]
    undone_at: Mapped[datetime | None]


#: The tables that a bench change may touch, and the columns that make up a row's state there.
_TABLES: dict[str, tuple[type[Base], str, tuple[str, ...]]] = {
    "gear": (GearRow, "slug", ("kind", "slug", "item", "digest")),
    "readings": (
        ReadingRow,
        "id",
        ("configuration_slug", "modifier_slug", "unit_slug", "item", "person_id", "is_struck", "made_at"),
    ),
    "spectra": (SpectrumRow, "id", ("subject_slug", "name", "item", "figures", "digest", "person_id", "made_at")),
}


def row_state(row: GearRow | ReadingRow | SpectrumRow) -> dict[str, Any]:
    """A row as it stands, ready to be kept as JSON."""
    _, _, columns = _TABLES[row.__tablename__]
    state = {column: getattr(row, column) for column in columns}
    return {column: value.isoformat() if isinstance(value, datetime) else value for column, value in state.items()}


def state_of(session: Session, table: str, key: str | int) -> dict[str, Any] | None:
    """The state of one row by its key, held until the transaction ends; None where there is none."""
    row = _row(session, table, key)
    return row_state(row) if row else None


def _row(session: Session, table: str, key: str | int) -> Any:
    kind, name, _ = _TABLES[table]
    return session.scalars(select(kind).where(getattr(kind, name) == key).with_for_update()).one_or_none()


def put_back(session: Session, table: str, key: str | int, state: dict[str, Any] | None, at: datetime) -> None:
    """Make a row what it was; None takes it away."""
    kind, name, _ = _TABLES[table]
    row = _row(session, table, key)
    if state is None:
        if row is not None:
            session.delete(row)
        return
    values = {
        column: datetime.fromisoformat(value) if column == "made_at" else value for column, value in state.items()
    }
    if row is None:
        fixed = {"changed_at": at} if table == "gear" else {name: key}
        session.add(kind(**values, **fixed))
        return
    for column, value in values.items():
        setattr(row, column, value)
    if table == "gear":
        row.version, row.changed_at = row.version + 1, at


def last_bench_change(session: Session, person_id: int) -> BenchChangeRow | None:
    """The newest change of this person's that still stands."""
    query = (
        select(BenchChangeRow)
        .where(BenchChangeRow.person_id == person_id, BenchChangeRow.undone_at.is_(None))
        .order_by(BenchChangeRow.id.desc())
        .limit(1)
    )
    return session.scalars(query).one_or_none()


def changes_of(session: Session, slugs: list[str], limit: int) -> list[tuple[BenchChangeRow, str]]:
    """Changes told of some pieces with the name of who made them, newest first."""
    query = (
        select(BenchChangeRow, PersonRow.name)
        .join(PersonRow, PersonRow.id == BenchChangeRow.person_id)
        .where(BenchChangeRow.slug.in_(slugs))
        .order_by(BenchChangeRow.id.desc())
        .limit(limit)
    )
    return [(row, name) for row, name in session.execute(query)]


def plans_with(session: Session, person_id: int, slugs: list[str]) -> list[tuple[int, str, dict[str, Any]]]:
    """Jobs of this person's whose buckets hold some of the pieces: number, name, and the piece as it was when it went
    in.
    """
    query = (
        select(JobRow.id, JobRow.name, BucketLineRow.item)
        .join(BucketLineRow, BucketLineRow.job_id == JobRow.id)
        .join(CrewRow, (CrewRow.job_id == JobRow.id) & (CrewRow.person_id == person_id))
        .where(func.json_value(BucketLineRow.item, "$.slug").in_(slugs))
        .order_by(JobRow.changed_at.desc(), BucketLineRow.number)
    )
    return [(number, name, item) for number, name, item in session.execute(query)]
