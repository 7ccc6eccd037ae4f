"""Figures that arithmetic left a hair apart count as equal: 0.8 x 20 A is a limit that 16 A keeps."""

import math
from typing import overload

import numpy as np
from numpy.typing import NDArray

from iron_bucket.core.arrays import Array, Floats

#: Of one, and of the limit.
_HAIR = 1e-9


@overload
def at_most(value: float, limit: float) -> bool: ...
@overload
def at_most(value: Array, limit: Floats) -> NDArray[np.bool_]: ...
@overload
def at_most(value: Floats, limit: Array) -> NDArray[np.bool_]: ...
def at_most(value: Floats, limit: Floats) -> bool | NDArray[np.bool_]:
    """Whether a limit is kept, whatever the last binary digit did to either."""
    hair: Floats = _HAIR * (1.0 + abs(limit))  # type: ignore[operator]
    return value <= limit + hair


def whole_up(value: float) -> int:
    """The next whole number, which is the value itself where only rounding took it past that."""
    return math.ceil(value - _HAIR)


def whole_down(value: float) -> int:
    """The whole number below, which is the value itself where only rounding took it under that."""
    return math.floor(value + _HAIR)
