import numpy as np
import pytest

from iron_bucket.core.photometry.distribution import BeamField, CosinePower
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.photometry.widths import PlaneProfile, beam_deg, field_deg, width_deg


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


@pytest.mark.parametrize("exponent", [1.0, 2.0, 20.0, 400.0])
def test_lumens_of_a_cosine_power(exponent):
    # Closed form: 2 pi I0 / (n + 1).
    assert lumens(CosinePower(peak_cd=100.0, exponent=exponent)) == pytest.approx(
        200.0 * np.pi / (exponent + 1.0), rel=2e-5
    )


def test_of_several_peaks_the_one_nearest_the_axis_counts():
    profile = PlaneProfile(
        angle_deg=np.array([-30.0, -20.0, -10.0, 0.0, 10.0, 20.0]), candela=np.array([10.0, 0.0, 0.0, 10.0, 0.0, 0.0])
    )
    assert width_deg(profile, 0.5) == pytest.approx(10.0)
