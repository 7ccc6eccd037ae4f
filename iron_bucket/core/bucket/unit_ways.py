"""The way of each unit of a thing over the days: where it stands, on what, from when to when."""

from collections.abc import Sequence
from dataclasses import dataclass

from iron_bucket.core.bucket.kit_pass import KitPass
from iron_bucket.core.bucket.need import Need


@dataclass(frozen=True, slots=True, kw_only=True)
class UnitStop:
    """One unit in one pass."""

    of: KitPass
    need: Need


@dataclass(frozen=True, slots=True, kw_only=True)
class UnitWay:
    """``number`` from 1; ``stops`` in their order."""

    number: int
    stops: tuple[UnitStop, ...]


def unit_ways(everywhere: Sequence[tuple[KitPass, Need]]) -> tuple[UnitWay, ...]:
    """What is the same piece keeps its unit as long as that is free; else the first that is takes it. Interval by
    interval in the order of their beginning, so that no more units are taken than are out at one time.
    """
    free_from: list[int] = []
    stops: list[list[UnitStop]] = []
    last: dict[tuple[int, str, str, int], int] = {}
    for each, need in sorted(everywhere, key=lambda pair: (pair[0].start_min, pair[0].setup_id, pair[1].holder)):
        for piece in range(need.pieces):
            key = each.chain, need.holder, need.rule, piece
            unit = last.get(key, -1)
            is_same = unit >= 0 and bool(stops[unit]) and _key(stops[unit][-1]) == key[:3]
            if not (is_same or (unit >= 0 and free_from[unit] <= each.start_min)):
                unit = next((at for at, free in enumerate(free_from) if free <= each.start_min), -1)
            if unit < 0:
                unit = len(free_from)
                free_from.append(0)
                stops.append([])
            free_from[unit] = max(free_from[unit], each.end_min)
            stops[unit].append(UnitStop(of=each, need=need))
            last[key] = unit
    return tuple(UnitWay(number=at + 1, stops=tuple(several)) for at, several in enumerate(stops))


def _key(stop: UnitStop) -> tuple[int, str, str]:
    return stop.of.chain, stop.need.holder, stop.need.rule
