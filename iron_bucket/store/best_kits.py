"""The search for the best kit of each job: at most one, the newest."""

from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKey, String, update
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import Base


class BestKitRow(Base):
    """``run`` tells it from the one before; ``state``: of ``SearchState``; ``share``: how far it is; ``seen_at``: when
    the process that works on it was last heard of.
    """

    __tablename__ = "best_kits"

    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id", ondelete="CASCADE"), primary_key=True)
    run: Mapped[str] = mapped_column(String(36))
    state: Mapped[str] = mapped_column(String(12))
    goal: Mapped[dict[str, Any]]
    progress: Mapped[str] = mapped_column(String(200), default="")
    share: Mapped[float] = mapped_column(default=0.0)
    result: Mapped[dict[str, Any]]
    begun_at: Mapped[datetime]
    seen_at: Mapped[datetime]


def put_progress(session: Session, job_id: int, run: str, while_state: str, **values: Any) -> bool:
    """Of a search as long as it is the one, and in that state; False where it is not any more."""
    mine = (BestKitRow.job_id == job_id, BestKitRow.run == run, BestKitRow.state == while_state)
    return bool(session.execute(update(BestKitRow).where(*mine).values(**values)).rowcount)  # type: ignore[attr-defined]
