"""What lights and lit frames send to points in space."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from scipy.spatial.distance import cdist

from iron_bucket.core.arrays import Array, cross
from iron_bucket.core.modifiers.cells import grid_cut
from iron_bucket.core.modifiers.lobe import MATT_DEG, lobe_exponent, lobes_lx
from iron_bucket.core.modifiers.two_stage import ROUND, Head
from iron_bucket.core.photometry.contour import form_factors
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.scene.blocking import Blocker, passing
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.scene import Light, LitShape, SceneFrame, SceneLamp

#: A face is cut into so many pieces along each side; each by the exact law, and blocked or not as a whole. Fewer for
#: the many points of the walls.
FACE_PIECES, FACE_PIECES_FOR_WALLS = 16, 2
#: Gauss points along each side of a frame at least: for marks, and for the many points of the walls.
FRAME_POINTS, FRAME_POINTS_FOR_WALLS = 31, 7


def lamp_flux_lm(lamp: Light) -> float:
    """Lumens at full output. Source: of a Lambertian face pi L A."""
    if not isinstance(lamp, SceneLamp):
        return lamp.flux_lm()
    if lamp.face is not None:
        return float(np.pi * lamp.face.luminance_cd_m2 * lamp.face.area_m2)
    return lumens(lamp.intensity)  # type: ignore[arg-type]


def lamp_level_lx(lamp: Light, points: Points, blockers: Sequence[Blocker]) -> Array:
    """Illuminance straight from a light at full output. Shape (R,)."""
    if not isinstance(lamp, SceneLamp):
        return lamp.level_lx(points, blockers)
    if lamp.face is not None:
        return _face_level_lx(lamp, points, blockers)
    return np.asarray(
        _small_levels_lx((lamp,), points)[0] * passing(lamp.position_m[None], points.positions_m, blockers)[0]
    )


def levels_lx(lamps: Sequence[Light], points: Points, blockers: Sequence[Blocker]) -> Array:
    """The same of many lights; all small lamps are looked at together. Shape (L, R)."""
    levels = np.zeros((len(lamps), len(points.normals)))
    small = [at for at, lamp in enumerate(lamps) if isinstance(lamp, SceneLamp) and lamp.face is None]
    for at, lamp in enumerate(lamps):
        if at not in small:
            levels[at] = lamp_level_lx(lamp, points, blockers)
    if small:
        held: list[SceneLamp] = [lamps[at] for at in small]  # type: ignore[misc]
        seen = passing(np.array([lamp.position_m for lamp in held]), points.positions_m, blockers)
        levels[small] = _small_levels_lx(held, points) * seen
    return levels


def _small_levels_lx(lamps: Sequence[SceneLamp], points: Points) -> Array:
    """With nothing in the way. Shape (L, R). Source: E = I cos(epsilon) / r^2."""
    starts, aims = np.array([lamp.position_m for lamp in lamps]), np.array([lamp.aim for lamp in lamps])
    ends, normals = points.positions_m, points.normals
    throw = np.maximum(cdist(starts, ends), 1e-9)
    facing = np.maximum(starts @ normals.T - np.einsum("rk,rk->r", ends, normals), 0.0) / throw
    ahead = (aims @ ends.T - np.einsum("lk,lk->l", starts, aims)[:, None]) / throw
    gamma = np.degrees(np.arccos(np.clip(ahead, -1.0, 1.0)))
    candela = np.array([_candela(lamp, ends, off) for lamp, off in zip(lamps, gamma, strict=True)])
    return np.asarray(candela * facing / np.square(throw))


def _candela(lamp: SceneLamp, ends_m: Array, gamma_deg: Array) -> Array:
    """Towards some points. Shape (R,)."""
    if isinstance(lamp.intensity, ROUND):
        return np.asarray(lamp.intensity.intensity_cd(gamma_deg))
    head = Head(position_m=lamp.position_m, aim=lamp.aim, distribution=lamp.intensity)  # type: ignore[arg-type]
    return head.intensity_towards_cd(ends_m)


def _face_level_lx(lamp: SceneLamp, points: Points, blockers: Sequence[Blocker]) -> Array:
    """Piece by piece, because a flag may hide some of it."""
    corners, centres, luminance = face_pieces(lamp, FACE_PIECES_FOR_WALLS if points.are_many else FACE_PIECES)
    shares = form_factors(corners, points.positions_m, points.normals)
    if lamp.face is not None and lamp.face.cutoff_deg is not None:
        shares *= _through_cells(lamp.face.cutoff_deg, centres, points.positions_m, lamp.aim)
    if blockers:
        shares = shares * passing(centres, points.positions_m, blockers).T
    return np.asarray(np.pi * luminance * shares.sum(axis=1))


def _through_cells(cutoff_deg: float, centres: Array, positions_m: Array, aim: Array) -> Array:
    """Share that cells let through from each piece to each receiver. Shapes (Q, 3), (R, 3) to (R, Q)."""
    ahead = (positions_m @ aim)[:, None] - (centres @ aim)[None, :]
    cosine = np.clip(ahead / np.maximum(cdist(positions_m, centres), 1e-9), 1e-6, 1.0)
    return grid_cut(cutoff_deg, np.degrees(np.arccos(cosine)))


@lru_cache(maxsize=256)
def face_pieces(lamp: SceneLamp, per_side: int = FACE_PIECES) -> tuple[Array, Array, float]:
    """A face in equal pieces: corners (Q, 4, 3) counter-clockwise from in front, centres (Q, 3), and the luminance.

    A disc is cut in rings and sectors whose straight edges are moved out so far that its area stays. Kept, because
    every frame asks for the same lamps again.
    """
    face = lamp.face
    if face is None:
        raise ValueError("a lamp without a face has no pieces")
    across, up = face.width_along, cross(lamp.aim, face.width_along)
    if face.shape is LitShape.DISC:
        flat = _disc_pieces(face.width_m / 2.0, per_side)
    else:
        flat = _rectangle_pieces(face.width_m, face.height_m, per_side)
    corners = lamp.position_m + flat[..., :1] * across + flat[..., 1:] * up
    return corners, corners.mean(axis=1), face.luminance_cd_m2


def _rectangle_pieces(width_m: float, height_m: float, per_side: int) -> Array:
    """Corners in the plane. Shape (Q, 4, 2)."""
    edges = np.linspace(-0.5, 0.5, per_side + 1)
    x, y = np.meshgrid(edges[:-1] * width_m, edges[:-1] * height_m, indexing="ij")
    steps = np.array([[0, 0], [1, 0], [1, 1], [0, 1]]) * np.array([width_m, height_m]) / per_side
    return np.asarray(np.stack([x.ravel(), y.ravel()], axis=1)[:, None, :] + steps)


def _disc_pieces(radius_m: float, per_side: int) -> Array:
    """Rings of equal width, each of four times as many sectors as pieces along a side. Shape (Q, 4, 2)."""
    sectors, rings = 4 * per_side, per_side // 2
    turn = np.arange(sectors + 1) * 2.0 * np.pi / sectors
    # A polygon inside the circle is too small by this much in radius.
    grow = np.sqrt(2.0 * np.pi / (sectors * np.sin(2.0 * np.pi / sectors)))
    edge = np.stack([np.cos(turn), np.sin(turn)], axis=1) * grow * radius_m
    inner, outer = (np.arange(rings) / rings), (np.arange(1, rings + 1) / rings)
    pieces = [
        np.stack([low * edge[:-1], high * edge[:-1], high * edge[1:], low * edge[1:]], axis=1)
        for low, high in zip(inner, outer, strict=True)
    ]
    return np.concatenate(pieces)


#: Two and a half Gauss points across a beam of half its peak give what the frame sends within 2 %; more than 61 a side
#: no spot needs.
_ACROSS_A_BEAM, _MOST_FRAME_POINTS = 2.5, 61
#: A receiver stands at least so far from a board that is not matt.
_NEAREST_SEEN_M = 1.0
_HALF_BEAM_DEG = np.linspace(0.0, 90.0, 181)


def points_a_side(frame: SceneFrame, lamps: Sequence[Light], least: int) -> int:
    """How finely a frame has to be cut for the narrowest beam that falls on it."""
    panel, needed = frame.panel, float(least)
    size_m, reach_m = max(panel.width_m, panel.height_m), float(np.hypot(panel.width_m, panel.height_m)) / 2.0
    for lamp in lamps:
        if not isinstance(lamp, SceneLamp) or lamp.intensity is None:
            continue
        ray = panel.centre_m - lamp.position_m
        distance_m = max(float(np.linalg.norm(ray)), 1e-3)
        half = _half_beam_rad(lamp)
        off = float(np.arccos(np.clip(ray @ lamp.aim / distance_m, -1.0, 1.0)))
        if off < half + np.arctan(reach_m / distance_m):
            needed = max(needed, _ACROSS_A_BEAM * size_m / max(2.0 * distance_m * np.tan(min(half, 1.4)), 1e-3))
            if frame.lobe_deg < MATT_DEG:  # so far over the panel a lobe turns away from a receiver that is no nearer
                turn_rad = size_m * (1.0 / distance_m + 1.0 / _NEAREST_SEEN_M)
                needed = max(needed, _ACROSS_A_BEAM * turn_rad / (2.0 * np.radians(frame.lobe_deg)))
    return min(int(np.ceil(needed)), _MOST_FRAME_POINTS)


@lru_cache(maxsize=256)
def _half_beam_rad(lamp: SceneLamp) -> float:
    """From the axis to half of its candela."""
    candela = np.asarray(lamp.intensity.intensity_cd(_HALF_BEAM_DEG))  # type: ignore[union-attr]
    below = np.flatnonzero(candela < candela[0] / 2.0)
    return float(np.radians(_HALF_BEAM_DEG[max(below[0], 1)])) if len(below) else float(np.pi / 2.0)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class FramePoints:
    """A frame cut into points. Shapes: points_m (P, 3), area_m2 (P,)."""

    frame: SceneFrame
    points_m: Array
    area_m2: Array

    @classmethod
    def of(cls, frame: SceneFrame, points_a_side: int = FRAME_POINTS) -> "FramePoints":
        """Gauss points over the whole frame."""
        points_m, area_m2 = frame.panel.points(points_a_side)
        return cls(frame=frame, points_m=points_m, area_m2=area_m2)

    def may_light(self, lamp: Light, *, is_lit_in_front: bool) -> bool:
        """Whether a light reaches the side that the panel's normal looks at, or the other.

        A lamp has one; windows and the sky may have both.
        """
        if not isinstance(lamp, SceneLamp):
            return True
        return (
            float((lamp.position_m - self.frame.panel.centre_m) @ self.frame.panel.normal) >= 0.0
        ) == is_lit_in_front

    def lit_lx(self, lamps: Sequence[Light], blockers: Sequence[Blocker], *, is_lit_in_front: bool) -> Array:
        """What lights at full output lay on one side; the frame itself is not among the ``blockers``. Shape (L, P)."""
        normal = self.frame.panel.normal * (1.0 if is_lit_in_front else -1.0)
        points = Points(positions_m=self.points_m, normals=np.broadcast_to(normal, self.points_m.shape), are_many=True)
        return levels_lx(lamps, points, blockers)

    def sent_lx(
        self,
        lamps: Sequence[Light],
        lit_lx: Array,
        points: Points,
        blockers: Sequence[Blocker],
        *,
        is_lit_in_front: bool,
    ) -> Array:
        """What reaches receivers of what the lamps lay on one side. Shapes: lit_lx (L, P); gives (L, R).

        It leaves on the far side of a cloth, on the lit side of a bounce. A matt one knows no lamp, so that all share
        its transfer; so do windows and the sky,
        which come from everywhere. Source: E = sum of (candela towards the receiver) cos(epsilon) / r^2.
        """
        leaves_in_front = is_lit_in_front == (self.frame.transmittance is None)
        leaving = self.frame.panel.normal * (1.0 if leaves_in_front else -1.0)
        ends, normals = points.positions_m, points.normals
        throw = np.sqrt(np.maximum(cdist(self.points_m, ends, "sqeuclidean"), 1e-12))
        out = np.maximum((ends @ leaving)[None, :] - (self.points_m @ leaving)[:, None], 0.0) / throw
        arriving = np.maximum(self.points_m @ normals.T - np.einsum("rk,rk->r", ends, normals)[None, :], 0.0) / throw
        for_a_candela = arriving / np.square(throw) * (self.frame.scattered_share * self.area_m2)[:, None]
        if blockers:
            for_a_candela = for_a_candela * passing(self.points_m, ends, blockers)
        gathered = [
            at for at, lamp in enumerate(lamps) if self.frame.lobe_deg < MATT_DEG and isinstance(lamp, SceneLamp)
        ]
        if not gathered:
            return np.asarray(lit_lx @ (for_a_candela * out / np.pi))
        sent = np.zeros((len(lamps), len(ends)))
        even = [at for at in range(len(lamps)) if at not in gathered]
        if even:
            sent[even] = lit_lx[even] @ (for_a_candela * out / np.pi)
        ways = np.array([self._way_on(lamps[at]) for at in gathered])  # type: ignore[arg-type]
        seen = np.ascontiguousarray(for_a_candela * (out > 0.0))
        sent[gathered] = lobes_lx(
            np.ascontiguousarray(lit_lx[gathered]),
            ways,
            self.points_m,
            np.ascontiguousarray(ends),
            seen,
            float(lobe_exponent(self.frame.lobe_deg)),
        )
        return sent

    def _way_on(self, lamp: SceneLamp) -> Array:
        """The middle of each point's lobe: the way that light came, or its mirror image.

        Shape (P, 3), each of length 1.
        """
        came = self.points_m - lamp.position_m
        came = came / np.maximum(np.linalg.norm(came, axis=1, keepdims=True), 1e-9)
        if self.frame.transmittance is not None:
            return np.asarray(came)
        normal = self.frame.panel.normal
        return np.asarray(came - 2.0 * (came @ normal)[:, None] * normal)
