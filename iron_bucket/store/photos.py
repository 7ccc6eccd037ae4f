"""Photos of places."""

from datetime import datetime

from sqlalchemy import ForeignKey, LargeBinary, String, func, select
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import Base

#: Of a column: what a photo is kept as stays far below.
_MOST_BYTES = 2**24 - 1


class PhotoRow(Base):
    """A photo of a place; its ``data`` are read only where they are asked for."""

    __tablename__ = "photos"

    id: Mapped[int] = mapped_column(primary_key=True)
    place_id: Mapped[int] = mapped_column(ForeignKey("places.id", ondelete="CASCADE"), index=True)
    caption: Mapped[str] = mapped_column(String(200), default="")
    width_px: Mapped[int]
    height_px: Mapped[int]
    data: Mapped[bytes] = mapped_column(LargeBinary(_MOST_BYTES), deferred=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("people.id"))
    made_at: Mapped[datetime]


def photos_of(session: Session, place_id: int) -> list[PhotoRow]:
    """Of one place, in the order in which they came in."""
    return list(session.scalars(select(PhotoRow).where(PhotoRow.place_id == place_id).order_by(PhotoRow.id)))


def count_photos(session: Session, place_id: int) -> int:
    """How many a place has."""
    return int(session.scalar(select(func.count()).where(PhotoRow.place_id == place_id)) or 0)


def photo_row(session: Session, place_id: int, photo_id: int) -> PhotoRow | None:
    """One photo of a place."""
    query = select(PhotoRow).where(PhotoRow.id == photo_id, PhotoRow.place_id == place_id)
    return session.scalars(query).one_or_none()
