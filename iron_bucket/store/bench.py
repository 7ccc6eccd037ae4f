"""Gear on the shelf: one row a piece, with its flat description as the gear files have it."""

from datetime import datetime
from typing import Any
from uuid import uuid4

from sqlalchemy import String, UniqueConstraint, func, select, text
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import LONGEST_LIST, TABLE_ARGS, Base
from iron_bucket.store.crews import OwnedByCrew, crew_of


class GearRow(OwnedByCrew, Base):
    """A head, a configuration, a modifier, a unit. ``kind`` is the name of its list; ``item`` its row; ``digest`` of
    an uploaded file.

    ``version`` counts every change; a form that saw an older one is told.
    """

    __tablename__ = "gear"
    __table_args__ = (UniqueConstraint("crew_id", "slug"), TABLE_ARGS)

    id: Mapped[int] = mapped_column(primary_key=True)
    kind: Mapped[str] = mapped_column(String(20), index=True)
    slug: Mapped[str] = mapped_column(String(120))
    item: Mapped[dict[str, Any]]
    digest: Mapped[str | None] = mapped_column(String(64), index=True)
    changed_at: Mapped[datetime]
    version: Mapped[int] = mapped_column(default=1, server_default="1")


class BenchStampRow(Base):
    """A row for each crew, by the crew's number. Its token is new after every change to the crew's bench, so that each
    process knows at one glance whether its shelf is still good.
    """

    __tablename__ = "bench_stamp"

    id: Mapped[int] = mapped_column(primary_key=True)
    token: Mapped[str] = mapped_column(String(32))


def all_gear(session: Session) -> list[GearRow]:
    """Every piece, by slug."""
    return list(session.scalars(select(GearRow).order_by(GearRow.slug)))


def gear_versions(session: Session) -> list[tuple[int, str]]:
    """Number of every piece, by slug, and a mark that changes with it: tells what has changed without reading it all.

    One long text and not a row each: the driver takes twenty times as long to hand over two thousand rows.
    """
    session.execute(text(f"SET SESSION group_concat_max_len = {LONGEST_LIST}"))
    query = "SELECT GROUP_CONCAT(CONCAT_WS(' ', id, version, changed_at) ORDER BY slug) FROM gear WHERE crew_id = :crew"
    found = session.scalar(text(query), {"crew": crew_of(session)}) or ""
    parts = (part.partition(" ") for part in found.split(",") if part)
    return [(int(number), mark) for number, _, mark in parts]


def gear_by_numbers(session: Session, numbers: list[int]) -> list[GearRow]:
    """Some pieces, in one query."""
    return list(session.scalars(select(GearRow).where(GearRow.id.in_(numbers)))) if numbers else []


def gear_count(session: Session) -> int:
    """How many pieces there are."""
    return session.scalar(select(func.count()).select_from(GearRow)) or 0


def bench_stamp(session: Session) -> str:
    """Another one whenever anything on the bench has changed; empty before the first time."""
    return session.scalar(select(BenchStampRow.token).where(BenchStampRow.id == crew_of(session))) or ""


def stamp_bench(session: Session) -> None:
    """Tell every process that the bench has changed, when this transaction commits."""
    mine = select(BenchStampRow).where(BenchStampRow.id == crew_of(session))
    row = session.scalars(mine.with_for_update()).one_or_none()
    if row is None:
        session.add(BenchStampRow(id=crew_of(session), token=uuid4().hex))
    else:
        row.token = uuid4().hex


def gear_by_slug(session: Session, slug: str, *, locked: bool = False) -> GearRow | None:
    """One piece. ``locked``: nobody else changes it meanwhile."""
    query = select(GearRow).where(GearRow.slug == slug)
    return session.scalars(query.with_for_update() if locked else query).one_or_none()


def configurations_of(session: Session, head_slug: str) -> list[GearRow]:
    """The configurations of a head, by slug."""
    of_head = func.json_value(GearRow.item, "$.head_slug") == head_slug
    return list(
        session.scalars(select(GearRow).where(GearRow.kind == "configurations", of_head).order_by(GearRow.slug))
    )


def digests_known(session: Session, digests: list[str]) -> dict[str, str]:
    """Head slugs of the configurations that came from files of those contents."""
    rows = session.scalars(select(GearRow).where(GearRow.digest.in_(digests)))
    return {str(row.digest): str(row.item["head_slug"]) for row in rows}


def all_slugs(session: Session) -> set[str]:
    """Every slug that is taken."""
    return set(session.scalars(select(GearRow.slug)))


def slugs_like(session: Session, slug: str) -> set[str]:
    """Slugs that begin so, to find a free one."""
    return set(session.scalars(select(GearRow.slug).where(GearRow.slug.startswith(slug, autoescape=True))))
