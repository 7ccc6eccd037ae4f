"""What jobs say of their days."""

from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKey, select
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import Base


class DayPlanRow(Base):
    """The days of one job; a job without a row has said nothing yet."""

    __tablename__ = "day_plans"

    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id", ondelete="CASCADE"), primary_key=True)
    document: Mapped[dict[str, Any]]
    version: Mapped[int] = mapped_column(default=1)
    changed_at: Mapped[datetime]


def day_plan_row(session: Session, job_id: int, *, is_locked: bool = False) -> DayPlanRow | None:
    """Of one job; locked, nobody else changes it meanwhile."""
    query = select(DayPlanRow).where(DayPlanRow.job_id == job_id)
    return session.scalars(query.with_for_update() if is_locked else query).one_or_none()
