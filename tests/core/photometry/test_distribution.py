import numpy as np
import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.photometry.distribution import BeamField, CosinePower
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.photometry.widths import PlaneProfile, beam_deg, beam_width_m, field_deg, width_deg
from tests.tables import tabled


def test_beam_and_field_meet_their_own_angles():
    lamp = BeamField(peak_cd=9000.0, beam_deg=20.0, field_deg=36.0)
    assert lamp.intensity_cd(0.0) == 9000.0
    assert lamp.intensity_cd(10.0) == pytest.approx(4500.0)
    assert lamp.intensity_cd(18.0) == pytest.approx(900.0)
    assert lamp.intensity_cd(-10.0) == pytest.approx(4500.0)
    assert lamp.exponent == pytest.approx(2.042485, rel=1e-6)  # ln 3.32193 / ln 1.8, by hand
    assert beam_deg(lamp) == pytest.approx(20.0, abs=0.01)
    assert field_deg(lamp, 90.0) == pytest.approx(36.0, abs=0.01)


def test_a_beam_alone_makes_a_cosine_power():
    lamp = CosinePower.from_beam(peak_cd=1000.0, beam_deg=120.0)
    assert lamp.exponent == pytest.approx(1.0)  # a Lambertian face: docs/craft.md, section 2
    assert lamp.beam_deg == pytest.approx(120.0)
    assert lamp.intensity_cd(60.0) == pytest.approx(500.0)


@pytest.mark.parametrize(
    "lamp", [BeamField(peak_cd=1.0, beam_deg=100.0, field_deg=150.0), CosinePower(peak_cd=1.0, exponent=0.6)]
)
def test_nothing_behind_the_lamp(lamp):
    assert lamp.intensity_cd(90.5) == 0.0
    assert lamp.intensity_cd(np.array([100.0, 180.0]), 45.0).tolist() == [0.0, 0.0]
    assert lamp.intensity_cd(89.0) > 0.0
    assert lamp.intensity_cd(np.zeros(2), np.zeros((3, 1))).shape == (3, 2)


def test_a_flat_topped_beam_stays_a_number_far_out():
    assert BeamField(peak_cd=1.0, beam_deg=5.0, field_deg=5.2).intensity_cd(90.0) == pytest.approx(
        np.exp(-700.0), abs=1e-300
    )


@pytest.mark.parametrize("exponent", [1.0, 2.0, 20.0, 400.0])
def test_lumens_of_a_cosine_power(exponent):
    # Closed form: 2 pi I0 / (n + 1).
    assert lumens(CosinePower(peak_cd=100.0, exponent=exponent)) == pytest.approx(
        200.0 * np.pi / (exponent + 1.0), rel=2e-5
    )


@tabled
def test_a_lamp_that_cannot_be(make, field):
    with pytest.raises(BadValue, match=f"^{field} is"):
        make()


def test_the_edges_of_what_can_be():
    assert BeamField(peak_cd=1.0, beam_deg=0.5, field_deg=180.0).field_deg == 180.0
    assert BeamField(peak_cd=1.0, beam_deg=179.0, field_deg=180.0).beam_deg == 179.0


def test_a_width_is_not_defined_where_the_data_end_bright():
    assert (
        width_deg(PlaneProfile(angle_deg=np.array([-10.0, 0.0, 10.0]), candela=np.array([6.0, 10.0, 6.0])), 0.5) is None
    )
    assert (
        width_deg(PlaneProfile(angle_deg=np.array([-10.0, 0.0, 10.0]), candela=np.array([4.0, 10.0, 6.0])), 0.5) is None
    )
    assert width_deg(PlaneProfile(angle_deg=np.array([-10.0, 0.0, 10.0]), candela=np.zeros(3)), 0.5) is None


def test_of_several_peaks_the_one_nearest_the_axis_counts():
    profile = PlaneProfile(
        angle_deg=np.array([-30.0, -20.0, -10.0, 0.0, 10.0, 20.0]), candela=np.array([10.0, 0.0, 0.0, 10.0, 0.0, 0.0])
    )
    assert width_deg(profile, 0.5) == pytest.approx(10.0)


def test_width_at_a_distance():
    assert beam_width_m(90.0, 3.0) == pytest.approx(6.0)
