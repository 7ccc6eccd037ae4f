"""A whole bench, or some of it, as one JSON text, and back. The format is described in docs/gear-format.md."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import Any

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.colour.spectrum import Spectrum
from iron_bucket.core.errors import BadValue
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.gear_rows import GEAR_KINDS, item_of
from iron_bucket.formats.item_rows import Row
from iron_bucket.formats.json_text import parsed_json
from iron_bucket.formats.reading_rows import reading_of, reading_row
from iron_bucket.formats.spectrum import spectrum_from_row, spectrum_row

FORMAT = "iron-bucket gear"
#: 2 added units, readings and spectra; everything of 1 still reads.
VERSION, KNOWN_VERSIONS = 2, (1, 2)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class NamedSpectrum:
    """A spectrum and what it is of."""

    subject_slug: str
    name: str
    spectrum: Spectrum


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class BenchFile:
    """Gear as stated, with the readings and spectra that belong to it."""

    gear: Gear
    readings: tuple[Reading, ...] = ()
    spectra: tuple[NamedSpectrum, ...] = ()


def read_bench_file(text: str) -> BenchFile:
    """Gear, readings and spectra from JSON. Raises: FormatError that names the list, the entry and the value."""
    document = parsed_json(text, "gear file")
    try:
        return bench_file_of(document)
    except BadValue as bad:
        raise FormatError("gear file", None, bad) from bad


def bench_file_of(document: object) -> BenchFile:
    """The same from JSON that was parsed. Raises: BadValue, FormatError."""
    fields = Fields(document)  # type: ignore[arg-type]
    if fields.word("format", FORMAT) != FORMAT or fields.whole("version", VERSION) not in KNOWN_VERSIONS:
        raise BadValue("format", fields.word("format", FORMAT), f"{FORMAT!r}, version 1 or 2")
    lists: dict[str, Any] = {
        kind: _entries(fields, kind, each.noun, partial(item_of, kind)) for kind, each in GEAR_KINDS.items()
    }
    readings = _entries(fields, "readings", "reading", _reading)
    spectra = _entries(fields, "spectra", "spectrum", _spectrum)
    fields.done()
    gear = Gear(**lists)
    _belong(gear, readings, spectra)
    return BenchFile(gear=gear, readings=readings, spectra=spectra)


def read_gear(text: str) -> Gear:
    """The gear alone, as stated. Raises: FormatError."""
    return read_bench_file(text).gear


def _entries(fields: Fields, kind: str, noun: str, read: Callable[[Any], Any]) -> tuple[Any, ...]:
    entries = []
    for place, entry in enumerate(fields.entries(kind), start=1):
        try:
            entries.append(read(entry))
        except BadValue as bad:
            raise FormatError("gear file", None, f"{noun} {place} of {kind}: {bad}") from bad
    return tuple(entries)


def _reading(entry: Any) -> Reading:
    fields = Fields(entry)
    reading = reading_of(fields)
    fields.done()
    return reading


def _spectrum(entry: Any) -> NamedSpectrum:
    fields = Fields(entry)
    named = NamedSpectrum(
        subject_slug=fields.word("subject_slug"), name=fields.word("name"), spectrum=spectrum_from_row(fields)
    )
    fields.done()
    return named


def _belong(gear: Gear, readings: tuple[Reading, ...], spectra: tuple[NamedSpectrum, ...]) -> None:
    """Whether everything that readings and spectra name is in the same file. Raises: BadValue."""
    slugs = {item.slug for item in gear.items()} | {unit.slug for unit in gear.units} | {""}
    configurations = {each.slug for each in gear.configurations}
    for reading in readings:
        if reading.configuration_slug not in configurations:
            raise BadValue("configuration_slug", repr(reading.configuration_slug), "a configuration of the same file")
    named = [
        *((each.modifier_slug, each.frame_slug, each.unit_slug) for each in readings),
        *((each.subject_slug,) for each in spectra),
    ]
    for slug in (each for group in named for each in group):
        if slug not in slugs:
            raise BadValue("slug", repr(slug), "a piece of the same file")


def bench_json(bench: BenchFile) -> Row:
    """A JSON object that ``read_bench_file`` reads back without loss. Lists with nothing in them are left out."""
    lists = {kind: [each.write(item) for item in getattr(bench.gear, kind)] for kind, each in GEAR_KINDS.items()}
    lists["readings"] = [reading_row(reading) for reading in bench.readings]
    lists["spectra"] = [
        {"subject_slug": each.subject_slug, "name": each.name, **spectrum_row(each.spectrum)} for each in bench.spectra
    ]
    return {"format": FORMAT, "version": VERSION, **{kind: rows for kind, rows in lists.items() if rows}}


def gear_json(gear: Gear) -> Row:
    """Gear alone as a JSON object."""
    return bench_json(BenchFile(gear=gear))
