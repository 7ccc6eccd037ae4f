"""The whole bench, or some of it, out as one file; and such a file taken in."""

import hashlib
from dataclasses import dataclass, fields
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.unit import Unit
from iron_bucket.core.errors import BadValue
from iron_bucket.desk.bench.changes import record_bench
from iron_bucket.desk.bench.edit import add_piece, change_piece
from iron_bucket.desk.bench.shelf import reading_row_of, shelf_in
from iron_bucket.desk.bench.spectra import figures_of
from iron_bucket.desk.counted import Tell, counted, to_nobody
from iron_bucket.desk.history import Touch
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.gear_json import BenchFile, NamedSpectrum, read_bench_file
from iron_bucket.formats.gear_rows import GEAR_KINDS
from iron_bucket.formats.reading_rows import reading_of, reading_row
from iron_bucket.formats.spectrum import spectrum_from_row, spectrum_row
from iron_bucket.store.bench import GearRow, all_gear
from iron_bucket.store.history import row_state
from iron_bucket.store.readings import all_readings
from iron_bucket.store.spectra import SpectrumRow, all_spectra


@one_transaction
def bench_file(session: Session, slugs: frozenset[str] | None = None) -> BenchFile:
    """Everything that is stated on the bench, with the readings that count and the spectra.

    ``slugs``: some pieces only; heads take along their configurations and units, readings what they name.
    """
    whole = whole_bench(session)
    if slugs is None:
        return whole
    gear, readings, spectra = whole.gear, whole.readings, whole.spectra
    of_heads: tuple[Configuration | Unit, ...] = (*gear.configurations, *gear.units)
    owned = {each.slug for each in of_heads if each.head_slug in slugs}
    readings = tuple(each for each in readings if each.configuration_slug in owned or each.modifier_slug in slugs)
    named = {
        slug
        for each in readings
        for slug in (each.configuration_slug, each.modifier_slug, each.frame_slug, each.unit_slug)
    }
    heads = {each.head_slug for each in gear.configurations if each.slug in named}
    wanted = slugs | owned | named | heads
    return BenchFile(
        gear=_only(gear, wanted),
        readings=readings,
        spectra=tuple(each for each in spectra if each.subject_slug in wanted),
    )


def whole_bench(session: Session) -> BenchFile:
    """All of it within an open transaction."""
    return BenchFile(
        gear=shelf_in(session).stated,
        readings=tuple(reading_of(Fields(row.item)) for row in all_readings(session) if not row.is_struck),
        spectra=tuple(
            NamedSpectrum(subject_slug=row.subject_slug, name=row.name, spectrum=spectrum_from_row(Fields(row.item)))
            for row in all_spectra(session)
        ),
    )


def _only(gear: Gear, wanted: frozenset[str] | set[str]) -> Gear:
    kept: dict[str, Any] = {
        each.name: tuple(item for item in getattr(gear, each.name) if item.slug in wanted)
        for each in fields(gear)
        if each.name in GEAR_KINDS
    }
    return Gear(**kept)


@dataclass(frozen=True, slots=True, kw_only=True)
class Taken:
    """How many pieces were new, changed, and the same as before; and readings and spectra that were new."""

    new: int
    changed: int
    same: int
    kept_ours: int
    readings: int
    spectra: int


@one_transaction
def import_bench(session: Session, person_id: int, text: str, *, theirs_win: bool, tell: Tell = to_nobody) -> Taken:
    """A bench file put on the shelf, in one change that can be undone.

    Pieces that are there already and differ are replaced where ``theirs_win``, else left as they are; readings and
    spectra that are there already are not taken twice. Raises: FormatError; nothing is taken then.
    """
    file = read_bench_file(text)
    known = {row.slug: row for row in all_gear(session)}
    touches: list[Touch] = []
    counts = {"new": 0, "changed": 0, "same": 0, "kept_ours": 0}
    pieces = [(kind, each, item) for kind, each in GEAR_KINDS.items() for item in getattr(file.gear, kind)]
    for kind, each, item in counted(pieces, tell):
        told, touch = _piece(session, known.get(item.slug), kind, each.write(item), theirs_win=theirs_win)
        counts[told] += 1
        touches += [touch] if touch else []
    readings = _readings(session, person_id, file, touches)
    spectra = _spectra(session, person_id, file, touches)
    taken = Taken(**counts, readings=readings, spectra=spectra)
    if touches:
        record_bench(
            session,
            person_id,
            str(touches[0].key),
            f"imported a bench file: {taken.new} new, {taken.changed} changed",
            touches,
        )
    return taken


def _piece(
    session: Session, row: GearRow | None, kind: str, item: dict[str, Any], *, theirs_win: bool
) -> tuple[str, Touch | None]:
    if row is None:
        return "new", add_piece(session, kind, item)
    if row.kind != kind:
        raise BadValue("slug", repr(row.slug), f"another one: here it is a {GEAR_KINDS[row.kind].noun}")
    if row.item == item:
        return "same", None
    return ("changed", change_piece(session, row, item)) if theirs_win else ("kept_ours", None)


def _readings(session: Session, person_id: int, file: BenchFile, touches: list[Touch]) -> int:
    def mark(row: dict[str, Any]) -> str:
        return repr(sorted(row.items()))

    known = {mark(row.item) for row in all_readings(session)}
    rows = [reading_row_of(each, person_id) for each in file.readings if mark(reading_row(each)) not in known]
    session.add_all(rows)
    session.flush()
    touches += [Touch(table="readings", key=row.id, before=None, after=row_state(row)) for row in rows]
    return len(rows)


def _spectra(session: Session, person_id: int, file: BenchFile, touches: list[Touch]) -> int:
    def mark(subject_slug: str, item: dict[str, Any]) -> str:
        return f"{subject_slug} {item!r}"

    known = {mark(row.subject_slug, row.item) for row in all_spectra(session)}
    rows = []
    for each in file.spectra:
        item = spectrum_row(each.spectrum)
        this = mark(each.subject_slug, item)
        if this in known:
            continue
        known.add(this)
        rows.append(
            SpectrumRow(
                subject_slug=each.subject_slug,
                name=each.name[:120],
                item=item,
                figures=figures_of(each.spectrum),
                digest=hashlib.sha256(this.encode()).hexdigest(),
                person_id=person_id,
                made_at=now(),
            )
        )
    session.add_all(rows)
    session.flush()
    touches += [Touch(table="spectra", key=row.id, before=None, after=row_state(row)) for row in rows]
    return len(rows)
