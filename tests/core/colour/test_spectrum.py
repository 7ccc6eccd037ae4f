"""Spectra against the reference cases, and what is no spectrum."""

import json

import numpy as np
import pytest

from iron_bucket.core.colour.spectral_figures import cct_and_duv, reference_distribution, spectral_figures
from iron_bucket.core.colour.spectrum import Spectrum
from iron_bucket.core.errors import NoAnswer
from tests.conftest import GOLDEN
from tests.tables import refusals

CASES = json.loads((GOLDEN / "colour.json").read_text())["spectra"]
EVERY_TEN = np.arange(380.0, 781.0, 10.0)


def spectrum(wavelength_nm, power) -> Spectrum:
    return Spectrum(wavelength_nm=np.asarray(wavelength_nm, dtype=float), power=np.asarray(power, dtype=float))


def from_golden(name: str) -> Spectrum:
    table = np.loadtxt(GOLDEN / name, delimiter=",", skiprows=1)
    return spectrum(table[:, 0], table[:, 1])


@pytest.mark.parametrize("case", CASES, ids=[case["name"] for case in CASES])
def test_figures_of_the_reference_spectra(case):
    found = spectral_figures(from_golden(case["csv"]))
    wanted = case["expected"]
    for key, value in (
        ("cct", found.cct_k),
        ("duv", found.duv),
        ("ra", found.ra),
        ("r9", found.r9),
        ("rf", found.rf),
        ("rg", found.rg),
    ):
        assert value == pytest.approx(wanted[key]["value"], abs=wanted[key]["abs_tol"]), key
    likeness = wanted["ssi_3200K" if found.reference == "tungsten 3200 K" else "ssi_D55"]
    assert found.similarity == pytest.approx(likeness["value"], abs=likeness["abs_tol"])


def test_the_reference_by_temperature_and_where_white_ends():
    assert reference_distribution(3999.9).name != reference_distribution(4000.0).name
    assert spectral_figures(from_golden("spectra/FL12.csv")).reference == "tungsten 3200 K"
    assert spectral_figures(from_golden("spectra/FL6.csv")).reference == "daylight 5500 K"
    # A copy is worked on.
    given = from_golden("spectra/FL3.csv")
    before = given.power.copy()
    spectral_figures(given)
    assert (given.power == before).all()
    # White ends at the standard s duv.
    assert not spectral_figures(from_golden("spectra/FL6.csv")).is_white  # Duv 0.0061
    assert spectral_figures(from_golden("spectra/D65.csv")).is_white  # Duv 0.0032


@pytest.mark.parametrize("factor", [1e-6, 1.0, 1e6])
def test_colour_does_not_depend_on_how_bright(factor):
    one = from_golden("spectra/LED_V2.csv")
    brighter = spectrum(one.wavelength_nm, one.power * factor)
    assert cct_and_duv(brighter) == pytest.approx(cct_and_duv(one), rel=1e-6)


@pytest.mark.parametrize("kelvin", [1200.0, 3000.0, 6500.0])
def test_a_black_body_has_its_own_temperature(kelvin):
    """Planck's law with c2 = 14.388 mm K; nothing off the black body line."""
    nm = np.arange(380.4, 780.0, 1.0)
    body = spectrum(nm, nm**-5.0 / (np.exp(14.388e6 / (nm * kelvin)) - 1.0) * 1e16)
    found_k, duv = cct_and_duv(body)
    assert found_k == pytest.approx(kelvin, rel=0.003)
    assert duv == pytest.approx(0.0, abs=3e-4)
    assert body.at_every_nm().wavelength_nm[[0, -1]].tolist() == [381.0, 779.0]


def test_a_light_much_too_green_has_no_temperature():
    """D65 with a green peak laid over it, until Duv passes 0.05."""
    day = from_golden("spectra/D65.csv")
    peak = np.exp(-0.5 * ((day.wavelength_nm - 530.0) / 20.0) ** 2) * day.power.max()
    just, over = (Spectrum(wavelength_nm=day.wavelength_nm, power=day.power + share * peak) for share in (1.2, 1.5))
    assert 0.04 < cct_and_duv(just)[1] < 0.05
    with pytest.raises(NoAnswer, match=r"Duv 0\.0[56]"):
        cct_and_duv(over)


@pytest.mark.parametrize("peak_nm", [450.0, 530.0])
def test_a_colour_has_no_temperature(peak_nm):
    with pytest.raises(NoAnswer, match="no shade of white"):
        spectral_figures(spectrum(EVERY_TEN, np.exp(-0.5 * ((EVERY_TEN - peak_nm) / 8.0) ** 2)))


def test_the_widest_range_and_step_are_accepted_and_filled_in_straight_lines():
    wide = spectrum(np.arange(300.0, 831.0, 10.0), np.arange(54.0))
    assert wide.at_every_nm().power[5] == pytest.approx(0.5)  # halfway between 0 and 1
    assert len(wide.at_every_nm().wavelength_nm) == 531
    odd = spectrum(np.arange(399.5, 702.0, 1.0), np.ones(303)).at_every_nm()
    assert (odd.wavelength_nm[0], odd.wavelength_nm[-1]) == (400.0, 701.0)


test_what_is_refused = refusals(__file__)
