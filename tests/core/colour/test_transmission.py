"""Gels by wavelength: against the product of spectra, and by closed forms."""

import numpy as np
import pytest

from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.observer import xyz_of
from iron_bucket.core.colour.spectral_figures import cct_and_duv
from iron_bucket.core.colour.spectrum import Spectrum
from iron_bucket.core.colour.transmission import TOLD_FOR, Transmission
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Origin

NM, FINE = np.arange(400.0, 701.0, 10.0), np.arange(380.0, 781.0)
#: Of a blue gel, a rise and a notch.
BLUE = Transmission(shares=tuple((0.3 + 0.3 * np.exp(-(((NM - 450.0) / 60.0) ** 2))).tolist()))
GREY = Transmission(shares=(0.25,) * 31)


def planck(cct_k: float, nm=FINE) -> Spectrum:
    return Spectrum(wavelength_nm=nm, power=nm**-5.0 / np.expm1(1.438776877e7 / (nm * cct_k)) * 1e16)


@pytest.mark.parametrize("cct_k", [2400.0, 3200.0, 5600.0])
def test_a_light_behind_a_curve_is_the_product_of_the_two(cct_k):
    nm = planck(cct_k).wavelength_nm
    product = Spectrum(wavelength_nm=nm, power=planck(cct_k).power * np.interp(nm, NM, BLUE.shares))
    wanted_k, duv = cct_and_duv(product)
    known = BLUE.behind(LightColour.of_spectrum(planck(cct_k), Origin.CLAIMED))
    assert known.colour.cct_k == pytest.approx(wanted_k, abs=5.0)
    assert known.colour.duv == pytest.approx(duv, abs=2e-4)
    assert known.colour.spectrum.power == pytest.approx(product.power)
    assert known.colour.origin is Origin.CLAIMED
    alike = BLUE.behind(LightColour.of_cct(cct_k, origin=Origin.CLAIMED))  # a black body stands in
    assert (alike.colour.spectrum, alike.colour.origin) == (None, Origin.CLAIMED)
    assert alike.colour.uv == pytest.approx(known.colour.uv, abs=2e-4)
    assert alike.passes == pytest.approx(known.passes, rel=2e-3)
    assert alike.shift_mired == pytest.approx(alike.colour.mired - 1e6 / cct_k, abs=0.01)
    assert alike.duv == pytest.approx(alike.colour.duv, abs=1e-6)
    luminous = np.exp(-(((nm - 556.0) / 60.0) ** 2))  # about as an eye sees: so much of the light is let through
    rough = (product.power @ luminous) / (planck(cct_k).power @ luminous)
    assert known.passes == pytest.approx(rough, rel=0.05)


def test_grey_takes_light_alone_and_two_sheets_multiply():
    saturated = LightColour.of_xy(0.2, 0.7, Origin.MEASURED)
    for light in (TOLD_FOR, LightColour.of_spectrum(planck(3200.0)), LightColour.of_cct(9000.0, 0.01), saturated):
        found = GREY.behind(light)
        assert found.passes == pytest.approx(0.25)
        assert found.colour.uv == pytest.approx(light.uv, abs=1e-9)
        assert (found.shift_mired, found.duv) == (pytest.approx(0.0, abs=1e-6), pytest.approx(0.0, abs=1e-9))
    twice = Transmission(shares=tuple(np.square(BLUE.shares).tolist()))
    light = LightColour.of_spectrum(planck(3200.0))
    one = BLUE.behind(light)
    assert BLUE.behind(one.colour).colour.uv == pytest.approx(twice.behind(light).colour.uv, abs=1e-4)
    assert one.passes * BLUE.behind(one.colour).passes == pytest.approx(twice.behind(light).passes, rel=1e-3)
    assert BLUE.behind(saturated).colour.xy[0] < saturated.xy[0]
    assert GREY.at(np.array([300.0, 505.0, 900.0])) == pytest.approx(0.25)
    black = Transmission(shares=(0.0,) * 31)
    assert black.behind(light).passes == pytest.approx(1e-4)  # never quite nothing: a colour is left


def test_where_a_light_sends_nothing_nothing_passes():
    deep = Transmission(shares=(0.0,) * 29 + (1.0,) * 2)
    narrow = Spectrum(wavelength_nm=np.arange(400.0, 701.0), power=np.ones(301))
    passed = xyz_of(narrow.wavelength_nm, narrow.power * deep.at(narrow.wavelength_nm))[1]
    found = deep.behind(LightColour.of_spectrum(narrow)).passes
    assert found == pytest.approx(passed / xyz_of(narrow.wavelength_nm, narrow.power)[1], rel=0.02)


def test_a_curve_comes_in_shares_or_in_per_cent():
    fine = np.arange(380.0, 731.0, 5.0)
    shares = np.interp(fine, NM, BLUE.shares)
    for scale in (1.0, 100.0):
        found = Transmission.of(Spectrum(wavelength_nm=fine, power=shares * scale))
        assert found.shares == pytest.approx(BLUE.shares)
    assert max(Transmission.of(Spectrum(wavelength_nm=fine, power=np.ones(71))).shares) == 1.0
    assert Transmission.of(Spectrum(wavelength_nm=fine, power=np.full(71, 100.0))).shares[0] == 1.0
    assert Transmission.of(Spectrum(wavelength_nm=fine, power=np.full(71, 2.0))).shares[0] == 0.02
    with pytest.raises(BadValue, match="what it passes is 101; accepted: shares up to 1"):
        Transmission.of(Spectrum(wavelength_nm=fine, power=np.full(71, 101.0)))
    for shares in ((0.5,) * 30, (0.5,) * 30 + (1.1,), (-0.1,) + (0.5,) * 30):
        with pytest.raises(BadValue):
            Transmission(shares=shares)
