"""Gear on the shelf: one row a piece, with its flat description as the gear files have it."""

from datetime import datetime
from typing import Any

from sqlalchemy import String, func, select
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import Base


class GearRow(Base):
    """A head, a configuration or a modifier. ``kind`` is the name of its list; ``item`` its row; ``digest`` of an uploaded file."""

    __tablename__ = "gear"

    id: Mapped[int] = mapped_column(primary_key=True)
    kind: Mapped[str] = mapped_column(String(20), index=True)
    slug: Mapped[str] = mapped_column(String(120), unique=True)
    item: Mapped[dict[str, Any]]
    digest: Mapped[str | None] = mapped_column(String(64), index=True)
    changed_at: Mapped[datetime]


def all_gear(session: Session) -> list[GearRow]:
    """Every piece, by slug."""
    return list(session.scalars(select(GearRow).order_by(GearRow.slug)))


def gear_stamp(session: Session) -> tuple[int, int, str]:
    """Changes whenever any piece does: how many, the newest, and when the last was touched."""
    count, newest, touched = session.execute(
        select(func.count(), func.max(GearRow.id), func.max(GearRow.changed_at))
    ).one()
    return int(count or 0), int(newest or 0), str(touched)


def gear_by_digest(session: Session, digest: str) -> GearRow | None:
    """The configuration that came from a file of that content."""
    return session.scalars(select(GearRow).where(GearRow.digest == digest).limit(1)).one_or_none()


def slugs_like(session: Session, slug: str) -> set[str]:
    """Slugs that begin so, to find a free one."""
    return set(session.scalars(select(GearRow.slug).where(GearRow.slug.startswith(slug, autoescape=True))))
