"""Spectra, each attached to a configuration or a modifier."""

from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKey, String, select
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import Base
from iron_bucket.store.crews import OwnedByCrew


class SpectrumRow(OwnedByCrew, Base):
    """One spectrum. ``figures`` were computed when it came in, because computing needs a library
    that is slow to load."""

    __tablename__ = "spectra"

    id: Mapped[int] = mapped_column(primary_key=True)
    subject_slug: Mapped[str] = mapped_column(String(120), index=True)
    name: Mapped[str] = mapped_column(String(120))
    item: Mapped[dict[str, Any]]
    figures: Mapped[dict[str, Any]]
    digest: Mapped[str] = mapped_column(String(64), index=True)
    person_id: Mapped[int | None] = mapped_column(ForeignKey("people.id"))
    made_at: Mapped[datetime]


def spectra_of(session: Session, subject_slugs: list[str]) -> list[SpectrumRow]:
    """Spectra of some subjects, newest last."""
    query = select(SpectrumRow).where(SpectrumRow.subject_slug.in_(subject_slugs))
    return list(session.scalars(query.order_by(SpectrumRow.id)))


def all_spectra(session: Session) -> list[SpectrumRow]:
    """Every spectrum."""
    return list(session.scalars(select(SpectrumRow).order_by(SpectrumRow.id)))


def spectrum_by_digest(session: Session, subject_slug: str, digest: str) -> SpectrumRow | None:
    """The same content on the same subject, if it is there."""
    query = select(SpectrumRow).where(SpectrumRow.subject_slug == subject_slug, SpectrumRow.digest == digest)
    return session.scalars(query.limit(1)).one_or_none()
