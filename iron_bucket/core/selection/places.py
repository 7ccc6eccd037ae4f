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


def between_smooth(levels_lx: Array, places_m: Array) -> Array:
    """Levels at all places from those at the smooth ones, along lines in stops over the square of the place: so levels
    fall near the axis. Shapes (..., fewer), (M,) to (..., M).
    """
    fewer = smooth_places(places_m)
    if len(fewer) == len(places_m):
        return levels_lx
    squares = np.square(places_m), np.square(fewer)
    between = np.array([np.interp(*squares, one) for one in np.eye(len(fewer))]).astype(levels_lx.dtype)
    return np.asarray(np.exp2(np.log2(np.maximum(levels_lx, DARK_LX)) @ between))
