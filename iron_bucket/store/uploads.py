"""Large files on their way in."""

from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKey, String, update
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import Base


class UploadRow(Base):
    """``kind``: what the file is; ``state``: of ``UploadState``; ``share``: how far it is; ``seen_at``: when the
    process that works on it was last heard of; ``result``: where it is now.
    """

    __tablename__ = "uploads"

    id: Mapped[int] = mapped_column(primary_key=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("people.id", ondelete="CASCADE"), index=True)
    crew_id: Mapped[int]
    kind: Mapped[str] = mapped_column(String(10))
    choice: Mapped[str] = mapped_column(String(10))
    state: Mapped[str] = mapped_column(String(10))
    progress: Mapped[str] = mapped_column(String(300))
    share: Mapped[float]
    result: Mapped[dict[str, Any]]
    begun_at: Mapped[datetime]
    seen_at: Mapped[datetime]


def put_upload(session: Session, number: int, **values: Any) -> None:
    """How one stands."""
    session.execute(update(UploadRow).where(UploadRow.id == number).values(**values))
