"""Frames, boards and flags cut into points: what falls on each, and what they send on."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np
from scipy.spatial.distance import cdist

from iron_bucket.core.arrays import Array, angle_rad, lengths, units
from iron_bucket.core.modifiers.lobe import is_matt, lobe_exponent, lobe_middle, lobe_peak, lobes_lx
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.quadrature import gauss_nodes
from iron_bucket.core.scene.blocking import Blocker, passing
from iron_bucket.core.scene.light_levels import levels_lx, small_levels_lx
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.scene import Light, SceneFrame, SceneLamp, Solid

#: Two and a half Gauss points across a beam of half its peak give what the frame sends within 2 %; more than 61 a side
#: no spot needs.
_ACROSS_A_BEAM, _MOST_FRAME_POINTS = 2.5, 61
#: Gauss points fall together like (1 + 2 h / w)^(-2 n) for something that stands h before a side of w: so many times
#: 1 / log(1 + 2 h / w) give a thousandth.
_NEARNESS = 3.5
#: A receiver stands at least so far from a board that is not matt.
_NEAREST_SEEN_M = 1.0
#: What is nearer to a panel's plane lies in it.
_OFF_PLANE_M = 1e-9
_HALF_BEAM_DEG = np.linspace(0.0, 90.0, 181)

#: Parts along each side of what a point stands for, where a shadow's edge crosses it; of a coarse cut, and of a fine.
_PARTS, _PARTS_OF_FINE, _FINE_FROM = 5, 12, 20

#: What sends on light that falls on it.
Scatterer = SceneFrame | Solid


def points_a_side(frame: Scatterer, lamps: Sequence[Light], least: int) -> int:
    """How finely a frame has to be cut for the narrowest beam that falls on it, and for the nearest lamp."""
    needed = _needed_a_side(frame, tuple(lamps))
    return least if needed is None else min(int(np.ceil(max(float(least), needed))), _MOST_FRAME_POINTS)


@lru_cache(maxsize=512)  # asked for marks, walls and nodes alike
def _needed_a_side(frame: Scatterer, lamps: tuple[Light, ...]) -> float | None:
    """None where no beam falls on it."""
    panel = frame.panel
    size_m, reach_m = max(panel.width_m, panel.height_m), float(np.hypot(panel.width_m, panel.height_m)) / 2.0
    small = [lamp for lamp in lamps if isinstance(lamp, SceneLamp) and lamp.intensity is not None]
    places_m = np.array([lamp.position_m for lamp in small]).reshape(-1, 3)
    rays, half = panel.centre_m - places_m, np.array([half_beam_rad(lamp) for lamp in small])
    distance_m = lengths(rays)
    ahead = np.einsum("lk,lk->l", rays, np.array([lamp.aim for lamp in small]).reshape(-1, 3)) / distance_m
    falls = angle_rad(ahead) < half + np.arctan(reach_m / distance_m)
    if not falls.any():
        return None
    across = size_m / np.maximum(2.0 * distance_m * np.tan(np.minimum(half, 1.4)), 1e-3)[falls]
    needed = max(_ACROSS_A_BEAM * float(across.max()), points_for_near(panel, places_m[falls]))
    if not is_matt(frame.lobe_deg):  # so far over the panel a lobe turns away from a receiver that is no nearer
        turn_rad = size_m * (1.0 / float(distance_m[falls].min()) + 1.0 / _NEAREST_SEEN_M)
        needed = max(needed, _ACROSS_A_BEAM * turn_rad / (2.0 * np.radians(frame.lobe_deg)))
    return float(needed)


def points_for_near(panel: Panel, places_m: Array) -> float:
    """Gauss points along a side that the nearest of some places asks for. Shape (R, 3)."""
    if not len(places_m):
        return 0.0
    offset = places_m - panel.centre_m
    beside = [
        np.maximum(np.abs(offset @ side) - size / 2.0, 0.0)
        for side, size in ((panel.side_x, panel.width_m), (panel.side_y, panel.height_m))
    ]
    away = np.sqrt(np.square(offset @ panel.normal) + np.square(beside[0]) + np.square(beside[1]))
    size_m = max(panel.width_m, panel.height_m)
    return float(_NEARNESS / np.log1p(2.0 * max(float(away.min()), 0.02 * size_m) / size_m))


@lru_cache(maxsize=256)
def half_beam_rad(lamp: SceneLamp) -> float:
    """From the axis to half of its candela."""
    candela = np.asarray(lamp.intensity.intensity_cd(_HALF_BEAM_DEG))  # type: ignore[union-attr]
    below = np.flatnonzero(candela < candela[0] / 2.0)
    return float(np.radians(_HALF_BEAM_DEG[max(below[0], 1)])) if len(below) else float(np.pi / 2.0)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class FramePoints:
    """A frame cut into points. Shapes: points_m (P, 3), area_m2 (P,).

    What was once asked of the ways to some receivers is kept with it: of a scene whose lamps alone move, all of them.
    """

    frame: Scatterer
    points_m: Array
    area_m2: Array
    #: By the receivers' identity, beside them, lest another has it by then.
    _sides: dict[tuple[int, bool, bool], tuple[Points, "_Side | None"]] = field(
        default_factory=dict, init=False, repr=False
    )

    @classmethod
    def of(cls, frame: Scatterer, points_a_side: int) -> "FramePoints":
        """Gauss points over the whole frame."""
        points_m, area_m2 = frame.panel.points(points_a_side)
        return cls(frame=frame, points_m=points_m, area_m2=area_m2)

    def side(self, *, is_front: bool) -> Points:
        """The points as receivers on the side that the panel's normal looks at, or on the other."""
        normal = self.frame.panel.normal if is_front else -self.frame.panel.normal
        return Points(positions_m=self.points_m, normals=np.tile(normal, (len(self.points_m), 1)), are_many=True)

    def lit_lx(self, lamps: Sequence[Light], blockers: Sequence[Blocker], *, is_lit_in_front: bool) -> Array:
        """What lights at full output lay on one side; what a shadow's edge crosses counts by the part that is lit.

        Shape (L, P).
        """
        points = self.side(is_front=is_lit_in_front)
        lit = np.zeros((len(lamps), len(self.points_m)))
        small: dict[int, SceneLamp] = {}
        large: dict[int, Light] = {}
        for at, lamp in enumerate(lamps):
            middle_m, radius_m = lamp.ball_m
            if (middle_m - self.frame.panel.centre_m) @ points.normals[0] <= -radius_m:
                continue  # it lights the other side alone
            if isinstance(lamp, SceneLamp) and lamp.face is None:
                small[at] = lamp
            else:
                large[at] = lamp
        lit[list(large)] = levels_lx(list(large.values()), points, blockers)
        if small:
            lamps_there = list(small.values())
            lit[list(small)] = small_levels_lx(lamps_there, points) * self._seen(lamps_there, blockers)
        return lit

    def _seen(self, lamps: Sequence[SceneLamp], blockers: Sequence[Blocker]) -> Array:
        """What arrives at each point, as the mean over what it stands for where its neighbours differ. Shape (L, P)."""
        starts = np.array([lamp.position_m for lamp in lamps])
        seen = passing(starts, self.points_m, blockers)
        count = round(np.sqrt(len(self.points_m)))
        grid = np.pad(seen.reshape(-1, count, count), ((0, 0), (1, 1), (1, 1)), mode="edge")
        near = np.stack([grid[:, :-2, 1:-1], grid[:, 2:, 1:-1], grid[:, 1:-1, :-2], grid[:, 1:-1, 2:]])
        differs = (near != grid[None, :, 1:-1, 1:-1]).any(axis=0).reshape(len(lamps), -1)
        for at in np.flatnonzero(differs.any(axis=1)):
            parts = self._parts_m(np.flatnonzero(differs[at]), _PARTS if count < _FINE_FROM else _PARTS_OF_FINE)
            arriving = passing(starts[at : at + 1], parts.reshape(-1, 3), blockers)
            seen[at, differs[at]] = arriving.reshape(parts.shape[:2]).mean(axis=1)
        return seen

    def _parts_m(self, chosen: np.ndarray, parts: int) -> Array:
        """Places spread over what some points stand for. Shape (C, parts, 3)."""
        panel = self.frame.panel
        count = round(np.sqrt(len(self.points_m)))
        edges = np.concatenate([[-1.0], np.cumsum(gauss_nodes(count)[1]) - 1.0])
        share = (np.arange(parts) + 0.5) / parts
        within = edges[:-1, None] + share * np.diff(edges)[:, None]
        x = np.repeat(within[chosen // count], parts, axis=1)[..., None] * panel.width_m / 2.0
        y = np.tile(within[chosen % count], (1, parts))[..., None] * panel.height_m / 2.0
        return np.asarray(panel.centre_m + x * panel.side_x + y * panel.side_y)

    def sent_lx(
        self,
        origins_m: Array,
        lit_lx: Array,
        points: Points,
        blockers: Sequence[Blocker],
        *,
        is_lit_in_front: bool,
        lobes_only: bool = False,
    ) -> Array:
        """What reaches receivers of what falls on one side. Shapes: origins_m (L, 3), whence it comes; lit_lx (L, P);
        gives (L, R).

        A cloth sends to its far side, and a little back to the lit one; a bounce and a flag to the lit side. What is
        matt, and what has no origin (nan: it comes from everywhere), all share one transfer. ``lobes_only``: what goes
        back matt from a cloth that is not is left out.
        """
        sent = np.zeros((len(lit_lx), len(points.normals)))
        for way in self._ways(origins_m, points, blockers, is_lit_in_front, lobes_only):
            side = way.side
            if len(way.matt):
                sent[way.matt[:, None], side.columns] = lit_lx[way.matt] @ (side.for_a_candela * side.out / np.pi)
            if len(way.lobed):
                peaks, middles = self._lobes(origins_m[way.lobed], lit_lx[way.lobed], side.leaving)
                exponent = float(lobe_exponent(self.frame.lobe_deg))
                sent[way.lobed[:, None], side.columns] = lobes_lx(
                    peaks, middles, self.points_m, side.ends_m, side.for_a_candela, exponent
                )
        return sent

    def sent_by_point_lx(
        self, origins_m: Array, lit_lx: Array, point: Points, blockers: Sequence[Blocker], *, is_lit_in_front: bool
    ) -> Array:
        """What reaches one receiver, of each point of the cut by itself. Shapes (L, 3), (L, P) to (L, P)."""
        sent = np.zeros_like(lit_lx)
        for way in self._ways(origins_m, point, blockers, is_lit_in_front):
            side = way.side
            sent[way.matt] = lit_lx[way.matt] * (side.for_a_candela * side.out)[:, 0] / np.pi
            if len(way.lobed):
                peaks, middles = self._lobes(origins_m[way.lobed], lit_lx[way.lobed], side.leaving)
                cosine = np.einsum("lpk,pk->lp", middles, units(side.ends_m - self.points_m))
                power = np.power(np.maximum(cosine, 0.0), float(lobe_exponent(self.frame.lobe_deg)))
                sent[way.lobed] = peaks * power * side.for_a_candela[:, 0]
        return sent

    def _ways(
        self,
        origins_m: Array,
        points: Points,
        blockers: Sequence[Blocker],
        is_lit_in_front: bool,
        lobes_only: bool = False,
    ) -> Iterator["_Way"]:
        """Back to the lit side, and through to the other, as far as either sends anything to some of the receivers."""
        has_origin = ~np.isnan(origins_m[:, 0])
        for is_through, share, has_lobe in (
            (False, self.frame.back_share, not self.frame.through_share),
            (True, self.frame.through_share, True),
        ):
            is_lobed = has_origin & has_lobe & ~is_matt(self.frame.lobe_deg)
            if not share or (lobes_only and not is_lobed.any()):
                continue
            key = (id(points), is_lit_in_front, is_through)
            if key not in self._sides:
                side = self._side(points, blockers, share, in_front=is_lit_in_front != is_through)
                self._sides[key] = points, side
            _, side = self._sides[key]
            if side is not None:
                yield _Way(side=side, lobed=np.flatnonzero(is_lobed), matt=np.flatnonzero(~is_lobed))

    def _side(self, points: Points, blockers: Sequence[Blocker], share: float, *, in_front: bool) -> "_Side | None":
        """From one side of the frame to the receivers there; None where there are none."""
        leaving = self.frame.panel.normal if in_front else -self.frame.panel.normal
        columns = np.flatnonzero((points.positions_m - self.frame.panel.centre_m) @ leaving > _OFF_PLANE_M)
        if not len(columns):
            return None
        ends = points.some(columns)
        out, for_a_candela = self._seen_from(ends, leaving, share, blockers)
        return _Side(
            leaving=leaving,
            columns=columns,
            ends_m=np.ascontiguousarray(ends.positions_m),
            out=out,
            for_a_candela=np.ascontiguousarray(for_a_candela),
        )

    def _seen_from(
        self, ends: Points, leaving: Array, share: float, blockers: Sequence[Blocker]
    ) -> tuple[Array, Array]:
        """Cosine to the leaving side of each ray, and lux at each receiver for each lux on a point that sends one
        candela for each lumen. Shapes (P, R) both.

        Source: E = sum of (candela towards the receiver) cos(epsilon) / r^2.
        """
        positions, normals = ends.positions_m, ends.normals
        throw = np.sqrt(np.maximum(cdist(self.points_m, positions, "sqeuclidean"), 1e-12))
        out = np.maximum((positions @ leaving)[None, :] - (self.points_m @ leaving)[:, None], 0.0) / throw
        arriving = ends.counted((self.points_m @ normals.T - np.einsum("rk,rk->r", positions, normals)) / throw)
        for_a_candela = arriving / np.square(throw) * (share * self.area_m2)[:, None]
        if len(blockers):
            for_a_candela = for_a_candela * passing(self.points_m, positions, blockers)
        return out, for_a_candela

    def _lobes(self, origins_m: Array, lit_lx: Array, leaving: Array) -> tuple[Array, Array]:
        """Candela for each unit of what a point sends on, in the middle of its lobe, and that middle.

        Shapes: origins_m (L, 3), lit_lx (L, P); gives (L, P), (L, P, 3). The middle is about the way that light came,
        or its mirror image.
        """
        came = units(self.points_m[None] - origins_m[:, None])
        if not self.frame.through_share:
            came = came - 2.0 * (came @ leaving)[..., None] * leaving
        middles = lobe_middle(came, leaving, self.frame.lobe_deg)
        peak = lobe_peak(middles @ leaving, float(lobe_exponent(self.frame.lobe_deg)))
        return np.ascontiguousarray(lit_lx * peak), np.ascontiguousarray(middles)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Side:
    """From one side of a cut to the receivers there: ``columns`` and places ``ends_m`` (R, 3) of all.

    Shapes: out and for_a_candela (P, R), as of ``_seen_from``.
    """

    leaving: Array
    columns: np.ndarray
    ends_m: Array
    out: Array
    for_a_candela: Array


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Way:
    """``lobed`` and ``matt``: the numbers of the origins whose light keeps its way on that side, and of the others."""

    side: _Side
    lobed: np.ndarray
    matt: np.ndarray
