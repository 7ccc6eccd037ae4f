"""Directions around a lamp, and the three goniometer conventions that describe them.

The lamp looks along +z; C0 lies towards +x, C90 towards +y. Gamma is the angle from the axis.
Source: IES LM-75-01, types A, B and C.
"""

import numpy as np

from iron_bucket.core.arrays import Array, Floats


def unit_vectors(gamma_deg: Floats, azimuth_deg: Floats) -> tuple[Array, Array, Array]:
    """x, y, z of directions given in type C angles. Shapes: broadcast together."""
    gamma, azimuth = np.radians(gamma_deg), np.radians(azimuth_deg)
    gamma, azimuth = np.broadcast_arrays(gamma, azimuth)
    return np.sin(gamma) * np.cos(azimuth), np.sin(gamma) * np.sin(azimuth), np.cos(gamma)


def type_a_angles(gamma_deg: Floats, azimuth_deg: Floats) -> tuple[Array, Array]:
    """Vertical and horizontal angle of type A: the horizontal turns first, the vertical is the latitude."""
    x, y, z = unit_vectors(gamma_deg, azimuth_deg)
    return np.degrees(np.arctan2(y, np.hypot(x, z))), np.degrees(np.arctan2(x, z))


def type_b_angles(gamma_deg: Floats, azimuth_deg: Floats) -> tuple[Array, Array]:
    """Vertical and horizontal angle of type B: the vertical turns first, the horizontal is the latitude."""
    x, y, z = unit_vectors(gamma_deg, azimuth_deg)
    return np.degrees(np.arctan2(y, z)), np.degrees(np.arctan2(x, np.hypot(y, z)))
