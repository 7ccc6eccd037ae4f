"""Lines of equal light over a sheet, in whole stops, each with a place for its number."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np
from contourpy import contour_generator
from shapely.geometry import LineString

from iron_bucket.core.arrays import Array
from iron_bucket.core.setups.evaluate.field import Sheet
from iron_bucket.web.shared.pictures.plan import CM

#: Lines are smoothed by so many units, and shorter ones not drawn.
_SMOOTHED, _SHORTEST = 1.2, 40.0
_LOWEST, _HIGHEST = -6, 8
#: Where a number is tried along its line, in shares of it.
_TRIED = np.linspace(0.04, 0.96, 24)
#: A number's room in pixels, generous: a phone shows it larger.
_NUMBER_PX = np.array([19.0, 11.0])


@dataclass(frozen=True, slots=True, kw_only=True)
class Contour:
    """``stops`` from the exposure; ``x`` and ``y``: the middle of its number, None where there is no room for one."""

    stops: int
    path: str
    x: float | None
    y: float | None

    @property
    def number(self) -> str:
        """As it stands on the line."""
        return f"{self.stops:+d}".replace("-", "−") if self.stops else "key"


def contours(stops: Array, parts: Array, sheet: Sheet, taken: Array, u: float) -> tuple[Contour, ...]:
    """Of a field of stops over a sheet, in units from its top left corner. ``parts``: equal numbers where lines may
    run on, -1 where none are drawn; ``taken``: boxes (left, top, right, bottom) in pixels that numbers keep clear of;
    ``u``: units to a pixel. Shapes (rows, columns) twice, (N, 4).
    """
    x = (np.arange(sheet.columns) + 0.5) / sheet.columns * sheet.width_m * CM
    y = (np.arange(sheet.rows) + 0.5) / sheet.rows * sheet.height_m * CM
    every = [
        contour_generator(x, y, np.ma.masked_array(stops, parts != part)) for part in np.unique(parts) if part >= 0
    ]
    found, boxes = [], np.asarray(taken, dtype=float).reshape(-1, 4)
    for step in range(_LOWEST, _HIGHEST + 1):
        drawn = [each for lines in every for each in _smooth(lines.lines(float(step))) if each.length > _SHORTEST]
        if not drawn:
            continue
        spot = _spot(max(drawn, key=lambda each: each.length), boxes, u)
        if spot is not None:
            boxes = np.concatenate([boxes, np.concatenate([spot - _NUMBER_PX, spot + _NUMBER_PX])[None]])
        path = "".join("M" + "L".join(f"{x:.0f} {y:.0f}" for x, y in each.coords) for each in drawn)
        found.append(
            Contour(
                stops=step,
                path=path,
                x=None if spot is None else round(float(spot[0]) * u, 1),
                y=None if spot is None else round(float(spot[1]) * u, 1),
            )
        )
    return tuple(found)


def _smooth(lines: Iterable[Any]) -> Iterator[LineString]:
    for line in lines:
        if len(line) > 1:
            yield LineString(line).simplify(_SMOOTHED)


def _spot(line: LineString, boxes: Array, u: float) -> Array | None:
    """The first place on a line whose number meets nothing, in pixels. Shape (2,)."""
    for share in _TRIED:
        place = line.interpolate(float(share), normalized=True)
        spot = np.array([place.x, place.y]) / u
        low, high = spot - _NUMBER_PX, spot + _NUMBER_PX
        if not ((boxes[:, :2] < high) & (boxes[:, 2:] > low)).all(axis=1).any():
            return spot
    return None
