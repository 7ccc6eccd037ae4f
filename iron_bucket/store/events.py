"""What was done with people and crews, and who signed in: told for ever, or until it is pruned."""

from datetime import datetime

from sqlalchemy import ForeignKey, String, delete, select
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import Base
from iron_bucket.store.people import PersonRow


class EventRow(Base):
    """``person_id``: who did it, None where nobody was signed in or they are gone."""

    __tablename__ = "events"

    id: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[datetime] = mapped_column(index=True)
    person_id: Mapped[int | None] = mapped_column(ForeignKey("people.id", ondelete="SET NULL"), index=True)
    kind: Mapped[str] = mapped_column(String(20))
    text: Mapped[str] = mapped_column(String(300))
    address: Mapped[str] = mapped_column(String(45), default="")


def last_events(session: Session, *, before: int | None, most: int) -> list[tuple[EventRow, str | None]]:
    """Newest first, each with the name of who did it; ``before``: the number of the last one that was told."""
    query = select(EventRow, PersonRow.name).outerjoin(PersonRow, PersonRow.id == EventRow.person_id)
    if before is not None:
        query = query.where(EventRow.id < before)
    return [(row, name) for row, name in session.execute(query.order_by(EventRow.id.desc()).limit(most))]


def drop_old_events(session: Session, until: datetime) -> int:
    """Take away what is older; gives how many went."""
    return int(session.execute(delete(EventRow).where(EventRow.at < until)).rowcount)  # type: ignore[attr-defined]
