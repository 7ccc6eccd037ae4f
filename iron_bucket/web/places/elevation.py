"""A place from below its plan, to the same scale: ceilings, panes and house lamps at their heights over the same x."""

from dataclasses import dataclass

from iron_bucket.core.places.place import OpeningKind
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.scene.polygon_room import CEILING
from iron_bucket.web.shared.pictures.plan import CM, Paper

_ABOVE_M, _BELOW_M, _OUTSIDE_M = 0.4, 0.25, 3.0


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnHeight:
    """A rectangle seen from the front: a room, or a pane in one of its walls."""

    left: float
    top: float
    width: float
    height: float
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnLamp:
    """A house lamp at its height."""

    x: float
    y: float
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Elevation:
    """All of it, in centimetres."""

    width: float
    height: float
    floor_y: float
    per_px: float
    rooms: tuple[DrawnHeight, ...]
    panes: tuple[DrawnHeight, ...]
    lamps: tuple[DrawnLamp, ...]


def elevation(surroundings: Surroundings, paper: Paper, units: UnitSystem) -> Elevation:
    """Drawn over the width of a sheet."""
    place = surroundings.place
    top_m = (
        max([room.height_m for room in place.rooms] + [lamp.z_m for lamp in place.house_lamps] + [_OUTSIDE_M])
        + _ABOVE_M
    )
    rooms, panes = [], []
    for shape, room in zip(surroundings.rooms, place.rooms, strict=True):
        left, right = float(shape.corners_m[:, 0].min()), float(shape.corners_m[:, 0].max())
        rooms.append(
            _rectangle(paper, top_m, left, right, 0.0, room.height_m, str(display.length(room.height_m, units)))
        )
        for opening, each in zip(shape.openings, room.openings, strict=False):
            if each.wall == CEILING:
                continue
            half = abs(float(opening.panel.side_x[0])) * opening.panel.width_m / 2.0
            x = float(opening.panel.centre_m[0])
            word = each.name if each.kind is OpeningKind.WINDOW else f"{each.name}, doorway"
            panes.append(_rectangle(paper, top_m, x - half, x + half, each.sill_m, each.sill_m + each.height_m, word))
    lamps = tuple(
        DrawnLamp(
            x=paper.at(each.x_m, 0.0)[0],
            y=round((top_m - each.z_m) * CM, 1),
            words=f"{each.name} {display.length(each.z_m, units)}",
        )
        for each in place.house_lamps
    )
    return Elevation(
        width=round(paper.width_m * CM, 1),
        height=round((top_m + _BELOW_M) * CM, 1),
        floor_y=round(top_m * CM, 1),
        per_px=paper.per_px,
        rooms=tuple(rooms),
        panes=tuple(panes),
        lamps=lamps,
    )


def _rectangle(
    paper: Paper, top_m: float, left: float, right: float, low: float, high: float, words: str
) -> DrawnHeight:
    x = paper.at(left, 0.0)[0]
    return DrawnHeight(
        left=x,
        top=round((top_m - high) * CM, 1),
        width=round((right - left) * CM, 1),
        height=round((high - low) * CM, 1),
        words=words,
    )
