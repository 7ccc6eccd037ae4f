"""What meters read, and how each person's tables are laid out."""

from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKey, String, select, text
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import LONGEST_LIST, Base
from iron_bucket.store.crews import OwnedByCrew, crew_of


class ReadingRow(OwnedByCrew, Base):
    """One reading. ``item`` is its flat row; the slugs stand beside it to be searched.

    ``is_struck``: kept, but not counted.
    """

    __tablename__ = "readings"

    id: Mapped[int] = mapped_column(primary_key=True)
    configuration_slug: Mapped[str] = mapped_column(String(120), index=True)
    modifier_slug: Mapped[str] = mapped_column(String(120), default="", index=True)
    unit_slug: Mapped[str] = mapped_column(String(120), default="", index=True)
    item: Mapped[dict[str, Any]]
    person_id: Mapped[int | None] = mapped_column(ForeignKey("people.id"))
    is_struck: Mapped[bool] = mapped_column(default=False)
    made_at: Mapped[datetime]


class ColumnMapRow(Base):
    """What a person said the columns of one kind of table are, for the next time."""

    __tablename__ = "column_maps"

    person_id: Mapped[int] = mapped_column(ForeignKey("people.id", ondelete="CASCADE"), primary_key=True)
    signature: Mapped[str] = mapped_column(String(190), primary_key=True)
    uses: Mapped[list[Any]]


def all_readings(session: Session) -> list[ReadingRow]:
    """Every reading, in the order they were made."""
    return list(session.scalars(select(ReadingRow).order_by(ReadingRow.id)))


def counted_readings(session: Session) -> list[tuple[int, str]]:
    """Number of every reading that is not struck, in the order they were made, and a mark that changes with it."""
    session.execute(text(f"SET SESSION group_concat_max_len = {LONGEST_LIST}"))
    query = "SELECT GROUP_CONCAT(CONCAT_WS(' ', id, made_at) ORDER BY id) FROM readings"
    query += " WHERE NOT is_struck AND crew_id = :crew"
    found = session.scalar(text(query), {"crew": crew_of(session)}) or ""
    parts = (part.partition(" ") for part in found.split(",") if part)
    return [(int(number), mark) for number, _, mark in parts]


def readings_by_numbers(session: Session, numbers: list[int]) -> list[ReadingRow]:
    """Some readings, in one query."""
    return list(session.scalars(select(ReadingRow).where(ReadingRow.id.in_(numbers)))) if numbers else []


def readings_of(session: Session, configuration_slugs: list[str]) -> list[ReadingRow]:
    """Readings of some configurations, struck ones too."""
    query = select(ReadingRow).where(ReadingRow.configuration_slug.in_(configuration_slugs))
    return list(session.scalars(query.order_by(ReadingRow.id)))


def readings_with(session: Session, modifier_slug: str) -> list[ReadingRow]:
    """Readings with a modifier on."""
    return list(
        session.scalars(select(ReadingRow).where(ReadingRow.modifier_slug == modifier_slug).order_by(ReadingRow.id))
    )


def column_map(session: Session, person_id: int, signature: str) -> list[str] | None:
    """What this person said last time of a table headed so."""
    row = session.get(ColumnMapRow, (person_id, signature[:190]))
    return list(row.uses) if row else None


def keep_column_map(session: Session, person_id: int, signature: str, uses: list[str]) -> None:
    """Remember it."""
    session.merge(ColumnMapRow(person_id=person_id, signature=signature[:190], uses=uses))
