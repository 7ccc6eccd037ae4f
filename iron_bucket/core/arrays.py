"""The number types that bulk work takes and gives."""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
#: One float or an array of them; functions that take it broadcast.
Floats = float | Array


def cross(one: Array, other: Array) -> Array:
    """Cross product of two vectors of shape (3,).

    The library's costs thirty times as much there, for its choice of axes, and scenes ask by the thousand.
    """
    (a, b, c), (d, e, f) = one, other
    return np.array([b * f - c * e, c * d - a * f, a * e - b * d])
