"""What lights send straight to points in space, past whatever stands in the way."""

from collections.abc import Hashable, Sequence

import numpy as np
from scipy.spatial.distance import cdist

from iron_bucket.core.arrays import Array, angle_rad
from iron_bucket.core.modifiers.cells import grid_cut
from iron_bucket.core.modifiers.two_stage import ROUND, Head
from iron_bucket.core.photometry.contour import form_factors
from iron_bucket.core.photometry.distribution import BeamField, CosinePower
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.photometry.steady import Steady
from iron_bucket.core.scene.blocking import Blocker, Blockers, passing
from iron_bucket.core.scene.face_pieces import FACE_PIECES, face_outline, face_pieces
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.scene import Light, SceneLamp
from iron_bucket.core.scene.seen_part import seen_form_factor
from iron_bucket.core.scene.sunlight import disc_m, is_sun

#: Pieces along each side of a face for the many points of the walls.
_FACE_PIECES_FOR_WALLS = 2


def lamp_flux_lm(lamp: Light) -> float:
    """Lumens at full output. Source: of a Lambertian face pi L A."""
    if not isinstance(lamp, SceneLamp):
        return lamp.flux_lm()
    if lamp.face is not None:
        return float(np.pi * lamp.face.luminance_cd_m2 * lamp.face.area_m2)
    return lumens(lamp.intensity)


def lamp_level_lx(lamp: Light, points: Points, blockers: Sequence[Blocker]) -> Array:
    """Illuminance straight from a light at full output. Shape (R,)."""
    return np.asarray(levels_lx((lamp,), points, blockers)[0])


def levels_lx(lamps: Sequence[Light], points: Points, blockers: Sequence[Blocker]) -> Array:
    """The same of many lights; all small lamps are looked at together, and one pane once, however many skies stand
    behind it. Shape (L, R).
    """
    levels = np.zeros((len(lamps), len(points.normals)))
    alike: dict[Hashable, list[int]] = {}
    small: list[SceneLamp] = []
    places = []
    for at, lamp in enumerate(lamps):
        if not isinstance(lamp, SceneLamp):
            alike.setdefault(lamp.stands, []).append(at)
        elif lamp.face is not None:
            levels[at] = _face_level_lx(lamp, points, blockers)
        else:
            small.append(lamp)
            places.append(at)
    for skies in alike.values():
        view = lamps[skies[0]].view(points, blockers)  # type: ignore[union-attr]
        levels[skies] = view.levels_lx([lamps[at] for at in skies])  # type: ignore[misc]
    if small:
        seen = passing(np.array([lamp.position_m for lamp in small]), points.positions_m, blockers)
        for at, lamp in enumerate(small):
            if is_sun(lamp) and not points.are_many and len(blockers):
                seen[at] = passing(disc_m(lamp), points.positions_m, blockers).mean(axis=0)
        levels[places] = small_levels_lx(small, points) * seen
    return levels


def small_levels_lx(lamps: Sequence[SceneLamp], points: Points) -> Array:
    """Of lamps with an intensity, nothing in the way. Shape (L, R).

    Source: E = I cos(epsilon) / r^2, or as a dome counts it.
    """
    starts, aims = np.array([lamp.position_m for lamp in lamps]), np.array([lamp.aim for lamp in lamps])
    ends, normals = points.positions_m, points.normals
    throw = np.maximum(cdist(starts, ends), 1e-9)
    facing = points.counted((starts @ normals.T - np.einsum("rk,rk->r", ends, normals)) / throw)
    ahead = (aims @ ends.T - np.einsum("lk,lk->l", starts, aims)[:, None]) / throw
    gamma = np.degrees(angle_rad(ahead))
    return np.asarray(_candela(lamps, ends, gamma) * facing / np.square(throw))


def _candela(lamps: Sequence[SceneLamp], ends_m: Array, gamma_deg: Array) -> Array:
    """Towards some points; lamps of one round beam are looked at together. Shapes (R, 3), (L, R) to (L, R)."""
    candela = np.empty_like(gamma_deg)
    alike: dict[BeamField | CosinePower | Steady, list[int]] = {}
    for at, lamp in enumerate(lamps):
        if isinstance(lamp.intensity, ROUND):
            alike.setdefault(lamp.intensity, []).append(at)
        else:
            head = Head(position_m=lamp.position_m, aim=lamp.aim, distribution=lamp.intensity)  # type: ignore[arg-type]
            candela[at] = head.intensity_towards_cd(ends_m)
    for beam, rows in alike.items():
        candela[rows] = beam.intensity_cd(gamma_deg[rows])
    return candela


def _face_level_lx(lamp: SceneLamp, points: Points, blockers: Sequence[Blocker]) -> Array:
    """Exactly as far as marks see it; piece by piece for the many points of a wall, and behind cells."""
    is_cut = lamp.face is not None and lamp.face.cutoff_deg is not None
    corners, centres, luminance = face_pieces(lamp, _FACE_PIECES_FOR_WALLS if points.are_many else FACE_PIECES)
    seen = passing(centres, points.positions_m, blockers).T
    if is_cut or points.are_many:
        shares = form_factors(corners, points.positions_m, points.normals, points.domes) * seen
        if is_cut:
            shares *= _through_cells(lamp.face.cutoff_deg, centres, points.positions_m, lamp.aim)  # type: ignore[union-attr, arg-type]
        return np.asarray(np.pi * luminance * shares.sum(axis=1))
    outline = face_outline(lamp)
    seen = np.concatenate([seen, passing(outline, points.positions_m, blockers).T], axis=1)
    least, most = seen.min(axis=1), seen.max(axis=1)
    share = most * form_factors(outline[None], points.positions_m, points.normals, points.domes)[:, 0]
    for at in np.flatnonzero(most > least):
        place, normal, laid = points.positions_m[at], points.normals[at], Blockers.of(blockers)
        part = seen_form_factor(outline, place, normal, laid, is_dome=points.is_dome(at))
        if part is None:
            one = points.some(np.array([at]))
            pieces = form_factors(corners, one.positions_m, one.normals, one.domes)[0]
            part = float(pieces @ seen[at, : len(pieces)])
        share[at] = part
    return np.asarray(np.pi * luminance * share)


def _through_cells(cutoff_deg: float, centres: Array, positions_m: Array, aim: Array) -> Array:
    """Share that cells let through from each piece to each receiver. Shapes (Q, 3), (R, 3) to (R, Q)."""
    ahead = (positions_m @ aim)[:, None] - (centres @ aim)[None, :]
    cosine = np.clip(ahead / np.maximum(cdist(positions_m, centres), 1e-9), 1e-6, 1.0)
    return grid_cut(cutoff_deg, np.degrees(np.arccos(cosine)))
