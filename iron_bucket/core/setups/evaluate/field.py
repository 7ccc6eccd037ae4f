"""Light over a whole plane, for contours in stops: at face height as the house's meter reads it, or on the floor."""

from dataclasses import dataclass, replace
from enum import StrEnum
from functools import lru_cache

import numpy as np

from iron_bucket.core.arrays import Array, units
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.scene.blocking import Blockers
from iron_bucket.core.scene.fineness import PASSING
from iron_bucket.core.scene.light_levels import lamp_level_lx
from iron_bucket.core.scene.mark_levels import scattered_lx
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.scene import Light, SceneLamp
from iron_bucket.core.setups.evaluate.lit_scene import LitScene

COLUMNS, ROWS = 160, 120
#: Light without its shadows is smooth: a beam is looked at on every second place, what frames and faces send on every
#: fourth; shadows on every one.
_SECOND, _FOURTH = 2, 4
_FACE_M = 1.3
_FLOOR_M = 0.02


class FieldPlane(StrEnum):
    FACE = "face"
    FLOOR = "floor"


def level_field_lx(lit: LitScene, plane: FieldPlane, sheet: tuple[float, float, float, float]) -> Array:
    """Lux at the lamps' levels over a sheet (left, top, width, height in metres), what comes off the walls left out.
    Shape (ROWS, COLUMNS), top row first.

    At face height a place counts what the house's receptor reads, turned to the camera; the floor what falls on it from
    above.
    """
    left, top, width, height = sheet
    setup = lit.built.setup
    face_m = setup.people[0].z_m if setup.people else _FACE_M
    x = left + (np.arange(COLUMNS) + 0.5) / COLUMNS * width
    y = top - (np.arange(ROWS) + 0.5) / ROWS * height
    across, down = np.meshgrid(x, y)
    positions = np.stack(
        [across, down, np.full(across.shape, face_m if plane is FieldPlane.FACE else _FLOOR_M)], axis=2
    )
    normals = _normals(positions, plane, (setup.camera.x_m, setup.camera.y_m))
    total = np.zeros((ROWS, COLUMNS))
    is_dome = plane is FieldPlane.FACE and lit.built.receptor is Receptor.DOME
    beams, net = (_Net.of(positions, normals, every, is_dome=is_dome) for every in (_SECOND, _FOURTH))
    blockers = lit.built.scene.blockers
    places = positions.reshape(-1, 3)
    for light, level in zip(lit.built.scene.lamps, lit.built.levels, strict=True):
        if level > 0.0:
            total += level * _by_light(light, beams, net, blockers, places)
    return total + _by_frames(lit, net)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Net:
    """Every so-manieth place of the field, for what changes slowly over it."""

    points: Points
    every: int

    @classmethod
    def of(cls, positions: Array, normals: Array, every: int, *, is_dome: bool) -> "_Net":
        rows, columns = np.arange(0, ROWS, every), np.arange(0, COLUMNS, every)
        return cls(
            points=Points(
                positions_m=positions[np.ix_(rows, columns)].reshape(-1, 3),
                normals=np.ascontiguousarray(normals[np.ix_(rows, columns)]).reshape(-1, 3),
                are_many=True,
                domes=np.ones(len(rows) * len(columns), dtype=bool) if is_dome else None,
            ),
            every=every,
        )

    def laid_over(self, levels: Array) -> Array:
        """The whole field from the net, in straight lines between. Shapes (N,) to (ROWS, COLUMNS)."""
        down, across = _between(ROWS, self.every), _between(COLUMNS, self.every)
        return np.asarray(down @ levels.reshape(down.shape[1], -1) @ across.T)


@lru_cache
def _between(count: int, every: int) -> Array:
    """Weights of every so-manieth place for each of ``count`` places: straight lines between, level beyond the last.

    Shape (count, K).
    """
    known = np.arange(0, count, every)
    return np.array([np.interp(np.arange(count), known, one) for one in np.eye(len(known))]).T


def _by_light(light: Light, beams: _Net, net: _Net, blockers: Blockers, places_m: Array) -> Array:
    """A lamp from one of the nets, its shadows place by place and those of a face as of its middle; windows and the
    sky wholly from the net.
    """
    if not isinstance(light, SceneLamp):
        return net.laid_over(lamp_level_lx(light, net.points, blockers))
    seen = blockers.shares(light.position_m[None], places_m).reshape(ROWS, COLUMNS)
    fine_enough = beams if light.face is None else net
    return fine_enough.laid_over(lamp_level_lx(light, fine_enough.points, ())) * seen


def _normals(positions: Array, plane: FieldPlane, camera: tuple[float, float]) -> Array:
    """Shape as positions."""
    if plane is FieldPlane.FLOOR:
        return np.broadcast_to(np.array([0.0, 0.0, 1.0]), positions.shape)
    towards = np.array([camera[0], camera[1], 0.0]) - positions * np.array([1.0, 1.0, 0.0])
    return units(towards)


def _by_frames(lit: LitScene, net: _Net) -> Array:
    """What frames send of the lamps' first light, and of what has been scattered before. Shape (ROWS, COLUMNS)."""
    scene, levels = lit.built.scene, lit.built.levels
    burning = np.flatnonzero(levels > 0.0)
    of_those = replace(scene, lamps=tuple(scene.lamps[at] for at in burning))
    sent = levels[burning] @ scattered_lx(of_those, net.points, fineness=PASSING)
    return net.laid_over(sent)
