"""Gear that stands in set-ups, counted for the job without being put in twice.

Set-ups are lit one after the other, so a job needs of each thing as many as the set-up with most of them; what the bucket holds already is not counted again.
"""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from iron_bucket.core.bench.gear import Gear, require_item
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bucket.entry import LONGEST_PURPOSE, Entry, FedFrom
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.kinds import Board, ScrimSchool
from iron_bucket.core.setups.plan.setup import PlacedLamp, Setup
from iron_bucket.core.setups.scene.build_scene import frame_parts
from iron_bucket.core.setups.scene.fixture import fixture_of
from iron_bucket.core.setups.sheet.stands import stands_of_frame, stands_of_lamp

#: A configuration that weighs less is how the head is set, not something that can be left behind.
LIGHTEST_OPTIC_KG = 0.1


@dataclass(frozen=True, slots=True, kw_only=True)
class _Piece:
    """One thing as it is placed. ``sort``: what counts as the same thing: a cloth in another size is another."""

    kind: str
    item: Item
    setup: str
    level: float = 1.0
    fed_from: FedFrom = FedFrom.MAINS
    area_m2: float = 1.0
    setting: str = ""

    @property
    def sort(self) -> tuple[str, float]:
        return self.item.slug, round(self.area_m2, 3)


def placed_entries(
    setups: Iterable[Setup], gear: Gear, school: ScrimSchool, held_already: Sequence[Entry]
) -> tuple[Entry, ...]:
    """What set-ups hold beyond the bucket, as entries with numbers below 0. Gear that has left the bench is passed over."""
    most: dict[tuple[str, float], list[_Piece]] = {}
    where: dict[tuple[str, float], list[str]] = defaultdict(list)
    for setup in setups:
        found: dict[tuple[str, float], list[_Piece]] = defaultdict(list)
        for piece in _pieces(setup, gear, school):
            found[piece.sort].append(piece)
        for sort, pieces in found.items():
            where[sort].append(setup.name)
            if len(pieces) > len(most.get(sort, [])):
                most[sort] = sorted(pieces, key=lambda piece: -piece.level)
    there: dict[tuple[str, float], int] = defaultdict(int)
    for entry in held_already:
        there[entry.item.slug, round(entry.area_m2, 3)] += entry.quantity
    entries: list[Entry] = []
    for sort, pieces in most.items():
        left = pieces[there[sort] :]
        if not left:
            continue
        purpose = "placed in " + ", ".join(dict.fromkeys(where[sort]))
        first = left[0]
        entries += _joined(
            [
                Entry(
                    entry_id=-1,
                    parent_id=None,
                    kind=piece.kind,
                    item=first.item,
                    quantity=1,
                    purpose=purpose[:LONGEST_PURPOSE],
                    level=piece.level,
                    fed_from=piece.fed_from,
                    area_m2=piece.area_m2,
                    setting=piece.setting,
                )
                for piece in left
            ]
        )
    return tuple(replace(entry, entry_id=-1 - at) for at, entry in enumerate(entries))


def _joined(entries: list[Entry]) -> list[Entry]:
    """Those that are alike in one."""
    alike: dict[tuple[float, FedFrom, str], Entry] = {}
    for entry in entries:
        key = (entry.level, entry.fed_from, entry.setting)
        alike[key] = replace(alike[key], quantity=alike[key].quantity + 1) if key in alike else entry
    return list(alike.values())


def _pieces(setup: Setup, gear: Gear, school: ScrimSchool) -> Iterable[_Piece]:
    for lamp in setup.lamps:
        try:
            yield from _lamp_pieces(lamp, setup.name, gear, school)
        except BadValue:
            continue
    for frame in setup.frames:
        try:
            parts = frame_parts(frame, gear)
        except BadValue:
            continue
        for stand in stands_of_frame(parts, frame.z_m, gear):
            yield _Piece(kind="stands", item=stand, setup=setup.name)
        if isinstance(parts, Board):
            yield _Piece(kind="boards", item=parts, setup=setup.name)
        else:
            yield _Piece(kind="frames", item=parts[0], setup=setup.name)
            yield _Piece(kind="cloths", item=parts[1], setup=setup.name, area_m2=parts[0].width_m * parts[0].height_m)


def _lamp_pieces(lamp: PlacedLamp, setup: str, gear: Gear, school: ScrimSchool) -> Iterable[_Piece]:
    fixture = fixture_of(lamp, gear, school)
    battery = next((each for each in gear.batteries if each.slug == lamp.feed), None)
    yield _Piece(
        kind="heads",
        item=fixture.head,
        setup=setup,
        level=lamp.level,
        fed_from=FedFrom.BATTERY if battery else FedFrom.MAINS,
        setting=fixture.configuration.name,
    )
    if fixture.configuration.weight_kg >= LIGHTEST_OPTIC_KG:
        yield _Piece(kind="configurations", item=fixture.configuration, setup=setup)
    for sheet in fixture.sheets:
        yield _Piece(kind="sheets", item=sheet, setup=setup)
    if fixture.face:
        yield _Piece(kind="faces", item=fixture.face, setup=setup)
    if fixture.grid:
        yield _Piece(kind="grids", item=fixture.grid, setup=setup)
    for stand in stands_of_lamp(fixture, lamp.z_m, gear):
        yield _Piece(kind="stands", item=stand, setup=setup)
    if battery:
        plate = fixture.head.plate_for(battery.mount)
        for _ in range(plate.plates if plate else 1):
            yield _Piece(kind="batteries", item=require_item("battery", battery.slug, gear.batteries), setup=setup)
