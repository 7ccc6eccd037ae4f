import numpy as np
import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.photometry.illuminance import illuminance_lx, obeys_inverse_square
from tests.conftest import golden_cases


@pytest.mark.parametrize(("given", "expected", "rel_tol"), golden_cases("optics.json", "inverse_square"))
def test_inverse_square(given, expected, rel_tol):
    level = illuminance_lx(given["intensity_cd"], given["distance_m"], given["incidence_deg"])
    assert level == pytest.approx(expected["lux"], rel=rel_tol)


def test_twice_the_throw_leaves_a_quarter():
    near_lx, far_lx = illuminance_lx(8000.0, np.array([2.0, 4.0]))
    assert near_lx / far_lx == pytest.approx(4.0)


def test_a_virtual_source_counts_from_behind():
    assert illuminance_lx(9000.0, 2.9, 0.0, 0.1) == pytest.approx(1000.0)


def test_a_face_turned_away_gets_nothing():
    assert illuminance_lx(8000.0, 2.0, 120.0) == 0.0


@pytest.mark.parametrize(("throw_m", "offset_m", "field"), [(0.0, 0.0, "throw_m"), (1.0, -1.0, r"throw_m \+ offset_m")])
def test_no_level_at_the_source_itself(throw_m, offset_m, field):
    with pytest.raises(BadValue, match=rf"{field} is 0\.0; accepted: above 0 m"):
        illuminance_lx(8000.0, throw_m, 0.0, offset_m)


def test_five_sides_away_is_far_enough():
    assert obeys_inverse_square(5.0, 1.0)
    assert not obeys_inverse_square(4.99, 1.0)
