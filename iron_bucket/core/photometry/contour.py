"""Illuminance of a flat Lambertian polygon at any place and tilt, by Lambert's contour integral."""

import numpy as np

from iron_bucket.core.arrays import Array

_ON_HORIZON_M = 1e-12


def polygon_illuminance_lx(luminance_cd_m2: float, vertices_m: Array, positions_m: Array, normals: Array) -> Array:
    """Illuminance of a convex polygon on receivers; what lies behind a receiver's horizon is cut off.

    The polygon emits on the side from which its vertices run counter-clockwise; receivers behind it get 0.
    Shapes: vertices_m (N, 3), positions_m and normals (R, 3), normals of length 1; gives (R,).
    Source: Lambert 1760, E = (L/2) sum over edges of (angle of edge) (edge plane normal . receiver normal).
    """
    rays = vertices_m[None, :, :] - positions_m[:, None, :]  # (R, N, 3)
    emitted = np.cross(vertices_m[1] - vertices_m[0], vertices_m[2] - vertices_m[1])
    in_front = np.einsum("rk,k->r", positions_m - vertices_m[0], emitted) > 0
    heights = np.einsum("rnk,rk->rn", rays, normals)
    # A wall stands with its foot on the floor's horizon; counted as just above, its edge there is not lost.
    heights = np.where(np.abs(heights) < _ON_HORIZON_M, _ON_HORIZON_M, heights)
    following, next_heights = np.roll(rays, -1, axis=1), np.roll(heights, -1, axis=1)
    crossing = heights * next_heights < 0
    share = np.where(crossing, heights / np.where(crossing, heights - next_heights, 1.0), 0.0)[..., None]
    at_horizon = rays + share * (following - rays)
    visible = (heights > 0) | (next_heights > 0)
    start = np.where((crossing & (heights < 0))[..., None], at_horizon, rays)
    end = np.where((crossing & (next_heights < 0))[..., None], at_horizon, following)
    total = np.sum(np.where(visible, _edge(start, end, normals[:, None, :]), 0.0), axis=1)
    # A convex polygon leaves the horizon once and comes back once; that gap is an edge along the horizon.
    leaves, returns = crossing & (next_heights < 0), crossing & (heights < 0)
    exit_point = np.sum(np.where(leaves[..., None], at_horizon, 0.0), axis=1)
    entry_point = np.sum(np.where(returns[..., None], at_horizon, 0.0), axis=1)
    total += np.where(leaves.any(axis=1), _edge(exit_point, entry_point, normals), 0.0)
    return np.where(in_front, np.maximum(-total, 0.0) * luminance_cd_m2 / 2.0, 0.0)


def _edge(start: Array, end: Array, normal: Array) -> Array:
    """Angle that an edge spans, times the cosine between its plane and the receiver's normal."""
    across = np.cross(start, end)
    sine = np.linalg.norm(across, axis=-1)
    cosine = np.sum(start * end, axis=-1)
    angle = np.arctan2(sine, cosine)
    return np.where(sine > 1e-15, angle * np.sum(across * normal, axis=-1) / np.where(sine > 1e-15, sine, 1.0), 0.0)


def disc_polygon(radius_m: float, sides: int = 720) -> Array:
    """A regular polygon of the disc's area in the plane z = 0, counter-clockwise seen from +z. Shape (sides, 3)."""
    equal_area = radius_m * np.sqrt(2.0 * np.pi / (sides * np.sin(2.0 * np.pi / sides)))
    turn = np.arange(sides) * 2.0 * np.pi / sides
    return np.stack([equal_area * np.cos(turn), equal_area * np.sin(turn), np.zeros(sides)], axis=1)


def rectangle_polygon(width_m: float, height_m: float) -> Array:
    """A rectangle in the plane z = 0, counter-clockwise seen from +z. Shape (4, 3)."""
    x, y = width_m / 2.0, height_m / 2.0
    return np.array([[-x, -y, 0.0], [x, -y, 0.0], [x, y, 0.0], [-x, y, 0.0]])
