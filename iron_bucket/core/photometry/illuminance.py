"""Illuminance from a source small enough to be a point, or a lens whose point lies elsewhere."""

import numpy as np

from iron_bucket.core.arrays import Array, Floats
from iron_bucket.core.checks import require_positive

#: Nearer than this many times its longest side, a face must be computed as an area (1 % error there).
POINT_SOURCE_SIDES = 5.0


def illuminance_lx(intensity_cd: Floats, throw_m: Floats, tilt_deg: Floats = 0.0, offset_m: Floats = 0.0) -> Array:
    """Illuminance from one small source on a face turned away from the beam by ``tilt_deg``.

    ``offset_m`` is the virtual source behind (positive) or before the housing, fitted from readings.
    Shapes: all broadcast together. A face turned past 90 degrees gets 0, not less.
    Valid:  throw_m above five times the source's longest side; nearer, a face law.
    Raises: BadValue if throw_m, or throw_m + offset_m, is not above 0.
    Source: inverse-square and cosine laws, E = I cos(tilt) / (d + offset)^2.
    """
    require_positive("throw_m", throw_m, unit="m")
    require_positive("throw_m + offset_m", throw_m + np.asarray(offset_m), unit="m")
    cosine = np.maximum(np.cos(np.radians(tilt_deg)), 0.0)
    return np.asarray(intensity_cd * cosine / np.square(throw_m + np.asarray(offset_m)))


def obeys_inverse_square(throw_m: float, longest_side_m: float) -> bool:
    """Whether a Lambertian face of that size may be taken as a point at that distance."""
    return throw_m >= POINT_SOURCE_SIDES * longest_side_m
