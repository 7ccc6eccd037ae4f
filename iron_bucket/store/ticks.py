"""What was ticked off a kit list, by whom, and the links that show the list to others."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKey, Index, String, or_, select
from sqlalchemy.dialects.mysql import insert
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import TABLE_ARGS, Base


class TickRow(Base):
    """One press, under the id that the phone gave it: sent twice it is there once in its job. ``count``: pieces more,
    or fewer where it is below 0; ``made_at`` by the phone, ``received_at`` by us.
    """

    __tablename__ = "ticks"
    __table_args__ = (Index("ix_ticks_job_id", "job_id", "received_at"), TABLE_ARGS)

    tick_id: Mapped[str] = mapped_column(String(36), primary_key=True)
    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id", ondelete="CASCADE"), primary_key=True)
    thing: Mapped[str] = mapped_column(String(160))
    stage: Mapped[str] = mapped_column(String(12))
    count: Mapped[int]
    trouble: Mapped[str] = mapped_column(String(12), default="")
    note: Mapped[str] = mapped_column(String(200), default="")
    person_id: Mapped[int] = mapped_column(ForeignKey("people.id"))
    made_at: Mapped[datetime]
    received_at: Mapped[datetime]


class KitShareRow(Base):
    """A link that shows a job's kit list to whoever has it, with or without prices, until it is taken back."""

    __tablename__ = "kit_shares"

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id", ondelete="CASCADE"), index=True)
    token: Mapped[str] = mapped_column(String(64), unique=True)
    has_prices: Mapped[bool]
    person_id: Mapped[int] = mapped_column(ForeignKey("people.id"))
    made_at: Mapped[datetime]
    revoked_at: Mapped[datetime | None]
    expires_at: Mapped[datetime | None]


def ticks_of(session: Session, job_id: int) -> list[TickRow]:
    """All of a job, in the order they came in."""
    query = select(TickRow).where(TickRow.job_id == job_id)
    return list(session.scalars(query.order_by(TickRow.received_at, TickRow.tick_id)))


def add_ticks(session: Session, rows: Sequence[TickRow]) -> None:
    """Those whose ids are not there; somebody may be writing one of them at the same moment."""
    columns = [column.name for column in TickRow.__table__.columns]
    for row in rows:
        values = {name: getattr(row, name) for name in columns}
        session.execute(insert(TickRow).values(values).on_duplicate_key_update(tick_id=values["tick_id"]))


def known_ticks(session: Session, job_id: int, tick_ids: Sequence[str]) -> set[str]:
    """Those of some ids that are there already."""
    query = select(TickRow.tick_id).where(TickRow.job_id == job_id, TickRow.tick_id.in_(tick_ids))
    return set(session.scalars(query))


def _is_open(at: datetime) -> tuple[Any, ...]:
    return KitShareRow.revoked_at.is_(None), or_(KitShareRow.expires_at.is_(None), KitShareRow.expires_at > at)


def standing_kit_share(session: Session, job_id: int, at: datetime, *, has_prices: bool) -> KitShareRow | None:
    """The link that is open at a time."""
    query = select(KitShareRow).where(KitShareRow.job_id == job_id, KitShareRow.has_prices.is_(has_prices))
    query = query.where(*_is_open(at))
    return session.scalars(query.order_by(KitShareRow.id.desc()).limit(1)).one_or_none()


def kit_share_by_token(session: Session, token: str, at: datetime) -> KitShareRow | None:
    """An open link; None for one that was taken back, is over, or never was."""
    query = select(KitShareRow).where(KitShareRow.token == token, *_is_open(at))
    return session.scalars(query).one_or_none()
