import numpy as np
import pytest

from iron_bucket.core.photometry.illuminance import illuminance_lx
from tests.conftest import golden_cases


@pytest.mark.parametrize(("given", "expected", "rel_tol"), golden_cases("optics.json", "inverse_square"))
def test_inverse_square(given, expected, rel_tol):
    level = illuminance_lx(given["intensity_cd"], given["distance_m"], given["incidence_deg"])
    assert level == pytest.approx(expected["lux"], rel=rel_tol)


def test_twice_the_throw_leaves_a_quarter():
    near_lx, far_lx = illuminance_lx(8000.0, np.array([2.0, 4.0]))
    assert near_lx / far_lx == pytest.approx(4.0)
