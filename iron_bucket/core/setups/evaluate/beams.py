"""How far a lamp's light reaches on the plan: the edges of its beam from the real distribution, cut off where
something stands in the way.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.photometry.distribution import IntensityDistribution, straight_cd
from iron_bucket.core.scene.blocking import Blocker, Blockers
from iron_bucket.core.scene.scene import Scene, SceneLamp

#: The rays of a drawn beam, and how far one is followed at most.
RAYS, FARTHEST_M, NEAREST_M = 13, 25.0, 0.4
#: A matt face has half its peak 60 degrees off its axis.
_MATT_HALF_DEG = 60.0
#: A lamp that shines all round has no edge; it is drawn as wide as this.
_ALL_ROUND_DEG = 120.0
#: An aim that points less far aside looks straight up or down.
_UPRIGHT = 0.05
_LOOKED_AT_DEG = np.arange(0.0, _ALL_ROUND_DEG, 0.25)
#: Left, right, up and down, as azimuths; which of them lie level, and which upright.
_AZIMUTHS_DEG = np.array([0.0, 180.0, 90.0, 270.0])
_SIDEWAYS, _UP_AND_DOWN = slice(0, 2), slice(2, 4)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Beam:
    """Outlines of half the peak, from the lamp round and back: on the plan, and cut upright along its aim.

    Shapes: half_m (RAYS + 1, 2), upright_m (RAYS + 1, 3).
    """

    upright_m: Array
    half_m: Array


def half_edges_deg(lamp: SceneLamp) -> Array:
    """How far off the axis half the peak lies: to the left, to the right, above, below. Shape (4,)."""
    if lamp.face is not None:
        cutoff_deg = lamp.face.cutoff_deg
        return np.full(4, _MATT_HALF_DEG if cutoff_deg is None else min(_MATT_HALF_DEG, 0.3 * cutoff_deg))
    return np.array(_edges_deg(lamp.intensity))


@lru_cache(maxsize=1024)
def _edges_deg(distribution: IntensityDistribution) -> tuple[float, ...]:
    candela = np.asarray(distribution.intensity_cd(_LOOKED_AT_DEG, _AZIMUTHS_DEG[:, None]))
    below = candela < candela.max(axis=1, keepdims=True) / 2.0
    return tuple(np.where(below.any(axis=1), _LOOKED_AT_DEG[below.argmax(axis=1)], _ALL_ROUND_DEG).tolist())


def axis_cd(lamp: SceneLamp) -> float:
    """Towards the middle of its beam, at full output."""
    if lamp.face is not None:
        return lamp.face.luminance_cd_m2 * lamp.face.area_m2
    return straight_cd(lamp.intensity)


def beams_on_plan(lamps: Sequence[tuple[SceneLamp, float]], shown_lx: float, scene: Scene) -> list[Beam]:
    """Of lamps, each at its level: drawn as far as the axis gives ``shown_lx``, or to a wall (but for its openings), a
    floor, a frame or a flag.

    Source: reach = sqrt(I / E).
    """
    panels = (*(each.panel for each in scene.frames), *(each.panel for each in scene.solids))
    standing = Blockers.of((*scene.walls, *(Blocker(panel=panel, passes=0.0) for panel in panels)))
    if not lamps:
        return []
    lights = [lamp for lamp, _ in lamps]
    reach_m = np.sqrt(np.array([axis_cd(lamp) * level for lamp, level in lamps]) / shown_lx).clip(NEAREST_M, FARTHEST_M)
    edges_deg = np.array([half_edges_deg(lamp) for lamp in lights])
    pairs = zip(lights, edges_deg, strict=True)
    rays = np.array([(_level_rays(lamp, edges), _upright_rays(lamp, edges)) for lamp, edges in pairs])
    starts_m = np.array([lamp.position_m for lamp in lights])
    ends_m = _ends_m(starts_m[:, None, None], rays, reach_m[:, None, None], standing)
    found = []
    for lamp, edges, reach, (level, upright) in zip(lights, edges_deg, reach_m, ends_m, strict=True):
        outline = np.concatenate([lamp.position_m[None], level])[:, :2]
        if np.hypot(lamp.aim[0], lamp.aim[1]) < _UPRIGHT:
            outline = _ring(lamp, float(edges[_SIDEWAYS].max()), float(reach))
        found.append(Beam(upright_m=np.concatenate([lamp.position_m[None], upright]), half_m=outline))
    return found


def _ring(lamp: SceneLamp, edge_deg: float, reach_m: float) -> Array:
    """Of a lamp that looks straight down or up: a ring of light under it. Shape (RAYS + 1, 2)."""
    radius = min(lamp.position_m[2] * np.tan(np.radians(min(edge_deg, 75.0))), reach_m)
    round_ = np.linspace(0.0, 2.0 * np.pi, RAYS)
    ring = lamp.position_m[:2] + radius * np.stack([np.cos(round_), np.sin(round_)], axis=1)
    return np.concatenate([ring[:1], ring])


def _level_rays(lamp: SceneLamp, edges_deg: Array) -> Array:
    """Between an edge to the right and one to the left, turned about the upright, so that the tilt stays.

    Shape (RAYS, 3).
    """
    left, right = edges_deg[_SIDEWAYS]
    turns, aim = np.radians(np.linspace(-right, left, RAYS)), lamp.aim
    turned = (aim[0] * np.cos(turns) - aim[1] * np.sin(turns), aim[0] * np.sin(turns) + aim[1] * np.cos(turns))
    return np.stack([*turned, np.full(RAYS, aim[2])], axis=1)


def _upright_rays(lamp: SceneLamp, edges_deg: Array) -> Array:
    """From an edge below its aim to one above; of a lamp that looks straight up or down, across the plan.

    Shape (RAYS, 3).
    """
    up, down = edges_deg[_UP_AND_DOWN]
    turns = np.radians(np.linspace(-down, up, RAYS))[:, None]
    aim, flat = lamp.aim, np.hypot(lamp.aim[0], lamp.aim[1])
    along = np.array([aim[0], aim[1], 0.0]) / flat if flat > _UPRIGHT else np.array([1.0, 0.0, 0.0])
    above = along * -aim[2] + np.array([0.0, 0.0, flat])
    return np.asarray(aim * np.cos(turns) + above * np.sin(turns))


def _ends_m(starts_m: Array, rays: Array, reach_m: Array, standing: Blockers) -> Array:
    """Where each ray ends: where something stands, on the floor, or out of reach. Shapes (..., 3) to (..., 3)."""
    starts_m, reach_m = np.broadcast_to(starts_m, rays.shape), np.broadcast_to(reach_m, rays.shape[:-1])
    with np.errstate(divide="ignore"):
        floor_m = np.where(rays[..., 2] < -1e-3, starts_m[..., 2] / -rays[..., 2], np.inf)
    met_m = _until(starts_m.reshape(-1, 3), rays.reshape(-1, 3), standing).reshape(floor_m.shape)
    return np.asarray(starts_m + rays * np.minimum(np.minimum(reach_m, floor_m), met_m)[..., None])


def _until(starts_m: Array, rays: Array, standing: Blockers) -> Array:
    """Along each ray to the first thing that stands there; where nothing is met, or a hole that passes light, as far
    as any goes. Shapes (K, 3) to (K,).
    """
    if not len(standing):
        return np.full(len(rays), FARTHEST_M)
    first = standing.first_hole - 1  # of each blocker's own rectangle, before those of its holes
    owner = np.repeat(np.arange(len(first)), standing.end_hole - first)
    here = standing.frames @ starts_m.T - standing.offsets[:, :, None]  # (N, 3, K)
    along = standing.frames @ rays.T
    with np.errstate(divide="ignore", invalid="ignore"):
        distance = (-here[first, 0] / along[first, 0])[owner]
        aside = np.abs(here[:, 1:] + along[:, 1:] * distance[:, None, :])
    is_met = (aside <= standing.half_m[:, :, None]).all(axis=1) & (distance > 0.02)
    is_open = np.logical_or.reduceat(is_met & (standing.passes > 0.0)[:, None], first, axis=0)
    return np.asarray(np.where(is_met[first] & ~is_open, distance[first], FARTHEST_M).min(axis=0))
