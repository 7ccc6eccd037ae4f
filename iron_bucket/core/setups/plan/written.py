"""To which digit a plan is written down by what proposes: finer than anybody puts a stand or turns a dial."""

from typing import Any

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.places.bearing import bearing_of, tilt_of


def placed_m(place_m: Array) -> dict[str, Any]:
    """``x_m``, ``y_m`` and, where there are three, ``z_m``, to the millimetre."""
    return dict(zip(("x_m", "y_m", "z_m"), np.round(place_m, 3).tolist(), strict=False))


def turned_deg(towards: Array) -> dict[str, Any]:
    """Bearing and tilt of what looks that way."""
    return {"bearing_deg": tenth_deg(bearing_of(towards)), "tilt_deg": tenth_deg(tilt_of(towards))}


def tenth_deg(angle_deg: float) -> float:
    """To a tenth of a degree."""
    return round(angle_deg, 1)


def dialled(level: float) -> float:
    """A dimmer's level, to a hundredth of a percent."""
    return round(level, 4)


def hundredth(value: float) -> float:
    """Of a stop."""
    return round(value, 2)
