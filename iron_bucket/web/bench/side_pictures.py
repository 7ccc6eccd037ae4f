"""Side-by-side pictures: level against distance, and cross-sections at the work's distance, as places on paper.

Lines are told apart by a letter at their end and by their stroke, never by colour alone.
"""

import math
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.selection.side_by_side import CURVE_THROWS_M, SideBySide
from iron_bucket.web.bench.pictures import Tick

WIDTH, HEIGHT, FOOT, SIDE, TOP, END = 520.0, 300.0, 26.0, 58.0, 12.0, 22.0
LETTERS = "ABCD"
_THROW_TICKS_M = (0.5, 1.0, 2.0, 3.0, 5.0, 10.0, 20.0)
_LABEL_GAP = 13.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """One stack's line, its letter, and where the letter stands."""

    letter: str
    path: str
    label_y: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Lines:
    """A picture of several lines with its axes."""

    width: float
    height: float
    lines: tuple[Line, ...]
    along: tuple[Tick, ...]
    up: tuple[Tick, ...]
    label_x: float
    description: str


def _path(x: Array, y: Array) -> str:
    return "M" + "L".join(f"{a:.1f} {b:.1f}" for a, b in zip(x, y, strict=True))


def _apart(wanted: list[float]) -> list[float]:
    """Labels moved apart from the top down, in the order in which they lie."""
    order = sorted(range(len(wanted)), key=lambda place: wanted[place])
    placed = list(wanted)
    for above, below in pairwise(order):
        placed[below] = max(placed[below], placed[above] + _LABEL_GAP)
    over = max(placed[order[-1]] - (HEIGHT - FOOT), 0.0) if placed else 0.0
    return [place - over for place in placed]


def level_curves(sides: SideBySide, units: UnitSystem) -> Lines:
    """Level against distance, both scales logarithmic, so that the near-field bend shows."""
    levels = np.array([row.curve_lx for row in sides.rows])
    low, high = math.log2(float(levels.min())), math.log2(float(levels.max()))
    first, last = float(CURVE_THROWS_M[0]), float(CURVE_THROWS_M[-1])

    def across(throw_m: Array | float) -> Array:
        return np.asarray(SIDE + np.log(np.asarray(throw_m) / first) / math.log(last / first) * (WIDTH - SIDE - END))

    def up(level_lx: Array | float) -> Array:
        return np.asarray(TOP + (high - np.log2(level_lx)) / max(high - low, 1.0) * (HEIGHT - FOOT - TOP))

    ends = _apart([float(up(row.curve_lx[-1])) + 4.0 for row in sides.rows])
    tens = [10.0**power for power in range(-3, 8) if low <= math.log2(10.0**power) <= high]
    words = "; ".join(
        f"{letter}: {display.illuminance(row.level_lx, units)} at {display.length(sides.throw_m, units)}"
        for letter, row in zip(LETTERS, sides.rows, strict=False)
    )
    return Lines(
        width=WIDTH,
        height=HEIGHT,
        lines=tuple(
            Line(letter=letter, path=_path(across(CURVE_THROWS_M), up(row.curve_lx)), label_y=y)
            for letter, row, y in zip(LETTERS, sides.rows, ends, strict=False)
        ),
        along=tuple(Tick(at=float(across(each)), text=str(display.length(each, units))) for each in _THROW_TICKS_M),
        up=tuple(Tick(at=float(up(each)), text=str(display.illuminance(each, units))) for each in tens),
        label_x=WIDTH - END + 5.0,
        description=f"Level against distance at full output. {words}.",
    )


def section_curves(sides: SideBySide, units: UnitSystem) -> Lines:
    """Level across the subject at the work's distance, in stops under each one's own middle: who covers how far."""
    places = np.concatenate([-sides.places_m[:0:-1], sides.places_m])
    reach, deepest = float(sides.places_m[-1]), 4.0

    def across(place_m: Array | float) -> Array:
        return np.asarray(SIDE + (np.asarray(place_m) + reach) / (2.0 * reach) * (WIDTH - SIDE - END))

    def up(stops: Array | float) -> Array:
        return np.asarray(TOP - np.maximum(np.asarray(stops), -deepest) / deepest * (HEIGHT - FOOT - TOP))

    lines = []
    stops = [np.log2(np.maximum(row.section_lx, 1e-9) / row.section_lx[0]) for row in sides.rows]
    ends = _apart([float(up(each[-1])) + 4.0 for each in stops])
    for letter, each, y in zip(LETTERS, stops, ends, strict=False):
        lines.append(
            Line(letter=letter, path=_path(across(places), up(np.concatenate([each[:0:-1], each]))), label_y=y)
        )
    words = "; ".join(
        f"{letter} covers {display.length(row.coverage_m, units)} within a stop"
        for letter, row in zip(LETTERS, sides.rows, strict=False)
    )
    step = reach / 2.0
    return Lines(
        width=WIDTH,
        height=HEIGHT,
        lines=tuple(lines),
        along=tuple(
            Tick(at=float(across(place)), text=str(display.length(abs(place), units)))
            for place in (-reach, -step, 0.0, step, reach)
        ),
        up=tuple(Tick(at=float(up(-each)), text=display.stops(-float(each)).value) for each in range(5)),
        label_x=WIDTH - END + 5.0,
        description=f"Stops under the middle, across the subject at {display.length(sides.throw_m, units)}. {words}.",
    )
