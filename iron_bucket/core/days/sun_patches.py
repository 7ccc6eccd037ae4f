"""Where the sun falls through each window: on the floor, on any height above it, and on the walls."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import shapely

from iron_bucket.core.arrays import Array
from iron_bucket.core.daylight.sun import SunPosition
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.places.bearing import along_bearing
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.scene.polygon_room import Opening, PolygonRoom

#: A lower sun throws a patch no longer than any room.
_LOWEST_DEG = 0.3
_SMALLEST_M2 = 1e-4
#: Walls stand, ceilings lie.
_UPRIGHT = 0.5


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SunPatch:
    """What comes through one opening onto a level plane ``height_m`` over the floor, as it lies on the plan:
    ``outline_m`` (N, 2), counter-clockwise.
    """

    opening_id: str
    name: str
    height_m: float
    outline_m: Array

    @property
    def area_m2(self) -> float:
        """How large."""
        return float(shapely.Polygon(self.outline_m).area)

    def holds(self, x_m: float, y_m: float) -> bool:
        """Whether a place on the plan lies in it."""
        return bool(shapely.contains_xy(shapely.Polygon(self.outline_m), x_m, y_m))


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class WallPatch:
    """The same on a wall: ``outline_m`` (N, 2) along it from its first corner, and up; ``ends_m`` (2, 2): on the
    plan.
    """

    opening_id: str
    name: str
    room_id: str
    wall: int
    outline_m: Array
    ends_m: Array


def sun_patches(around: Surroundings, sun: SunPosition, height_m: float = 0.0) -> tuple[SunPatch, ...]:
    """Through every opening that the sun reaches, on a level plane, but for what other walls of the building shade.
    Covers before a pane, that scatter the sun, and other houses than the horizon's are left out.
    """
    towards = _towards(around, sun)
    if towards is None:
        return ()
    found, shadow = [], _shadow(around, towards, height_m)
    for shape, pane, opening_id, name in sunny_panes(around, towards):
        corners = _above(_corners(pane.panel), height_m)
        if len(corners) < 3:
            continue
        fallen = _thrown(corners, towards, height_m).intersection(shape.outline)
        for outline in _parts(fallen.difference(shadow)):
            found.append(SunPatch(opening_id=opening_id, name=name, height_m=height_m, outline_m=outline))
    return tuple(found)


def _thrown(corners: Array, towards: Array, height_m: float) -> shapely.Geometry:
    """Where the sun throws an outline onto a level plane. Shape (N, 3)."""
    return shapely.Polygon(corners[:, :2] - towards[:2] * ((corners[:, 2:] - height_m) / towards[2])).buffer(0.0)


def _shadow(around: Surroundings, towards: Array, height_m: float) -> shapely.Geometry:
    """What walls with their openings left out, of all rooms, keep from the sun on a level plane."""
    found = []
    for wall in around.walls:
        corners = _above(_corners(wall.panel), height_m)
        if len(corners) < 3 or wall.passes or abs(wall.panel.normal[2]) > _UPRIGHT:
            continue
        holes = (_above(_corners(hole.panel), height_m) for hole in wall.holes if hole.passes)
        open_ones = shapely.union_all([_thrown(each, towards, height_m) for each in holes if len(each) >= 3])
        found.append(_thrown(corners, towards, height_m).difference(open_ones))
    return shapely.union_all(found)


def wall_patches(around: Surroundings, sun: SunPosition) -> tuple[WallPatch, ...]:
    """The same on the walls of each room, shadows of the building's own corners left out."""
    towards = _towards(around, sun)
    if towards is None:
        return ()
    return tuple(each for pane in sunny_panes(around, towards) for each in _on_walls(around, towards, *pane))


def _on_walls(
    around: Surroundings, towards: Array, shape: PolygonRoom, pane: Opening, opening_id: str, name: str
) -> Iterator[WallPatch]:
    room = around.place.rooms[around.rooms.index(shape)]
    for number in range(len(shape.corners_m)):
        wall = shape.wall(number)
        facing = float(towards @ wall.normal)
        if number == pane.surface or facing <= 1e-6:
            continue
        corners = _corners(pane.panel)
        off = (corners - wall.centre_m) @ wall.normal
        reached = corners - towards * (off / facing)[:, None]
        along = wall.width_m / 2.0 - (reached - wall.centre_m) @ wall.side_x
        fallen = shapely.Polygon(np.column_stack([along, reached[:, 2]])).buffer(0.0)
        whole = shapely.box(0.0, 0.0, wall.width_m, shape.height_m)
        for outline in _parts(fallen.intersection(whole)):
            first = shape.corners_m[number]
            ends = np.array([outline[:, 0].min(), outline[:, 0].max()])
            yield WallPatch(
                opening_id=opening_id,
                name=name,
                room_id=room.room_id,
                wall=number,
                outline_m=outline,
                ends_m=first - ends[:, None] * wall.side_x[:2],
            )


def _towards(around: Surroundings, sun: SunPosition) -> Array | None:
    """Where the sun is seen; None where nobody sees it."""
    if sun.altitude_deg < _LOWEST_DEG or around.is_hidden(sun):
        return None
    return along_bearing(around.sun_bearing_deg(sun), sun.altitude_deg)


def sunny_panes(around: Surroundings, towards: Array) -> Iterator[tuple[PolygonRoom, Opening, str, str]]:
    """Openings to the outside that the sun stands before."""
    for shape, room in zip(around.rooms, around.place.rooms, strict=True):
        for pane, each in zip(shape.openings, room.openings, strict=False):
            behind = pane.panel.centre_m - 0.1 * pane.panel.normal
            leads_inside = any(bool(other.holds(behind[None])[0]) for other in around.rooms if other is not shape)
            if pane.passes > 0.0 and not leads_inside and float(towards @ pane.panel.normal) < -1e-6:
                yield shape, pane, each.opening_id, each.name


def _corners(panel: Panel) -> Array:
    """Shape (4, 3)."""
    steps = np.array([[-0.5, -0.5], [0.5, -0.5], [0.5, 0.5], [-0.5, 0.5]]) * (panel.width_m, panel.height_m)
    return np.asarray(panel.centre_m + steps @ np.stack([panel.side_x, panel.side_y]))


def _above(corners: Array, height_m: float) -> Array:
    """What of a pane lies above a height: an upright one by its corners, cut level. Shape (N, 3)."""
    is_above = corners[:, 2] > height_m
    if not is_above.any():
        return corners[is_above]
    return np.column_stack([corners[:, :2], np.maximum(corners[:, 2], height_m)])


def _parts(found: shapely.Geometry) -> Iterator[Array]:
    """Outlines of what is large enough to be seen."""
    for part in getattr(found, "geoms", [found]):
        if isinstance(part, shapely.Polygon) and part.area > _SMALLEST_M2:
            yield np.array(shapely.geometry.polygon.orient(part).exterior.coords)[:-1]
