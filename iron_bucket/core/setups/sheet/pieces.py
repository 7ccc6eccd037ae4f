"""The pieces of a set-up: everything that has to be brought for it, down to the bags on its stands.

Weights, amps, prices, buckets and sheets all read this one list.
"""

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property
from typing import NamedTuple

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.grip import Grip, grip_of_flat, grip_of_head
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bench.stand import Stand
from iron_bucket.core.bucket.entry import Entry, FedFrom
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.kinds import Board, ScrimSchool
from iron_bucket.core.setups.plan.setup import PlacedFrame, PlacedLamp, Setup
from iron_bucket.core.setups.scene.build_scene import frame_parts
from iron_bucket.core.setups.scene.fixture import fixture_of

#: A configuration that weighs less is how the head is set, not something that can be left behind.
LIGHTEST_OPTIC_KG = 0.1


#: What counts as the same thing: its slug, and of a cloth its area.
Sort = tuple[str, float]


class Drawing(NamedTuple):
    """An entry beside what it draws, computed once."""

    mains_w: float
    level: float
    entry: Entry

    def rank(self) -> tuple[float, float]:
        """Which of two a circuit must rather bear."""
        return self.mains_w, self.level


@dataclass(frozen=True, kw_only=True)
class SetupPieces:
    """``entries``: each piece once, with a quantity of 1.

    ``left_out``: placed things that the bench does not hold, and why, in words.
    """

    setup_name: str
    entries: tuple[Entry, ...]
    left_out: tuple[str, ...]

    @property
    def numbered(self) -> tuple[Entry, ...]:
        """The entries told apart by their numbers."""
        return tuple(replace(entry, entry_id=-1 - at) for at, entry in enumerate(self.entries))

    @cached_property
    def by_sort(self) -> dict[Sort, list[Drawing]]:
        """Of each sort all entries with what they draw, the one that draws most first."""
        found: dict[Sort, list[Drawing]] = defaultdict(list)
        for sort, entry in sorts_of(self.entries):
            found[sort].append(Drawing(entry.mains_w, entry.level, entry))
        return {sort: sorted(each, key=Drawing.rank, reverse=True) for sort, each in found.items()}


def pieces_of(setup: Setup, gear: Gear, school: ScrimSchool) -> SetupPieces:
    """Lamps with what they wear and are fed from, frames with cloths, boards, and what they all stand on."""
    entries: list[Entry] = []
    left_out: list[str] = []
    things: tuple[PlacedLamp | PlacedFrame, ...] = (*setup.lamps, *setup.frames)
    for placed in things:
        try:
            if isinstance(placed, PlacedLamp):
                entries += _of_lamp(placed, gear, school)
            else:
                entries += _of_frame(placed, gear)
        except BadValue as bad:
            left_out.append(f"{placed.name} in {setup.name}: {bad}")
    return SetupPieces(setup_name=setup.name, entries=tuple(entries), left_out=tuple(left_out))


def _of_lamp(placed: PlacedLamp, gear: Gear, school: ScrimSchool) -> list[Entry]:
    fixture = fixture_of(placed, gear, school)
    battery = gear.find(BatteryKind, placed.feed)
    head = piece_entry(
        "heads",
        fixture.head,
        level=fixture.level(placed),
        fed_from=FedFrom.BATTERY if battery else FedFrom.MAINS,
        setting=fixture.configuration.name,
    )
    found = [head]
    if fixture.configuration.weight_kg >= LIGHTEST_OPTIC_KG:
        found.append(piece_entry("configurations", fixture.configuration))
    found += [piece_entry("sheets", sheet) for sheet in fixture.sheets]
    found += [piece_entry("faces", fixture.face)] if fixture.face else []
    found += [piece_entry("grids", fixture.grid)] if fixture.grid else []
    found += _standing(
        grip_of_head(gear, payload_kg=fixture.payload_kg, spigot_mm=fixture.head.spigot_mm, height_m=placed.z_m)
    )
    if battery:
        plate = fixture.head.plate_for(battery.mount)
        found += [piece_entry("batteries", battery)] * (plate.plates if plate else 1)
    return found


def _of_frame(placed: PlacedFrame, gear: Gear) -> list[Entry]:
    parts = frame_parts(placed, gear)
    found = _standing(grip_of_flat(gear, parts if isinstance(parts, Board) else parts[0], placed.z_m))
    if isinstance(parts, Board):
        return [*found, piece_entry("boards", parts)]
    frame, cloth = parts
    return [*found, piece_entry("frames", frame), piece_entry("cloths", cloth, area_m2=frame.width_m * frame.height_m)]


def _standing(grip: Grip) -> list[Entry]:
    return [piece_entry("stands" if isinstance(each, Stand) else "bags", each) for each in grip]


def piece_entry(
    kind: str,
    item: Item,
    *,
    level: float = 1.0,
    fed_from: FedFrom = FedFrom.MAINS,
    area_m2: float = 1.0,
    setting: str = "",
) -> Entry:
    """One piece of gear that has to be brought."""
    return Entry(
        entry_id=-1,
        parent_id=None,
        kind=kind,
        item=item,
        quantity=1,
        level=level,
        fed_from=fed_from,
        area_m2=area_m2,
        setting=setting,
    )


def sorts_of(entries: tuple[Entry, ...]) -> Iterator[tuple[Sort, Entry]]:
    """Each entry with what counts as the same thing: a cloth in another size is another."""
    for entry in entries:
        yield (entry.item.slug, round(entry.area_m2, 3)), entry
