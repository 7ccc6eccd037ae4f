"""Places. They belong to a crew, like its bench: every job of the crew may use them."""

from datetime import datetime
from typing import Any, NamedTuple

from sqlalchemy import String, select
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import Base
from iron_bucket.store.crews import OwnedByCrew


class PlaceRow(OwnedByCrew, Base):
    """``version`` counts every change, undone ones too; the document is the place as it stands."""

    __tablename__ = "places"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(120))
    document: Mapped[dict[str, Any]]
    version: Mapped[int] = mapped_column(default=1)
    is_archived: Mapped[bool] = mapped_column(default=False)
    created_at: Mapped[datetime]
    changed_at: Mapped[datetime]


class PlaceStamp(NamedTuple):
    """Which place, and which state of it: what a process has at hand need not be asked for again."""

    place_id: int
    name: str
    version: int
    changed_at: datetime


def place_row(session: Session, place_id: int, *, locked: bool = False) -> PlaceRow | None:
    """One place. ``locked``: nobody else changes it meanwhile."""
    query = select(PlaceRow).where(PlaceRow.id == place_id)
    return session.scalars(query.with_for_update() if locked else query).one_or_none()


def all_places(session: Session) -> list[PlaceRow]:
    """By name, those put away last."""
    return list(session.scalars(select(PlaceRow).order_by(PlaceRow.is_archived, PlaceRow.name, PlaceRow.id)))


def places_by_id(session: Session, place_ids: set[int]) -> list[PlaceRow]:
    """Some places, in one query."""
    return list(session.scalars(select(PlaceRow).where(PlaceRow.id.in_(place_ids))))


def place_crew(session: Session, place_id: int) -> int | None:
    """Whose place it is, whoever asks."""
    places = PlaceRow.__table__  # of all crews
    return session.execute(select(places.c.crew_id).where(places.c.id == place_id)).scalar()
