"""What proposals are written down to."""

import numpy as np

from iron_bucket.core.setups.plan.written import dialled, placed_m, turned_deg


def test_places_angles_and_levels_are_written_to_their_digit():
    place = np.array([1.23456, -2.00049, 0.9995001])
    assert placed_m(place) == {"x_m": 1.235, "y_m": -2.0, "z_m": 1.0}
    assert placed_m(place[:2]) == {"x_m": 1.235, "y_m": -2.0}
    assert turned_deg(np.array([1.0, 2.0, 0.5])) == {"bearing_deg": 26.6, "tilt_deg": 12.6}  # atan 1/2; atan 0.5/sqrt 5
    assert dialled(0.123456) == 0.1235
