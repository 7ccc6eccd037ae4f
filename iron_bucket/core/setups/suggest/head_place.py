"""Where a head for a mark would stand: in the room, under the ceiling, out of the picture, with nothing in its way."""

from dataclasses import dataclass

import numpy as np
from shapely import contains_xy

from iron_bucket.core.arrays import Array, units
from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.places.bearing import along_bearing, bearing_of, tilt_of
from iron_bucket.core.rigging.headroom import HALF_HEAD_M, highest_head_m
from iron_bucket.core.scene.blocking import passing
from iron_bucket.core.scene.scene import Mark
from iron_bucket.core.scene.skylight import Window
from iron_bucket.core.setups.plan.camera_view import camera_position, in_view
from iron_bucket.core.setups.scene.build_scene import BuiltScene

#: What is tried, the likeliest first in each: degrees off the way that the mark looks, to either side; degrees above
#: the mark; metres away.
_ASIDE_DEG = (0.0, 12.0, 25.0, 40.0, 55.0)
_ABOVE_DEG = (25.0, 35.0, 15.0, 45.0, 5.0, 60.0, -10.0, -25.0)
_AWAY_M = (2.0, 2.5, 1.6, 3.0, 1.3, 4.0, 1.0)
#: A step along one of these is as bad as so many along another.
_WORSE = np.array([0.5, 0.8, 0.6])
#: What looks so steeply is lit from every side alike: from that of the camera first, then round.
_UPRIGHT_DEG, _TOWARDS_CAMERA_DEG = 85.0, 180.0
_ROUND_DEG = (0.0, 30.0, 60.0, 90.0, 120.0, 150.0, 180.0)
_OVER_DEG = (70.0, 60.0, 50.0, 80.0, 40.0, 30.0)
#: A stand keeps so far off walls, and off what stands there already.
_OFF_WALL_M, _APART_M = 0.3, 0.6
_LOWEST_M = 0.4
_STANDING = ("people", "lamps", "frames", "flags")
#: A head that stands for a window stands so far behind its pane.
_BEHIND_PANE_M = 2.0


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Stance:
    """``head_m`` (3,): where the head stands; ``ceiling_m`` over it, None in the open."""

    head_m: Array
    ceiling_m: float | None

    def throw_m(self, mark: Mark) -> float:
        """To the mark."""
        return float(np.linalg.norm(self.head_m - mark.position_m))


def stance_for(built: BuiltScene, mark: Mark, *, away_m: float | None = None, height_m: float | None = None) -> Stance:
    """The likeliest place of those that are free; ``away_m`` and ``height_m`` where they are given.

    Raises: NoAnswer where no place is free.
    """
    places, worse = _tried(mark, away_m, height_m)
    free = np.flatnonzero(_is_free(built, mark, places))
    if not len(free):
        raise NoAnswer(
            "No place for a head is free there: each is in a wall, over the ceiling, in frame or blocked. Try another"
            " distance or height, or another side."
        )
    return _stance(built, places[free[np.argmin(worse[free])]])


def stance_behind(built: BuiltScene, mark: Mark, window: Window) -> Stance:
    """Outside a window, so that its light comes through the middle of the pane."""
    ray = window.panel.centre_m - mark.position_m
    place = window.panel.centre_m + _BEHIND_PANE_M * units(ray)
    return _stance(built, np.append(place[:2], max(place[2], _LOWEST_M)))


def _stance(built: BuiltScene, place: Array) -> Stance:
    room = built.surroundings.room_at(float(place[0]), float(place[1]))
    return Stance(head_m=place, ceiling_m=None if room is None else built.surroundings.rooms[room].height_m)


def _tried(mark: Mark, away_m: float | None, height_m: float | None) -> tuple[Array, Array]:
    """Places, and how far each is from the likeliest. Shapes (N, 3), (N,)."""
    tilt = tilt_of(mark.normal)
    is_upright = abs(tilt) >= _UPRIGHT_DEG
    looks = _TOWARDS_CAMERA_DEG if is_upright else bearing_of(mark.normal)
    aside = np.array([side * each for each in (_ROUND_DEG if is_upright else _ASIDE_DEG) for side in (1.0, -1.0)][1:])
    above = np.array(_OVER_DEG if is_upright else _ABOVE_DEG)
    away = np.array(_AWAY_M if away_m is None else (away_m,))
    steps = np.stack(np.meshgrid(*(np.arange(len(each)) for each in (aside, above, away)), indexing="ij"), axis=-1)
    turn, up, far = steps.reshape(-1, 3).T
    raised = above[up]
    if height_m is not None:
        raised = np.degrees(np.arcsin(np.clip((height_m - mark.position_m[2]) / away[far], -1.0, 1.0)))
    ways = np.array([along_bearing(looks + aside[at], deg) for at, deg in zip(turn, raised, strict=True)])
    return mark.position_m + ways * away[far, None], np.stack([turn, up, far], axis=1) @ _WORSE


def _is_free(built: BuiltScene, mark: Mark, places: Array) -> np.ndarray:
    """In the mark's room and under its ceiling, out of the picture, clear of what stands there, seen by the mark."""
    setup, around = built.setup, built.surroundings
    room = around.room_at(*map(float, mark.position_m[:2] + 0.02 * mark.normal[:2]))
    is_free = places[:, 2] >= _LOWEST_M
    if room is not None:
        floor = around.rooms[room].outline.buffer(-_OFF_WALL_M)
        is_free &= contains_xy(floor, places[:, 0], places[:, 1])
        is_free &= places[:, 2] <= highest_head_m(around.rooms[room].height_m)
    eye = camera_position(setup.camera)
    for shift_m in (0.0, HALF_HEAD_M, -HALF_HEAD_M):
        points = places + np.array([0.0, 0.0, shift_m])
        is_seen = passing(eye[None], points, around.laid_walls)[0] > 0.0
        is_free &= ~(in_view(setup.camera, setup.look, points) & is_seen)
    stands = np.array([[each.x_m, each.y_m] for where in _STANDING for each in getattr(setup, where)])
    stands = np.concatenate([stands.reshape(-1, 2), [[setup.camera.x_m, setup.camera.y_m]]])
    apart_m = np.linalg.norm(places[:, None, :2] - stands[None], axis=2).min(axis=1)
    is_free &= apart_m >= _APART_M
    return np.asarray(is_free & (passing(mark.position_m[None], places, built.scene.blockers)[0] > 0.5))
