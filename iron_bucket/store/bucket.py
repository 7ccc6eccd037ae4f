"""The lines of a job's bucket, and what its crew says of it."""

from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKey, String, delete, func, select
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import Base
from iron_bucket.store.crews import crew_of
from iron_bucket.store.jobs import JobPersonRow, JobRow


class BucketLineRow(Base):
    """One entry. ``item`` is the gear's row as it was when it was put in, so that a bucket means the same for ever.

    ``number`` counts within the job and stays when a change is undone; ``parent_number`` is what it hangs on.
    """

    __tablename__ = "bucket_lines"

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id", ondelete="CASCADE"), index=True)
    number: Mapped[int]
    parent_number: Mapped[int | None]
    kind: Mapped[str] = mapped_column(String(20))
    item: Mapped[dict[str, Any]]
    quantity: Mapped[int]
    purpose: Mapped[str] = mapped_column(String(200), default="")
    level: Mapped[float] = mapped_column(default=1.0)
    fed_from: Mapped[str] = mapped_column(String(10), default="mains")
    area_m2: Mapped[float] = mapped_column(default=1.0)
    setting: Mapped[str] = mapped_column(String(120), default="")


class BucketPlanRow(Base):
    """What the crew says of one job's bucket; a job without a row has said nothing yet."""

    __tablename__ = "bucket_plans"

    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id", ondelete="CASCADE"), primary_key=True)
    document: Mapped[dict[str, Any]]
    version: Mapped[int] = mapped_column(default=1)
    changed_at: Mapped[datetime]


LINE_FIELDS = (
    "number",
    "parent_number",
    "kind",
    "item",
    "quantity",
    "purpose",
    "level",
    "fed_from",
    "area_m2",
    "setting",
)


def lines_of(session: Session, job_ids: list[int]) -> list[BucketLineRow]:
    """The lines of some jobs, in the order they were put in."""
    query = (
        select(BucketLineRow)
        .where(BucketLineRow.job_id.in_(job_ids))
        .order_by(BucketLineRow.job_id, BucketLineRow.number)
    )
    return list(session.scalars(query))


def snapshot(lines: list[BucketLineRow]) -> dict[str, Any]:
    """Lines as they stand, for undoing."""
    return {"lines": [{name: getattr(line, name) for name in LINE_FIELDS} for line in lines]}


def restore(session: Session, job_id: int, before: dict[str, Any]) -> None:
    """Put a job's lines back as a snapshot has them."""
    session.execute(delete(BucketLineRow).where(BucketLineRow.job_id == job_id))
    session.add_all([BucketLineRow(job_id=job_id, **line) for line in before["lines"]])


def plans_with(session: Session, person_id: int, slugs: list[str]) -> list[tuple[int, str, dict[str, Any]]]:
    """Jobs of this person's whose buckets hold some of the pieces: number, name, and the piece as it was when it went
    in.
    """
    query = (
        select(JobRow.id, JobRow.name, BucketLineRow.item)
        .join(BucketLineRow, BucketLineRow.job_id == JobRow.id)
        .join(JobPersonRow, (JobPersonRow.job_id == JobRow.id) & (JobPersonRow.person_id == person_id))
        .where(func.json_value(BucketLineRow.item, "$.slug").in_(slugs), JobRow.crew_id == crew_of(session))
        .order_by(JobRow.changed_at.desc(), BucketLineRow.number)
    )
    return [(number, name, item) for number, name, item in session.execute(query)]
