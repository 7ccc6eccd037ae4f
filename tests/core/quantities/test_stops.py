import numpy as np
import pytest

from iron_bucket.core.quantities.stops import factor_from_stops, stops_between


def test_a_stop_is_a_factor_of_two():
    assert stops_between(1280.0, 640.0) == pytest.approx(1.0)
    assert isinstance(stops_between(1280.0, 640.0), float)
    np.testing.assert_allclose(stops_between(np.array([8.0, 1.0]), 2.0), [2.0, -1.0])
    assert factor_from_stops(-2.0) == 0.25
