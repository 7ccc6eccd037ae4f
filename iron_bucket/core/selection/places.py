"""Where across the subject the level is looked at."""

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.selection.need import Need

#: What has been scattered has no sharp edge, and is looked at on every fourth place.
PLACES, EVERY_SCATTERED = 49, 4
#: Coverage is looked for out to this share of the throw on either side, or three quarters of the width asked for.
REACH_OF_THROW = 0.6
REACH_OF_WIDTH = 0.75
#: No light is taken for less than this; logarithms are drawn from it.
DARK_LX = 1e-9


def places_across_m(need: Need) -> Array:
    """From the axis outwards. Shape (PLACES,)."""
    return np.linspace(0.0, reach_m(need), PLACES)


def reach_m(need: Need) -> float:
    """How far to either side of the axis coverage is looked for."""
    return max(REACH_OF_THROW * need.throw_m, REACH_OF_WIDTH * (need.width_m or 0.0))


def smooth_places(places_m: Array) -> Array:
    """Those at which scattered light is looked at. Shapes (M,) to (fewer,)."""
    return places_m[::EVERY_SCATTERED] if len(places_m) == PLACES else places_m
