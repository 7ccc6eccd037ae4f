"""Light of flat Lambertian polygons at any place and tilt, many polygons and receivers at once, by Lambert's contour
integral.
"""

import numpy as np
from numba import njit

from iron_bucket.core.arrays import Array

_ON_HORIZON_M = 1e-12


def form_factors(corners_m: Array, positions_m: Array, normals: Array) -> Array:
    """Illuminance at receivers for each unit of exitance of convex polygons; what lies behind a receiver's horizon is
    cut off.

    A polygon emits on the side from which its corners run counter-clockwise; receivers behind it get 0. Shapes:
    corners_m (Q, N, 3), positions_m and
    normals (R, 3), normals of length 1; gives (R, Q).
    Source: Lambert 1760; E = (M / 2 pi) sum over edges of (angle of edge) (edge plane normal . receiver normal).
    """
    return np.asarray(_pairs(_plain(corners_m), _plain(positions_m), _plain(normals)))


def _plain(array: Array) -> Array:
    return np.ascontiguousarray(array, dtype=np.float64)


@njit(cache=True, error_model="numpy")
def contour_integral(rays, count, normal):  # type: ignore[no-untyped-def]
    """The contour integral over one figure, as a form factor."""
    total = 0.0
    for corner in range(count):
        start, end = rays[corner], rays[(corner + 1) % count]
        x = start[1] * end[2] - start[2] * end[1]
        y = start[2] * end[0] - start[0] * end[2]
        z = start[0] * end[1] - start[1] * end[0]
        sine = np.sqrt(x * x + y * y + z * z)
        if sine > 1e-15:
            angle = np.arctan2(sine, start[0] * end[0] + start[1] * end[1] + start[2] * end[2])
            total += angle / sine * (x * normal[0] + y * normal[1] + z * normal[2])
    return max(-total, 0.0) / (2.0 * np.pi)


@njit(cache=True, error_model="numpy")
def above_horizon(rays, heights, sides, cut):  # type: ignore[no-untyped-def]
    """The part of a convex figure above the receiver's horizon, closed along it.

    Source: Sutherland and Hodgman, 1974.
    """
    count = 0
    for corner in range(sides):
        following = (corner + 1) % sides
        if heights[corner] > 0.0:
            cut[count] = rays[corner]
            count += 1
        if (heights[corner] > 0.0) != (heights[following] > 0.0):
            share = heights[corner] / (heights[corner] - heights[following])
            cut[count] = rays[corner] + share * (rays[following] - rays[corner])
            count += 1
    return count


@njit(cache=True, error_model="numpy")
def _outward(corners):  # type: ignore[no-untyped-def]
    """The side that each polygon emits on, as the cross product of its first two edges. Shape (Q, 3)."""
    found = np.empty((corners.shape[0], 3))
    for polygon in range(corners.shape[0]):
        one, other = corners[polygon, 1] - corners[polygon, 0], corners[polygon, 2] - corners[polygon, 1]
        found[polygon, 0] = one[1] * other[2] - one[2] * other[1]
        found[polygon, 1] = one[2] * other[0] - one[0] * other[2]
        found[polygon, 2] = one[0] * other[1] - one[1] * other[0]
    return found


# Compiled where it is read, not where it is first called: the server's threads have too little stack for a compiler.
@njit("float64[:,::1](float64[:,:,::1], float64[:,::1], float64[:,::1])", cache=True, error_model="numpy")
def _pairs(corners, positions, normals):  # type: ignore[no-untyped-def]
    """Every receiver with every polygon."""
    outward = _outward(corners)
    polygons, sides, receivers = corners.shape[0], corners.shape[1], positions.shape[0]
    factors = np.zeros((receivers, polygons))
    rays, heights, cut = np.empty((sides, 3)), np.empty(sides), np.empty((sides + 2, 3))
    for receiver in range(receivers):
        normal = normals[receiver]
        for polygon in range(polygons):
            in_front = 0.0
            above = 0
            for corner in range(sides):
                height = 0.0
                for axis in range(3):
                    ray = corners[polygon, corner, axis] - positions[receiver, axis]
                    rays[corner, axis] = ray
                    height += ray * normal[axis]
                    if corner == 0:
                        in_front -= ray * outward[polygon, axis]
                # A wall stands with its foot on the floor's horizon; counted as just above, its edge there is not lost.
                if abs(height) < _ON_HORIZON_M:
                    height = _ON_HORIZON_M
                heights[corner] = height
                if height > 0.0:
                    above += 1
            if in_front <= 0.0 or above == 0:
                continue
            if above == sides:
                factors[receiver, polygon] = contour_integral(rays, sides, normal)
            else:
                count = above_horizon(rays, heights, sides, cut)
                factors[receiver, polygon] = contour_integral(cut, count, normal)
    return factors
