"""Small laws of photometry that fit in the head."""

import numpy as np
import pytest

from iron_bucket.core.photometry.distribution import BeamField
from iron_bucket.core.photometry.faces import rectangle_illuminance_lx
from iron_bucket.core.photometry.illuminance import illuminance_lx
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.photometry.tabulated import PhotometryType, Tabulated
from iron_bucket.core.photometry.widths import beam_deg, field_deg, plane_profile
from tests.core.photometry.made import a_table


@pytest.mark.parametrize(("x_m", "y_m"), [(0.3, 0.0), (0.0, 0.3), (-0.7, 0.4), (2.0, -1.0)])
def test_a_rectangle_is_the_sum_of_its_halves_and_alike_on_either_side(x_m, y_m):
    whole = rectangle_illuminance_lx(500.0, 1.2, 0.8, 1.5, x_m, y_m)
    beside = sum(rectangle_illuminance_lx(500.0, 0.6, 0.8, 1.5, x_m + at, y_m) for at in (-0.3, 0.3))
    over = sum(rectangle_illuminance_lx(500.0, 1.2, 0.4, 1.5, x_m, y_m + at) for at in (-0.2, 0.2))
    assert beside == pytest.approx(whole)
    assert over == pytest.approx(whole)
    assert rectangle_illuminance_lx(500.0, 1.2, 0.8, 1.5, -x_m, -y_m) == pytest.approx(whole)


def test_a_lamp_faced_squarely_and_a_formula_over_the_half_space():
    assert float(illuminance_lx(900.0, 3.0)) == pytest.approx(100.0, rel=1e-12)
    angles = plane_profile(BeamField(peak_cd=1.0, beam_deg=30.0, field_deg=50.0), 0.0).angle_deg
    assert (angles[0], angles[-1]) == (pytest.approx(-90.0), pytest.approx(90.0))


def test_upright_and_level_cuts_of_a_type_b_table_are_its_own_angles():
    vertical, horizontal = np.array([-20.0, -5.0, 0.0, 5.0, 20.0]), np.array([-40.0, -10.0, 0.0, 10.0, 40.0])
    candela = 100.0 * np.outer(1.0 - np.abs(horizontal) / 50.0, 1.0 - np.abs(vertical) / 25.0)
    table = Tabulated(kind=PhotometryType.B, vertical_deg=vertical, horizontal_deg=horizontal, candela=candela)
    assert plane_profile(table, 90.0).angle_deg.tolist() == vertical.tolist()
    assert plane_profile(table, 0.0).angle_deg.tolist() == horizontal.tolist()
    assert (beam_deg(table, 90.0), beam_deg(table, 0.0)) == (
        pytest.approx(25.0, rel=0.01),
        pytest.approx(50.0, rel=0.01),
    )
    for turned, same in ((270.0, 90.0), (180.0, 0.0)):
        assert beam_deg(table, turned) == pytest.approx(beam_deg(table, same))
    assert plane_profile(table, 180.0).angle_deg.tolist() == horizontal.tolist()
    slanted = plane_profile(table, 45.0).angle_deg
    assert len(slanted) > 1000
    assert (slanted[0], slanted[-1]) == (-90.0, pytest.approx(90.0, abs=0.1))


def test_a_table_of_one_side_is_looked_at_on_both():
    table = Tabulated(
        kind=PhotometryType.B,
        vertical_deg=np.array([0.0, 20.0]),
        horizontal_deg=np.array([0.0, 40.0]),
        candela=np.array([[100.0, 0.0], [0.0, 0.0]]),
    )
    assert plane_profile(table, 0.0).angle_deg.tolist() == [-40.0, 0.0, 40.0]
    planes = np.array([[9.0, half_way, 0.0] for half_way in (1.0, 2.0, 3.0, 4.0)])
    askew = a_table(horizontal_deg=np.array([0.0, 90.0, 180.0, 270.0]), candela=planes)
    for plane, candela in ((0.0, [0.0, 3.0, 9.0, 1.0, 0.0]), (90.0, [0.0, 4.0, 9.0, 2.0, 0.0])):
        assert plane_profile(askew, plane).candela.tolist() == candela
    assert (beam_deg(askew), field_deg(askew)) == (beam_deg(askew, 0.0), field_deg(askew, 0.0))
    assert field_deg(askew) != field_deg(askew, 1.0)
    assert plane_profile(table, 90.0).angle_deg.tolist() == [-20.0, 0.0, 20.0]


def test_lumens_are_summed_all_round():
    class HalfBright:
        def intensity_cd(self, gamma_deg, azimuth_deg=0.0):
            return np.where(np.asarray(azimuth_deg) < 180.0, 100.0, 0.0) + 0.0 * np.asarray(gamma_deg)

    assert lumens(HalfBright()) == pytest.approx(200.0 * np.pi)  # half of 4 pi sr


def test_a_quarter_turn_stands_for_the_whole():
    planes = np.array([[100.0, 80.0, 0.0], [100.0, 50.0, 0.0], [100.0, 20.0, 0.0]])
    quarter, whole = (
        Tabulated(
            kind=PhotometryType.C, vertical_deg=np.array([0.0, 60.0, 90.0]), horizontal_deg=angles, candela=candela
        )
        for angles, candela in (
            (np.array([0.0, 45.0, 90.0]), planes),
            (np.arange(0.0, 360.0, 45.0), planes[[0, 1, 2, 1, 0, 1, 2, 1]]),
        )
    )
    assert lumens(quarter) == pytest.approx(lumens(whole))
