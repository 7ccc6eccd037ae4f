"""Where the cases of a place are laid out: in its areas for kit, out of frame, by the door, what is needed first in
front.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.bucket.load.cases import Box
from iron_bucket.core.places.place import KitArea
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.quantities.rounding import at_most
from iron_bucket.core.setups.plan.camera_view import in_view
from iron_bucket.core.setups.plan.setup import Setup

#: Between cases, so that lids open.
_GAP_M = 0.1
#: What is asked whether the camera sees it: a case is so high.
_SEEN_AT_M = 0.5


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class LaidBox:
    """``x_m``, ``y_m``: the corner nearest to the plan's origin."""

    box: Box
    x_m: float
    y_m: float
    width_m: float
    depth_m: float


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Layout:
    """``seen``: areas that a camera looks into, in which nothing is laid; ``crowded_out``: what found no room."""

    laid: tuple[LaidBox, ...]
    areas: tuple[KitArea, ...]
    seen: tuple[KitArea, ...]
    crowded_out: tuple[Box, ...]


def layout_of(boxes: Sequence[Box], surroundings: Surroundings, setups: Sequence[Setup]) -> Layout:
    """In rows, from the side of each area that is nearest to a door; areas that no camera sees, the nearest to a door
    first.
    """
    areas = surroundings.place.kit_areas
    seen = tuple(area for area in areas if any(_sees(setup, area, surroundings) for setup in setups))
    free = sorted((area for area in areas if area not in seen), key=lambda area: _to_a_door_m(area, surroundings))
    waiting, laid = sorted(boxes, key=lambda box: (box.first_min, box.label)), []
    for area in free:
        there, waiting = _rows(waiting, area)
        laid += there
    return Layout(laid=tuple(laid), areas=tuple(free), seen=seen, crowded_out=tuple(waiting))


def _corners_m(area: KitArea) -> np.ndarray:
    xs, ys = (area.x_m, area.x_m + area.width_m), (area.y_m, area.y_m + area.depth_m)
    return np.array([(x, y, _SEEN_AT_M) for x in xs for y in ys] + [(sum(xs) / 2, sum(ys) / 2, _SEEN_AT_M)])


def _sees(setup: Setup, area: KitArea, surroundings: Surroundings) -> bool:
    """Through a doorway into another room no camera is taken to see."""
    camera, corners_m = setup.camera, _corners_m(area)
    is_same_room = surroundings.room_at(camera.x_m, camera.y_m) == surroundings.room_at(*corners_m[-1, :2].tolist())
    return is_same_room and bool(in_view(camera, setup.look, corners_m).any())


def _to_a_door_m(area: KitArea, surroundings: Surroundings) -> float:
    middle = (area.x_m + area.width_m / 2.0, area.y_m + area.depth_m / 2.0)
    return min((math.dist(middle, door.middle) for door in surroundings.lead_ways.doorways), default=0.0)


def _rows(waiting: Sequence[Box], area: KitArea) -> tuple[list[LaidBox], list[Box]]:
    """As many as go in, lengthwise, row after row."""
    laid, left, x_m, y_m, row_m = [], [], area.x_m, area.y_m, 0.0
    end_x_m = area.x_m + area.width_m
    for box in waiting:
        long_m, wide_m = sorted(box.size_m[:2], reverse=True)
        if not at_most(x_m + long_m, end_x_m):
            x_m, y_m, row_m = area.x_m, y_m + row_m + _GAP_M, 0.0
        if not (at_most(x_m + long_m, end_x_m) and at_most(y_m + wide_m, area.y_m + area.depth_m)):
            left.append(box)
            continue
        laid.append(LaidBox(box=box, x_m=x_m, y_m=y_m, width_m=long_m, depth_m=wide_m))
        x_m, row_m = x_m + long_m + _GAP_M, max(row_m, wide_m)
    return laid, left
