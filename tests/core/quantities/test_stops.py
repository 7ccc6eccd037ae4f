import numpy as np
import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities.stops import factor_from_stops, stops_between, stops_from_density


def test_a_stop_is_a_factor_of_two():
    assert stops_between(1280.0, 640.0) == pytest.approx(1.0)
    assert isinstance(stops_between(1280.0, 640.0), float)
    np.testing.assert_allclose(stops_between(np.array([8.0, 1.0]), 2.0), [2.0, -1.0])
    assert factor_from_stops(-2.0) == 0.25


@pytest.mark.parametrize(("level", "reference", "field"), [(0.0, 1.0, "level"), (1.0, -1.0, "reference")])
def test_no_stops_from_darkness(level, reference, field):
    with pytest.raises(BadValue, match=f"{field} is .*; accepted: above 0"):
        stops_between(level, reference)


def test_density_counts_a_stop_for_three_tenths():
    assert stops_from_density(0.9) == pytest.approx(3.0)
