"""Spectra taken in, with their figures, and given out again."""

import hashlib
from collections.abc import Iterable
from dataclasses import asdict, dataclass
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.core.bench.item import Item
from iron_bucket.core.colour.spectrum import Spectrum
from iron_bucket.core.colour.transmission import Transmission
from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.modifiers.kinds import Sheet
from iron_bucket.desk.bench.changes import record_bench
from iron_bucket.desk.bench.shelf import shelf_in
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.history import Touch
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.spectrum import read_spectrum, spectrum_from_row, spectrum_row
from iron_bucket.store.history import row_state
from iron_bucket.store.spectra import SpectrumRow, spectra_of, spectrum_by_digest


@dataclass(frozen=True, slots=True, kw_only=True)
class SpectrumView:
    """One spectrum with its figures.

    ``figures`` holds cct_k, duv, ra, r9, rf, rg, similarity and reference, or ``trouble`` alone.
    """

    spectrum_id: int
    subject_slug: str
    name: str
    spectrum: Spectrum
    figures: dict[str, Any]
    made_at: datetime


def spectra_in(session: Session, slugs: list[str]) -> tuple[SpectrumView, ...]:
    """The spectra of some pieces."""
    return tuple(_view(row) for row in spectra_of(session, slugs))


def _view(row: SpectrumRow) -> SpectrumView:
    return SpectrumView(
        spectrum_id=row.id,
        subject_slug=row.subject_slug,
        name=row.name,
        spectrum=spectrum_from_row(Fields(row.item)),
        figures=row.figures,
        made_at=row.made_at,
    )


def figures_of(spectrum: Spectrum) -> dict[str, Any]:
    """The figures as they are stored."""
    # Imported here because the colour library takes seconds and 130 MB: only a process that is given a spectrum pays
    # for it.
    from iron_bucket.core.colour.spectral_figures import spectral_figures  # noqa: PLC0415

    try:
        found = spectral_figures(spectrum)
    except NoAnswer as none:
        return {"trouble": str(none)}
    return asdict(found) | {"is_white": found.is_white}


@one_transaction
def load_spectra(session: Session, spectra: Iterable[tuple[str, str, bytes]]) -> None:
    """Spectra for a bench that was just loaded: subject, file name, bytes. No change is noted."""
    session.add_all(_row(subject, data, file_name, None) for subject, file_name, data in spectra)


def _row(subject_slug: str, data: bytes, file_name: str, person_id: int | None) -> SpectrumRow:
    spectrum = read_spectrum(data)
    return SpectrumRow(
        subject_slug=subject_slug,
        name=file_name[:120],
        item=spectrum_row(spectrum),
        figures=figures_of(spectrum),
        digest=hashlib.sha256(data).hexdigest(),
        person_id=person_id,
        made_at=now(),
    )


@one_transaction
def take_in_spectrum(session: Session, person_id: int, subject_slug: str, data: bytes, file_name: str) -> int:
    """Attach a spectrum to a configuration or a modifier; the same content twice is one. Gives its number.

    Of a sheet it is what that passes. Raises: FormatError, NotFound; BadValue for more than all of the light.
    """
    gear = shelf_in(session).stated
    subject = gear.find(Item, subject_slug)
    if subject is None:
        raise NotFound("there is no such piece on the bench")
    known = spectrum_by_digest(session, subject_slug, hashlib.sha256(data).hexdigest())
    if known is not None:
        return known.id
    row = _row(subject_slug, data, file_name, person_id)
    if isinstance(subject, Sheet):
        Transmission.of(spectrum_from_row(Fields(row.item)))
    session.add(row)
    session.flush()
    told_of = getattr(subject, "head_slug", subject_slug)
    touch = Touch(table="spectra", key=row.id, before=None, after=row_state(row))
    record_bench(session, person_id, told_of, f"imported the spectrum {file_name[:80]}", [touch])
    return row.id


@one_transaction
def open_spectrum(session: Session, spectrum_id: int) -> SpectrumView:
    """Raises: NotFound."""
    row = session.get(SpectrumRow, spectrum_id)
    if row is None:
        raise NotFound("there is no such spectrum")
    return _view(row)


@one_transaction
def take_off_spectrum(session: Session, person_id: int, spectrum_id: int) -> str:
    """Take a spectrum off; gives the slug of what it was on. Raises: NotFound."""
    row = session.get(SpectrumRow, spectrum_id)
    if row is None:
        raise NotFound("there is no such spectrum")
    touch = Touch(table="spectra", key=row.id, before=row_state(row), after=None)
    subject = shelf_in(session).stated.find(Item, row.subject_slug)
    record_bench(
        session, person_id, getattr(subject, "head_slug", row.subject_slug), f"removed the spectrum {row.name}", [touch]
    )
    session.delete(row)
    return row.subject_slug
