"""The shelf: all gear with its best figures, kept ready for picking."""

import threading
from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.bench.search import SearchIndex, search_index
from iron_bucket.core.colour.spectrum import Spectrum
from iron_bucket.core.errors import BadValue
from iron_bucket.core.selection.measured_gear import MeasuredGear, measured_gear
from iron_bucket.core.selection.packing import PackedBench, pack
from iron_bucket.desk.bounded_cache import BoundedCache
from iron_bucket.desk.transaction import database_address, now, one_transaction
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.gear_rows import GEAR_KINDS, item_of
from iron_bucket.formats.reading_rows import reading_of, reading_row
from iron_bucket.formats.spectrum import spectrum_from_row
from iron_bucket.store.bench import GearRow, bench_stamp, gear_by_numbers, gear_count, gear_versions, stamp_bench
from iron_bucket.store.crews import crew_of
from iron_bucket.store.readings import ReadingRow, counted_readings, readings_by_numbers
from iron_bucket.store.spectra import all_spectra


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class ShelfPiece:
    """A row of the store once it was read; ``item`` says why where it cannot be."""

    kind: str
    name: str
    item: object


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Shelf:
    """``stated``: gear as typed, uploaded or imported; ``measured``: the same with every reading applied; ``in_use``:
    of that, what is not
    retired; ``packed``: the same laid out for picking. ``unreadable``: pieces that are left out, and why.
    """

    stamp: str
    stated: Gear
    measured: MeasuredGear
    in_use: Gear
    packed: PackedBench
    unreadable: tuple[str, ...] = ()
    readings: dict[tuple[int, str], Reading] = field(default_factory=dict)
    pieces: dict[tuple[int, str], ShelfPiece] = field(default_factory=dict)
    _indexes: dict[str, SearchIndex] = field(default_factory=dict)

    def index(self, kind: str) -> SearchIndex:
        """One kind of gear, ready to be searched; laid out when it is first asked for."""
        if kind not in self._indexes:
            self._indexes[kind] = search_index(getattr(self.gear, kind), self.gear)
        return self._indexes[kind]

    @property
    def gear(self) -> Gear:
        """Everything with its best figures, retired pieces too."""
        return self.measured.gear


#: The newest of each crew in each database; one that is laid out while others wait is laid out once.
_SHELVES: BoundedCache[tuple[str, int], Shelf] = BoundedCache(8)
_LOCK = threading.Lock()


def shelf_in(session: Session) -> Shelf:
    """The shelf within an open transaction: read anew only where something on it has changed."""
    address, stamp = (database_address(session), crew_of(session)), bench_stamp(session)
    with _LOCK:
        kept = _SHELVES.get(address)
        if kept is None or kept.stamp != stamp:
            kept = _read(session, stamp, kept)
            _SHELVES.put(address, kept)
        return kept


def _read(session: Session, stamp: str, former: Shelf | None) -> Shelf:
    """Only pieces that have changed since the former shelf are read; of the others everything is at hand."""
    known = former.pieces if former else {}
    versions = gear_versions(session)
    news = {row.id: row for row in gear_by_numbers(session, [each[0] for each in versions if each not in known])}
    pieces = {
        each: known[each] if each in known else _piece(news[each[0]])
        for each in versions
        if each in known or each[0] in news
    }
    lists: dict[str, list[Any]] = {kind: [] for kind in GEAR_KINDS}
    unreadable = []
    for piece in pieces.values():
        if isinstance(piece.item, BadValue):
            unreadable.append(f"{piece.name}: {piece.item}")
        else:
            lists[piece.kind].append(piece.item)
    _drop_headless(lists, unreadable)
    stated = Gear(**{kind: tuple(items) for kind, items in lists.items()}, spectra=_spectra(session))
    readings = _readings(session, former.readings if former else {})
    measured = measured_gear(stated, readings.values())
    in_use = measured.gear.in_use()
    return Shelf(
        stamp=stamp,
        stated=stated,
        measured=measured,
        in_use=in_use,
        packed=pack(in_use),
        unreadable=tuple(unreadable),
        readings=readings,
        pieces=pieces,
    )


def _spectra(session: Session) -> dict[str, tuple[Spectrum, ...]]:
    found: dict[str, tuple[Spectrum, ...]] = {}
    for row in all_spectra(session):
        found[row.subject_slug] = (*found.get(row.subject_slug, ()), spectrum_from_row(Fields(row.item)))
    return found


def _readings(session: Session, at_hand: dict[tuple[int, str], Reading]) -> dict[tuple[int, str], Reading]:
    """Every reading that counts; only what is new is read."""
    wanted = counted_readings(session)
    news = {row.id: row for row in readings_by_numbers(session, [each[0] for each in wanted if each not in at_hand])}
    return {
        each: at_hand[each] if each in at_hand else reading_of(Fields(news[each[0]].item))
        for each in wanted
        if each in at_hand or each[0] in news
    }


def _piece(row: GearRow) -> ShelfPiece:
    """One from before a bound was narrower cannot be read: it must not take the bench away."""
    name = str(row.item.get("name", row.slug))
    try:
        return ShelfPiece(kind=row.kind, name=name, item=item_of(row.kind, row.item))
    except BadValue as bad:
        return ShelfPiece(kind=row.kind, name=name, item=bad)


def _drop_headless(lists: dict[str, list[Any]], unreadable: list[str]) -> None:
    """Configurations and units whose head cannot be read go with it."""
    heads = {head.slug for head in lists["heads"]}
    for kind in ("configurations", "units"):
        unreadable += [f"{each.slug}: its head cannot be read" for each in lists[kind] if each.head_slug not in heads]
        lists[kind] = [each for each in lists[kind] if each.head_slug in heads]


@one_transaction
def shelf(session: Session) -> Shelf:
    """The shelf."""
    return shelf_in(session)


@one_transaction
def load_gear(session: Session, gear: Gear, readings: Iterable[Reading] = ()) -> int:
    """Put gear and its readings on an empty shelf; gives how many pieces.

    On one that holds anything it does nothing.
    """
    if gear_count(session):
        return 0
    rows = [
        GearRow(kind=kind, slug=item.slug, item=each.write(item), changed_at=now())
        for kind, each in GEAR_KINDS.items()
        for item in getattr(gear, kind)
    ]
    session.add_all(rows)
    session.add_all(reading_row_of(reading, None) for reading in readings)
    stamp_bench(session)
    return len(rows)


def reading_row_of(reading: Reading, person_id: int | None) -> ReadingRow:
    """A reading as a new row of the store."""
    return ReadingRow(
        configuration_slug=reading.configuration_slug,
        modifier_slug=reading.modifier_slug,
        unit_slug=reading.unit_slug,
        item=reading_row(reading),
        person_id=person_id,
        is_struck=False,
        made_at=now(),
    )
