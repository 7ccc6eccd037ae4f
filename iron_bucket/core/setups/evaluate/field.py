"""Light over a level plane, for contours in stops: at any height as the house's meter reads it, or on the floor."""

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from scipy.ndimage import distance_transform_edt

from iron_bucket.core.arrays import Array, units
from iron_bucket.core.checks import require_between
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.scene.blocking import Blockers
from iron_bucket.core.scene.fineness import PASSING
from iron_bucket.core.scene.light_levels import lamp_level_lx
from iron_bucket.core.scene.mark_levels import scattered_lx
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.scene import SceneLamp
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.plan.setup import Setup

#: Light without its shadows is smooth: a beam is looked at on every second place, what frames and faces send on every
#: fourth, windows and the sky with their shadows too; shadows of lamps on every one.
_SECOND, _FOURTH = 2, 4
_FACE_M = 1.3
_HIGHEST_M = 50.0
#: Rooms are told from each other so high over the floor.
IN_A_ROOM_M = 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class FieldPlane:
    """So high over the floor. What counts there: what the house's receptor reads, turned to the camera; ``is_floor``:
    what falls on it from above.

    Raises: BadValue below the floor and above 50 m.
    """

    height_m: float
    is_floor: bool = False

    def __post_init__(self) -> None:
        require_between("height", self.height_m, low=0.0, high=_HIGHEST_M, unit="m")

    @classmethod
    def of_faces(cls, setup: Setup) -> "FieldPlane":
        """Where the first person's face is, else where a face usually is."""
        return cls(height_m=setup.people[0].z_m if setup.people else _FACE_M)


FLOOR = FieldPlane(height_m=0.02, is_floor=True)


@dataclass(frozen=True, slots=True, kw_only=True)
class Sheet:
    """What of the plan is looked at, in metres (``top_m`` is its largest y), and on how many places."""

    left_m: float
    top_m: float
    width_m: float
    height_m: float
    columns: int = 160
    rows: int = 120

    @property
    def coarser(self) -> "Sheet":
        """The same on a quarter of the places: for a light that is moving."""
        return replace(self, columns=self.columns // 2, rows=self.rows // 2)

    def places_m(self, height_m: float) -> Array:
        """The middles of its cells. Shape (rows, columns, 3), the top row first."""
        x = self.left_m + (np.arange(self.columns) + 0.5) / self.columns * self.width_m
        y = self.top_m - (np.arange(self.rows) + 0.5) / self.rows * self.height_m
        across, down = np.meshgrid(x, y)
        return np.stack([across, down, np.full(across.shape, height_m)], axis=2)


def level_field_lx(lit: LitScene, plane: FieldPlane, sheet: Sheet) -> Array:
    """Lux at the lamps' levels, what comes off the walls left out. Shape (rows, columns), top row first."""
    return np.asarray(weighted_field_lx(lit, plane, sheet, lit.built.levels[None])[0])


def weighted_field_lx(lit: LitScene, plane: FieldPlane, sheet: Sheet, weights: Array) -> Array:
    """The same for some weightings of the lights at full: their levels, or X, Y and Z of them.
    Shapes: weights (K, L), result (K, rows, columns).
    """
    setup = lit.built.setup
    positions = sheet.places_m(plane.height_m)
    normals = _normals(positions, plane, (setup.camera.x_m, setup.camera.y_m))
    total = np.zeros((len(weights), sheet.rows, sheet.columns))
    parts = lit.built.surroundings.rooms_at(sheet.places_m(IN_A_ROOM_M).reshape(-1, 3)).reshape(total.shape[1:])
    is_dome = not plane.is_floor and lit.built.receptor is Receptor.DOME
    beams, net = (_Net.of(positions, normals, every, is_dome=is_dome) for every in (_SECOND, _FOURTH))
    blockers = lit.built.scene.blockers
    smooth = _by_frames(lit, net, weights)
    places = positions.reshape(-1, 3)
    for light, weight in zip(lit.built.scene.lamps, weights.T, strict=True):
        if not weight.any():
            continue
        if isinstance(light, SceneLamp):
            total += weight[:, None, None] * _by_lamp(light, beams, net, blockers, places)
        else:
            smooth += weight[:, None] * lamp_level_lx(light, net.points, blockers)
    return total + net.laid_over_parts(smooth, parts)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Net:
    """Every so-manieth place of the field, for what changes slowly over it. ``shape``: of the whole field."""

    points: Points
    every: int
    shape: tuple[int, int]

    @classmethod
    def of(cls, positions: Array, normals: Array, every: int, *, is_dome: bool) -> "_Net":
        rows, columns = (np.arange(0, count, every) for count in positions.shape[:2])
        return cls(
            points=Points(
                positions_m=positions[np.ix_(rows, columns)].reshape(-1, 3),
                normals=np.ascontiguousarray(normals[np.ix_(rows, columns)]).reshape(-1, 3),
                are_many=True,
                domes=np.ones(len(rows) * len(columns), dtype=bool) if is_dome else None,
            ),
            every=every,
            shape=(positions.shape[0], positions.shape[1]),
        )

    def laid_over(self, levels: Array) -> Array:
        """Whole fields from the net, in straight lines between. Shapes (..., N) to (..., rows, columns)."""
        down, across = (_between(count, self.every) for count in self.shape)
        return np.asarray(down @ levels.reshape(*levels.shape[:-1], down.shape[1], -1) @ across.T)

    def laid_over_parts(self, levels: Array, parts: np.ndarray) -> Array:
        """The same where walls stand between rooms: each part by its own places of the net alone, beyond which the
        nearest one goes on. Shapes (..., N), (rows, columns) to (..., rows, columns).
        """
        found = self.laid_over(levels)
        on_net = parts[:: self.every, :: self.every]
        whole = levels.reshape(*levels.shape[:-1], *on_net.shape)
        for part in np.unique(on_net) if on_net.min() < on_net.max() else ():
            down, across = distance_transform_edt(on_net != part, return_distances=False, return_indices=True)
            there = parts == part
            found[..., there] = self.laid_over(whole[..., down, across].reshape(levels.shape))[..., there]
        return found


@lru_cache
def _between(count: int, every: int) -> Array:
    """Weights of every so-manieth place for each of ``count`` places: straight lines between, level beyond the last.

    Shape (count, K).
    """
    known = np.arange(0, count, every)
    return np.array([np.interp(np.arange(count), known, one) for one in np.eye(len(known))]).T


def _by_lamp(light: SceneLamp, beams: _Net, net: _Net, blockers: Blockers, places_m: Array) -> Array:
    """From one of the nets, its shadows place by place and those of a face as of its middle."""
    seen = blockers.shares(light.position_m[None], places_m).reshape(beams.shape)
    fine_enough = beams if light.face is None else net
    return fine_enough.laid_over(lamp_level_lx(light, fine_enough.points, ())) * seen


def _normals(positions: Array, plane: FieldPlane, camera: tuple[float, float]) -> Array:
    """Shape as positions."""
    if plane.is_floor:
        return np.broadcast_to(np.array([0.0, 0.0, 1.0]), positions.shape)
    towards = np.array([camera[0], camera[1], 0.0]) - positions * np.array([1.0, 1.0, 0.0])
    return units(towards)


def _by_frames(lit: LitScene, net: _Net, weights: Array) -> Array:
    """What frames send of the lamps' first light, and of what has been scattered before. Shape (K, N)."""
    scene = lit.built.scene
    burning = np.flatnonzero(weights.any(axis=0))
    of_those = replace(scene, lamps=tuple(scene.lamps[at] for at in burning))
    return np.asarray(weights[:, burning] @ scattered_lx(of_those, net.points, fineness=PASSING))
