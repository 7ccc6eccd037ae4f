"""Light of flat Lambertian polygons at any place and tilt, many polygons and receivers at once, by Lambert's contour integral."""

import numpy as np

from iron_bucket.core.arrays import Array

_ON_HORIZON_M = 1e-12
#: Receivers in one go: enough that Python does not show, few enough for the cache.
_CHUNK_PAIRS = 120_000


def form_factors(corners_m: Array, positions_m: Array, normals: Array) -> Array:
    """Illuminance at receivers for each unit of exitance of convex polygons; what lies behind a receiver's horizon is cut off.

    A polygon emits on the side from which its corners run counter-clockwise; receivers behind it get 0. Shapes: corners_m (Q, N, 3), positions_m and
    normals (R, 3), normals of length 1; gives (R, Q).
    Source: Lambert 1760; E = (M / 2 pi) sum over edges of (angle of edge) (edge plane normal . receiver normal).
    """
    outward = np.cross(corners_m[:, 1] - corners_m[:, 0], corners_m[:, 2] - corners_m[:, 1])
    factors = np.empty((len(positions_m), len(corners_m)))
    step = max(1, _CHUNK_PAIRS // max(len(corners_m), 1))
    for start in range(0, len(positions_m), step):
        part = slice(start, start + step)
        factors[part] = _some(corners_m, outward, positions_m[part], normals[part])
    return factors


def _some(corners: Array, outward: Array, positions: Array, normals: Array) -> Array:
    rays = corners[None] - positions[:, None, None, :]  # (R, Q, N, 3)
    in_front = np.einsum("rqk,qk->rq", -rays[:, :, 0], outward) > 0
    heights = np.einsum("rqnk,rk->rqn", rays, normals)
    # A wall stands with its foot on the floor's horizon; counted as just above, its edge there is not lost.
    heights = np.where(np.abs(heights) < _ON_HORIZON_M, _ON_HORIZON_M, heights)
    above = heights > 0
    factors = np.zeros(in_front.shape)
    whole = in_front & above.all(axis=2)
    rows, columns = np.nonzero(whole)
    if len(rows):
        factors[rows, columns] = _contour(rays[rows, columns], normals[rows])
    cut = in_front & above.any(axis=2) & ~above.all(axis=2)
    rows, columns = np.nonzero(cut)
    if len(rows):
        factors[rows, columns] = _cut_contour(rays[rows, columns], heights[rows, columns], normals[rows])
    return factors


def _edges(start: Array, end: Array, normals: Array) -> Array:
    """Angle that each edge spans, times the cosine between its plane and the receiver's normal. Shapes (..., 3) to (...)."""
    across = np.cross(start, end)
    sine = np.sqrt(np.einsum("...k,...k->...", across, across))
    angle = np.arctan2(sine, np.einsum("...k,...k->...", start, end))
    return np.asarray(
        np.where(sine > 1e-15, angle / np.maximum(sine, 1e-15), 0.0) * np.einsum("...k,...k->...", across, normals)
    )


def _contour(rays: Array, normals: Array) -> Array:
    """Pairs (P, N, 3) that lie wholly above the horizon."""
    around = _edges(rays, np.roll(rays, -1, axis=1), normals[:, None, :]).sum(axis=1)
    return np.asarray(np.maximum(-around, 0.0) / (2.0 * np.pi))


def _cut_contour(rays: Array, heights: Array, normals: Array) -> Array:
    """Pairs that cross the horizon: the part above, closed along it."""
    following, next_heights = np.roll(rays, -1, axis=1), np.roll(heights, -1, axis=1)
    crossing = heights * next_heights < 0
    share = np.where(crossing, heights / np.where(crossing, heights - next_heights, 1.0), 0.0)[..., None]
    at_horizon = rays + share * (following - rays)
    start = np.where((crossing & (heights < 0))[..., None], at_horizon, rays)
    end = np.where((crossing & (next_heights < 0))[..., None], at_horizon, following)
    visible = (heights > 0) | (next_heights > 0)
    around = np.where(visible, _edges(start, end, normals[:, None, :]), 0.0).sum(axis=1)
    # A convex figure leaves the horizon once and comes back once; that gap is an edge along the horizon.
    leaves, returns = crossing & (next_heights < 0), crossing & (heights < 0)
    exit_point = np.where(leaves[..., None], at_horizon, 0.0).sum(axis=1)
    entry_point = np.where(returns[..., None], at_horizon, 0.0).sum(axis=1)
    around += _edges(exit_point, entry_point, normals)
    return np.asarray(np.maximum(-around, 0.0) / (2.0 * np.pi))
