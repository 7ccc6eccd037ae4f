import numpy as np
import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.photometry.contour import form_factors
from iron_bucket.core.photometry.faces import (
    disc_illuminance_lx,
    inverse_square_error_distance_m,
    rectangle_illuminance_lx,
)
from tests.conftest import golden_cases
from tests.tables import tabled

PARALLEL = [0.0, 0.0, -1.0]


def polygon_illuminance_lx(luminance_cd_m2, vertices_m, positions_m, normals):
    return np.pi * luminance_cd_m2 * form_factors(vertices_m[None], positions_m, normals)[:, 0]


def disc_polygon(radius_m, sides=720):
    """Of the disc's area, in the plane z = 0, counter-clockwise seen from +z."""
    equal_area = radius_m * np.sqrt(2.0 * np.pi / (sides * np.sin(2.0 * np.pi / sides)))
    turn = np.arange(sides) * 2.0 * np.pi / sides
    return np.stack([equal_area * np.cos(turn), equal_area * np.sin(turn), np.zeros(sides)], axis=1)


def rectangle_polygon(width_m, height_m):
    x, y = width_m / 2.0, height_m / 2.0
    return np.array([[-x, -y, 0.0], [x, -y, 0.0], [x, y, 0.0], [-x, y, 0.0]])


@pytest.mark.parametrize(("given", "expected", "rel_tol"), golden_cases("optics.json", "lambertian_disc"))
def test_discs_anywhere(given, expected, rel_tol):
    position, normal = np.array([given["position"]]), np.array([given["normal"]])
    by_contour = polygon_illuminance_lx(given["luminance_cd_m2"], disc_polygon(given["radius_m"]), position, normal)[0]
    assert by_contour == pytest.approx(expected["lux"], rel=rel_tol)
    if given["normal"] == PARALLEL:
        x, y, throw = given["position"]
        closed = disc_illuminance_lx(given["luminance_cd_m2"], given["radius_m"], throw, float(np.hypot(x, y)))
        assert closed == pytest.approx(expected["lux"], rel=1e-6)  # exact law, expected to eight digits


@pytest.mark.parametrize(("given", "expected", "rel_tol"), golden_cases("optics.json", "lambertian_rectangle"))
def test_rectangles_anywhere(given, expected, rel_tol):
    position, normal = np.array([given["position"]]), np.array([given["normal"]])
    corners = rectangle_polygon(given["a_m"], given["b_m"])
    assert polygon_illuminance_lx(given["luminance_cd_m2"], corners, position, normal)[0] == pytest.approx(
        expected["lux"], rel=rel_tol
    )
    if given["normal"] == PARALLEL:
        x, y, throw = given["position"]
        closed = rectangle_illuminance_lx(given["luminance_cd_m2"], given["a_m"], given["b_m"], throw, x, y)
        assert closed == pytest.approx(expected["lux"], rel=1e-6)


def test_behind_a_face_it_is_dark():
    behind = polygon_illuminance_lx(
        1000.0, rectangle_polygon(1.0, 1.0), np.array([[0.0, 0.0, -1.0]]), np.array([[0.0, 0.0, 1.0]])
    )
    turned_away = polygon_illuminance_lx(
        1000.0, rectangle_polygon(1.0, 1.0), np.array([[0.0, 0.0, 1.0]]), np.array([[0.0, 0.0, 1.0]])
    )
    assert behind[0] == 0.0
    assert turned_away[0] == 0.0


@pytest.mark.parametrize(("given", "expected", "rel_tol"), golden_cases("optics.json", "inverse_square_error_distance"))
def test_how_far_inverse_square_holds(given, expected, rel_tol):
    for over_true, key in ((True, "distance_m_error_over_true"), (False, "distance_m_error_over_inverse_square")):
        distance_m = inverse_square_error_distance_m(given["radius_m"], given["error"], over_true=over_true)
        assert distance_m == pytest.approx(expected[key], rel=1e-6)


@tabled
def test_a_face_has_a_size_and_a_distance(law, sizes, field):
    with pytest.raises(BadValue, match=rf"{field} is 0\.0; accepted: above 0 m"):
        law(1000.0, *sizes)
