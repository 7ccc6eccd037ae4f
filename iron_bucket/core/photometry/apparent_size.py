"""How large a source looks: what decides how soft its light is."""

import numpy as np

from iron_bucket.core.arrays import Array, Floats


def apparent_size_deg(size_m: Floats, from_m: Floats) -> Array:
    """Of something square to the view. Shapes: broadcast together.

    Source: an angle of 2 atan(s / 2d).
    """
    return np.asarray(2.0 * np.degrees(np.arctan(np.asarray(size_m) / 2.0 / from_m)))
