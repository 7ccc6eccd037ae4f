"""The boxes in the hold of a vehicle, from its front to its doors.

Own heuristics, stated: batteries go in last of all, so that they stand by the doors, and what is needed on a later day
first, where all goes in so. The largest, the heaviest and the longest first are tried, of each day and of all together,
and the best is kept: what leaves least behind, then what keeps the order of the days, then what reaches least far. Each
box goes to the foremost, then lowest corner that takes it; it stands on the floor or on what is sound, not lighter, and
under three quarters of it. A case may be turned, and never stands on its head. Libraries that pack in three dimensions
know nothing of fragile, heavy and first.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import product

import numpy as np

from iron_bucket.core.bench.vehicle import Vehicle
from iron_bucket.core.bucket.load.cases import Box

_HAIR = 1e-9
MINUTES_A_DAY = 24 * 60
#: So much of a box has to rest on something.
LEAST_HELD = 0.75
#: So many boxes are laid out in one hold; each more takes longer than the one before.
MOST_BOXES = 150


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class PlacedBox:
    """``x_m`` from the hold's front, ``y_m`` from its left side, ``z_m`` from its floor; sides along the same."""

    box: Box
    x_m: float
    y_m: float
    z_m: float
    length_m: float
    width_m: float
    height_m: float


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Hold:
    """One vehicle loaded; ``placed`` in the order that they go in; ``is_by_day``: what a later day needs first."""

    vehicle: Vehicle
    placed: tuple[PlacedBox, ...]
    is_by_day: bool = True

    @property
    def weight_kg(self) -> float:
        """Of all that is in it."""
        return sum(each.box.weight_kg for each in self.placed)

    @property
    def volume_share(self) -> float:
        """Of the hold."""
        length, width, height = self.vehicle.inner_m
        return sum(each.length_m * each.width_m * each.height_m for each in self.placed) / (length * width * height)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Loaded:
    """``left``: boxes that no hold takes, and why in words: those that passes need least of all."""

    holds: tuple[Hold, ...]
    left: tuple[tuple[Box, str], ...]

    @property
    def is_overloaded(self) -> bool:
        """Whether something has to stay."""
        return bool(self.left)


def loaded(boxes: Sequence[Box], vehicles: Sequence[Vehicle]) -> Loaded:
    """Into one vehicle after the other. Where not all of it goes, what is needed first is taken first."""
    waiting, holds = sorted(boxes, key=_need), []
    left: list[tuple[Box, str]] = []
    for vehicle in vehicles:
        taken, left = _within_payload(waiting, vehicle)
        hold, out = _stowed(taken, vehicle)
        left = [*left, *((box, "no room") for box in out)]
        holds.append(hold)
        waiting = [box for box, _ in left]
    if not vehicles:
        left = [(box, "no vehicle is chosen") for box in waiting]
    return Loaded(holds=tuple(holds), left=tuple(left))


def _need(box: Box) -> tuple[int, float, str]:
    return box.first_min, box.weight_kg, box.label


def _within_payload(boxes: Sequence[Box], vehicle: Vehicle) -> tuple[list[Box], list[tuple[Box, str]]]:
    taken: list[Box] = []
    left: list[tuple[Box, str]] = []
    weight_kg = 0.0
    for box in boxes:
        if weight_kg + box.weight_kg > vehicle.payload_kg + _HAIR:
            left.append((box, f"{weight_kg + box.weight_kg:.0f} kg with it, {vehicle.payload_kg:.0f} kg may be loaded"))
        elif len(taken) == MOST_BOXES:
            left.append((box, f"{len(boxes)} boxes; up to {MOST_BOXES} are laid out in a hold"))
        else:
            taken.append(box)
            weight_kg += box.weight_kg
    return taken, left


#: Which boxes go in first; the best of these orders is kept.
_ORDERS: tuple[Callable[[Box], float], ...] = (
    lambda box: -box.volume_m3,
    lambda box: -box.weight_kg,
    lambda box: -max(box.size_m),
)


def _stowed(boxes: Sequence[Box], vehicle: Vehicle) -> tuple[Hold, list[Box]]:
    """Gives those placed, and those that found no room."""
    best: tuple[tuple[float, ...], Hold, list[Box]] | None = None
    for is_by_day, order in product((True, False), _ORDERS):
        waiting = sorted(
            boxes, key=lambda box: (box.has_batteries, -_day(box) if is_by_day else 0, order(box), box.label)
        )
        stow = _Stow(vehicle)
        out = [box for box in waiting if not stow.put(box)]
        reach_m = max((each.x_m + each.length_m for each in stow.placed), default=0.0)
        rank = (sum(box.volume_m3 for box in out), not is_by_day, reach_m)
        if best is None or rank < best[0]:
            best = rank, Hold(vehicle=vehicle, placed=tuple(stow.placed), is_by_day=is_by_day), out
    return (best[1], best[2]) if best else (Hold(vehicle=vehicle, placed=()), [])


def _day(box: Box) -> int:
    """Of its first pass, counted on."""
    return box.first_min // MINUTES_A_DAY


class _Stow:
    """A hold while it is loaded: each box goes where three sides of what stands there meet, as far to the front and as
    low as it finds a place that bears it.
    """

    def __init__(self, vehicle: Vehicle) -> None:
        self.inner = vehicle.inner_m
        self.placed: list[PlacedBox] = []
        self.corners: list[tuple[float, float, float]] = [(0.0, 0.0, 0.0)]
        self.low = np.empty((0, 3))
        self.high = np.empty((0, 3))
        self.refused: dict[tuple[tuple[float, float, float], bool], float] = {}

    def put(self, box: Box) -> bool:
        """Whether it found a place. Where one of the same size and no heavier found none, it finds none either: a hold
        only gets fuller.
        """
        kind = (box.size_m, box.case is None)
        if self.refused.get(kind, np.inf) <= box.weight_kg:
            return False
        if self._found_place(box):
            return True
        self.refused[kind] = box.weight_kg
        return False

    def _found_place(self, box: Box) -> bool:
        corners = np.array(sorted(self.corners, key=lambda at: (at[0], at[2], at[1])))
        low = np.repeat(corners, len(_ways(box)), axis=0)
        high = low + np.tile(_ways(box), (len(corners), 1))
        able = (high <= np.array(self.inner) + _HAIR).all(axis=1)
        meets = (self.low < high[:, None] - _HAIR) & (self.high > low[:, None] + _HAIR)
        for at in np.flatnonzero(able & ~meets.all(axis=2).any(axis=1)):
            if self._bears(box, low[at], high[at]):
                self._stand(box, low[at], high[at])
                return True
        return False

    def _bears(self, box: Box, low: np.ndarray, high: np.ndarray) -> bool:
        """On the floor; else on what is sound and not lighter, and under most of it."""
        if low[2] <= _HAIR:
            return True
        across = np.minimum(self.high[:, :2], high[:2]) - np.maximum(self.low[:, :2], low[:2])
        is_below = (np.abs(self.high[:, 2] - low[2]) < _HAIR) & (across > _HAIR).all(axis=1)
        below = [each.box for each, is_one in zip(self.placed, is_below, strict=True) if is_one]
        if any(each.is_fragile or each.weight_kg < box.weight_kg - _HAIR for each in below):
            return False
        held_m2 = float(across[is_below].prod(axis=1).sum())
        return held_m2 >= LEAST_HELD * float((high - low)[:2].prod()) - _HAIR

    def _stand(self, box: Box, low: np.ndarray, high: np.ndarray) -> None:
        (x, y, z), (length, width, height) = low.tolist(), (high - low).tolist()
        self.placed.append(PlacedBox(box=box, x_m=x, y_m=y, z_m=z, length_m=length, width_m=width, height_m=height))
        self.low, self.high = np.vstack([self.low, low]), np.vstack([self.high, high])
        self.corners.remove((x, y, z))
        self.corners += [(x + length, y, z), (x, y + width, z), (x, y, z + height)]
        end = (x + length, y + width, z + height)
        self.corners = [at for at in self.corners if not _is_within(at, (x, y, z), end)]


def _is_within(at: tuple[float, ...], low: tuple[float, ...], high: tuple[float, ...]) -> bool:
    """Where something stands already nothing else can."""
    return all(start - _HAIR <= here < end - _HAIR for here, start, end in zip(at, low, high, strict=True))


def _ways(box: Box) -> list[tuple[float, float, float]]:
    """Along the hold, across it and up: a case is turned on the floor alone, a loose piece is laid on any side."""
    a, b, c = box.size_m
    ways = [(a, b, c), (b, a, c)]
    return ways if box.case else [*ways, (a, c, b), (c, a, b), (b, c, a), (c, b, a)]
