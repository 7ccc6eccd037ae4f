"""Light of flat Lambertian polygons at any place and tilt, many polygons and receivers at once, by Lambert's contour
integral.
"""

import numpy as np
from numba import njit

from iron_bucket.core.arrays import Array

_ON_HORIZON_M = 1e-12


def form_factors(corners_m: Array, positions_m: Array, normals: Array, domes: np.ndarray | None = None) -> Array:
    """Illuminance at receivers for each unit of exitance of convex polygons; what lies behind the horizon of a flat
    receiver is cut off. ``domes`` (R,): which receivers are domes.

    A polygon emits on the side from which its corners run counter-clockwise; receivers behind it get 0. Shapes:
    corners_m (Q, N, 3), positions_m and normals (R, 3), normals of length 1; gives (R, Q).
    Source: Lambert 1760; E = (M / 2 pi) sum over edges of (angle of edge) (edge plane normal . receiver normal). A dome
    counts (1 + cos(epsilon)) / 2 of each ray: half the solid angle over pi, and half the same sum with no horizon.
    """
    is_dome = np.zeros(len(positions_m), dtype=bool) if domes is None else domes
    return np.asarray(_pairs(_plain(corners_m), _plain(positions_m), _plain(normals), is_dome))


def _plain(array: Array) -> Array:
    return np.ascontiguousarray(array, dtype=np.float64)


@njit(cache=True, error_model="numpy")
def _contour_integral(rays, count, normal):  # type: ignore[no-untyped-def]
    """The contour integral over one figure, as a form factor; below 0 for what lies below the horizon."""
    total = 0.0
    for corner in range(count):
        after = corner + 1 if corner + 1 < count else 0
        # One by one: a row taken out of an array is many times as slow.
        start_x, start_y, start_z = rays[corner, 0], rays[corner, 1], rays[corner, 2]
        end_x, end_y, end_z = rays[after, 0], rays[after, 1], rays[after, 2]
        x = start_y * end_z - start_z * end_y
        y = start_z * end_x - start_x * end_z
        z = start_x * end_y - start_y * end_x
        sine = np.sqrt(x * x + y * y + z * z)
        if sine > 1e-15:
            angle = np.arctan2(sine, start_x * end_x + start_y * end_y + start_z * end_z)
            total += angle / sine * (x * normal[0] + y * normal[1] + z * normal[2])
    return -total / (2.0 * np.pi)


@njit(cache=True, error_model="numpy")
def _solid_angle(rays, count):  # type: ignore[no-untyped-def]
    """Of a convex figure, as a fan of triangles. Source: van Oosterom and Strackee, 1983."""
    whole = 0.0
    one = rays[0]
    one_m = np.sqrt(one[0] ** 2 + one[1] ** 2 + one[2] ** 2)
    for corner in range(1, count - 1):
        two, three = rays[corner], rays[corner + 1]
        two_m = np.sqrt(two[0] ** 2 + two[1] ** 2 + two[2] ** 2)
        three_m = np.sqrt(three[0] ** 2 + three[1] ** 2 + three[2] ** 2)
        volume = (
            one[0] * (two[1] * three[2] - two[2] * three[1])
            + one[1] * (two[2] * three[0] - two[0] * three[2])
            + one[2] * (two[0] * three[1] - two[1] * three[0])
        )
        along = one_m * two_m * three_m
        along += (one[0] * two[0] + one[1] * two[1] + one[2] * two[2]) * three_m
        along += (one[0] * three[0] + one[1] * three[1] + one[2] * three[2]) * two_m
        along += (two[0] * three[0] + two[1] * three[1] + two[2] * three[2]) * one_m
        whole += 2.0 * np.arctan2(volume, along)
    return abs(whole)


@njit(cache=True, error_model="numpy")
def above_horizon(rays, heights, sides, cut):  # type: ignore[no-untyped-def]
    """The part of a convex figure above the receiver's horizon, closed along it.

    Source: Sutherland and Hodgman, 1974.
    """
    count = 0
    for corner in range(sides):
        following = (corner + 1) % sides
        if heights[corner] > 0.0:
            for axis in range(3):
                cut[count, axis] = rays[corner, axis]
            count += 1
        if (heights[corner] > 0.0) != (heights[following] > 0.0):
            share = heights[corner] / (heights[corner] - heights[following])
            for axis in range(3):
                cut[count, axis] = rays[corner, axis] + share * (rays[following, axis] - rays[corner, axis])
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


@njit(cache=True, error_model="numpy")
def figure_form_factor(rays, heights, sides, normal, is_dome, cut):  # type: ignore[no-untyped-def]
    """Of one convex figure, by the rays to its corners and their heights over the receiver's plane; ``cut`` is spare
    room for two corners more.
    """
    if is_dome:
        return max(0.5 * (_solid_angle(rays, sides) / np.pi + _contour_integral(rays, sides, normal)), 0.0)
    lowest, highest = heights[0], heights[0]
    for corner in range(1, sides):
        lowest, highest = min(lowest, heights[corner]), max(highest, heights[corner])
    if highest <= 0.0:
        return 0.0
    if lowest > 0.0:
        return max(_contour_integral(rays, sides, normal), 0.0)
    kept = above_horizon(rays, heights, sides, cut)
    return max(_contour_integral(cut, kept, normal), 0.0) if kept > 2 else 0.0


# Compiled where it is read, not where it is first called: the server's threads have too little stack for a compiler.
@njit("float64[:,::1](float64[:,:,::1], float64[:,::1], float64[:,::1], boolean[::1])", cache=True, error_model="numpy")
def _pairs(corners, positions, normals, domes):  # type: ignore[no-untyped-def]
    """Every receiver with every polygon."""
    outward = _outward(corners)
    polygons, sides, receivers = corners.shape[0], corners.shape[1], positions.shape[0]
    factors = np.zeros((receivers, polygons))
    rays, heights, cut = np.empty((sides, 3)), np.empty(sides), np.empty((sides + 2, 3))
    for receiver in range(receivers):
        normal = normals[receiver]
        for polygon in range(polygons):
            in_front = 0.0
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
            if in_front > 0.0:
                is_dome = domes[receiver]
                factors[receiver, polygon] = figure_form_factor(rays, heights, sides, normal, is_dome, cut)
    return factors
