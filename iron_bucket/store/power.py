"""What jobs bring to feed their lamps, and how long their passes last."""

from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKey, select
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import Base
from iron_bucket.store.jobs import JobPersonRow


class PowerRow(Base):
    """The power of one job; a job without a row has said nothing yet."""

    __tablename__ = "power"

    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id", ondelete="CASCADE"), primary_key=True)
    document: Mapped[dict[str, Any]]
    version: Mapped[int] = mapped_column(default=1)
    changed_at: Mapped[datetime]


def power_rows(session: Session, job_ids: list[int]) -> dict[int, PowerRow]:
    """Of some jobs, by their numbers: one query."""
    return {row.job_id: row for row in session.scalars(select(PowerRow).where(PowerRow.job_id.in_(job_ids)))}


def powers_of_others(session: Session, person_id: int, job_id: int, most: int) -> list[PowerRow]:
    """Of a person's other jobs, the latest change first: one query."""
    query = (
        select(PowerRow)
        .join(JobPersonRow, JobPersonRow.job_id == PowerRow.job_id)
        .where(JobPersonRow.person_id == person_id, PowerRow.job_id != job_id)
        .order_by(PowerRow.changed_at.desc(), PowerRow.job_id)
        .limit(most)
    )
    return list(session.scalars(query))


def locked_power_row(session: Session, job_id: int) -> PowerRow | None:
    """Of one job, as it stands; nobody else changes it meanwhile."""
    return session.scalars(select(PowerRow).where(PowerRow.job_id == job_id).with_for_update()).one_or_none()
