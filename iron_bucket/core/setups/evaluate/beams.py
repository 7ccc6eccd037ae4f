"""How far a lamp's light reaches on the plan: the edges of its beam from the real distribution, cut off where
something stands in the way.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.photometry.distribution import FIRST_PLANE_DEG, IntensityDistribution, straight_cd
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


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Beam:
    """Outlines of half the peak, from the lamp round and back: on the plan, and cut upright along its aim.

    Shapes: half_m (RAYS + 1, 2), upright_m (RAYS + 1, 3).
    """

    upright_m: Array
    half_m: Array


def half_edge_deg(lamp: SceneLamp, azimuth_deg: float = FIRST_PLANE_DEG) -> float:
    """How far off the axis, to the left or any other way, half the peak lies."""
    if lamp.face is not None:
        cutoff_deg = lamp.face.cutoff_deg
        return _MATT_HALF_DEG if cutoff_deg is None else min(_MATT_HALF_DEG, 0.3 * cutoff_deg)
    distribution: IntensityDistribution = lamp.intensity  # type: ignore[assignment]
    candela = np.asarray(distribution.intensity_cd(_LOOKED_AT_DEG, azimuth_deg))
    below = np.flatnonzero(candela < candela.max() / 2.0)
    return float(_LOOKED_AT_DEG[below[0]]) if len(below) else _ALL_ROUND_DEG


def axis_cd(lamp: SceneLamp) -> float:
    """Towards the middle of its beam, at full output."""
    if lamp.face is not None:
        return lamp.face.luminance_cd_m2 * lamp.face.area_m2
    return straight_cd(lamp.intensity)  # type: ignore[arg-type]


def beams_on_plan(lamps: Sequence[tuple[SceneLamp, float]], shown_lx: float, scene: Scene) -> list[Beam]:
    """Of lamps, each at its level: drawn as far as the axis gives ``shown_lx``, or to a wall (but for its openings), a
    floor, a frame or a flag.

    Source: reach = sqrt(I / E).
    """
    panels = (*(each.panel for each in scene.frames), *(each.panel for each in scene.solids))
    standing = Blockers.of((*scene.walls, *(Blocker(panel=panel, passes=0.0) for panel in panels)))
    return [_beam(lamp, level, shown_lx, standing) for lamp, level in lamps]


def _beam(lamp: SceneLamp, level: float, shown_lx: float, standing: Blockers) -> Beam:
    reach_m = float(np.clip(np.sqrt(axis_cd(lamp) * level / shown_lx), NEAREST_M, FARTHEST_M))
    left, up, right, down = (half_edge_deg(lamp, azimuth) for azimuth in (0.0, 90.0, 180.0, 270.0))
    return Beam(
        upright_m=_upright(lamp, (down, up), reach_m, standing), half_m=_outline(lamp, (right, left), reach_m, standing)
    )


def _outline(lamp: SceneLamp, edges: tuple[float, float], reach_m: float, standing: Blockers) -> Array:
    """Shape (RAYS + 1, 2): the lamp, then where its rays end, between an edge to the right and one to the left.

    Rays are turned about the upright, so that the tilt stays.
    """
    turns = np.radians(np.linspace(-edges[0], edges[1], RAYS))
    aim = lamp.aim
    flat = np.hypot(aim[0], aim[1])
    if flat < _UPRIGHT:  # straight down or up: a ring of light under it
        radius = min(lamp.position_m[2] * np.tan(np.radians(min(max(edges), 75.0))), reach_m)
        round_ = np.linspace(0.0, 2.0 * np.pi, RAYS)
        ring = lamp.position_m[:2] + radius * np.stack([np.cos(round_), np.sin(round_)], axis=1)
        return np.concatenate([ring[:1], ring])
    rays = np.stack(
        [
            aim[0] * np.cos(turns) - aim[1] * np.sin(turns),
            aim[0] * np.sin(turns) + aim[1] * np.cos(turns),
            np.full(RAYS, aim[2]),
        ],
        axis=1,
    )
    return _followed(lamp, rays, reach_m, standing)[:, :2]


def _upright(lamp: SceneLamp, edges: tuple[float, float], reach_m: float, standing: Blockers) -> Array:
    """Shape (RAYS + 1, 3): the lamp, then where its rays end, from an edge below its aim to one above; of a lamp that
    looks straight up or down, across the plan.
    """
    turns = np.radians(np.linspace(-edges[0], edges[1], RAYS))[:, None]
    aim, flat = lamp.aim, np.hypot(lamp.aim[0], lamp.aim[1])
    along = np.array([aim[0], aim[1], 0.0]) / flat if flat > _UPRIGHT else np.array([1.0, 0.0, 0.0])
    above = along * -aim[2] + np.array([0.0, 0.0, flat])
    return _followed(lamp, aim * np.cos(turns) + above * np.sin(turns), reach_m, standing)


def _followed(lamp: SceneLamp, rays: Array, reach_m: float, standing: Blockers) -> Array:
    """The lamp, then the end of each ray: where something stands, on the floor, or out of reach. Shape (K + 1, 3)."""
    with np.errstate(divide="ignore"):
        floor_m = np.where(rays[:, 2] < -1e-3, lamp.position_m[2] / -rays[:, 2], np.inf)
    length = np.minimum(np.minimum(reach_m, floor_m), _until(lamp.position_m, rays, standing))
    return np.concatenate([lamp.position_m[None], lamp.position_m + rays * length[:, None]])


def _until(start_m: Array, rays: Array, standing: Blockers) -> Array:
    """Along each ray to the first thing that stands there; where nothing is met, or a hole that passes light, as far
    as any goes. Shape (K,).
    """
    if not len(standing):
        return np.full(len(rays), FARTHEST_M)
    first = standing.first_hole - 1  # of each blocker's own rectangle, before those of its holes
    owner = np.repeat(np.arange(len(first)), standing.end_hole - first)
    here, along = standing.frames @ start_m - standing.offsets, standing.frames @ rays.T  # (N, 3), (N, 3, K)
    with np.errstate(divide="ignore", invalid="ignore"):
        distance = (-here[first, 0, None] / along[first, 0])[owner]
        aside = np.abs(here[:, 1:, None] + along[:, 1:] * distance[:, None, :])
    is_met = (aside <= standing.half_m[:, :, None]).all(axis=1) & (distance > 0.02)
    is_open = np.logical_or.reduceat(is_met & (standing.passes > 0.0)[:, None], first, axis=0)
    return np.asarray(np.where(is_met[first] & ~is_open, distance[first], FARTHEST_M).min(axis=0))
