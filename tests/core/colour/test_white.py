"""Shades of white, mixtures and bands: against the colour library, and by closed forms."""

import json
import warnings

import numpy as np
import pytest

from iron_bucket.core.colour.adaptation import adapted, from_screen, screen_rgb
from iron_bucket.core.colour.bands import BANDS_FROM_XYZ, LUMINOUS, bands_of, luminous_shares, sent_on
from iron_bucket.core.colour.light_colour import LightColour, mixed
from iron_bucket.core.colour.observer import xyz_of
from iron_bucket.core.colour.seen import seen_against, seen_channels, swatch
from iron_bucket.core.colour.spectral_figures import cct_and_duv
from iron_bucket.core.colour.spectrum import Spectrum
from iron_bucket.core.colour.tint import duv_from_tint, tint_from_duv
from iron_bucket.core.colour.tinting import Tinting
from iron_bucket.core.colour.white import (
    daylight_uv,
    mired_and_duv,
    planckian_uv,
    uv_from_mired,
    uv_from_xy,
    xy_from_uv,
    xyz_from_uv,
)
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Origin
from tests.conftest import GOLDEN
from tests.tables import tabled

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    import colour

CASES = json.loads((GOLDEN / "colour.json").read_text())["spectra"]


def golden(case) -> LightColour:
    table = np.loadtxt(GOLDEN / case["csv"], delimiter=",", skiprows=1)
    return LightColour.of_spectrum(Spectrum(wavelength_nm=table[:, 0], power=table[:, 1]))


@pytest.mark.parametrize("case", CASES, ids=[case["name"] for case in CASES])
def test_temperature_and_tint_of_the_reference_spectra(case):
    found, wanted = golden(case), case["expected"]
    assert found.cct_k == pytest.approx(wanted["cct"]["value"], abs=wanted["cct"]["abs_tol"])
    assert found.duv == pytest.approx(wanted["duv"]["value"], abs=wanted["duv"]["abs_tol"])
    assert found.origin is Origin.MEASURED


@pytest.mark.parametrize("seed", range(50))
def test_a_mixture_agrees_with_the_library(seed):
    """Two to four of the reference spectra, each of so many lux: the library is given the sum of their powers."""
    chance = np.random.default_rng(seed)
    lights = [golden(CASES[at]) for at in chance.choice(len(CASES), int(chance.integers(2, 5)), replace=False)]
    lux = chance.uniform(1.0, 100.0, len(lights))
    found = mixed(lights, lux)
    nm = np.arange(380.0, 781.0)
    power = np.zeros_like(nm)
    for light, share in zip(lights, lux, strict=True):
        whole = np.interp(nm, light.spectrum.wavelength_nm, light.spectrum.power)
        power += share * whole / xyz_of(light.spectrum.wavelength_nm, light.spectrum.power)[1]
    cct_k, duv = cct_and_duv(Spectrum(wavelength_nm=nm, power=power))
    assert found.cct_k == pytest.approx(cct_k, abs=5.0)
    assert found.duv == pytest.approx(duv, abs=2e-4)
    own = cct_and_duv(found.spectrum)
    assert own == (pytest.approx(cct_k, abs=5.0), pytest.approx(duv, abs=2e-4))


def test_a_colour_and_its_temperature_are_one():
    chance = np.random.default_rng(3)
    mired, duv = chance.uniform(30.0, 700.0, 300), chance.uniform(-0.02, 0.02, 300)
    found = mired_and_duv(uv_from_mired(mired, duv))
    assert found[0] == pytest.approx(mired, abs=1e-6)
    assert found[1] == pytest.approx(duv, abs=1e-9)
    uv = chance.uniform([0.15, 0.25], [0.4, 0.37], (40, 2))
    assert uv_from_xy(xy_from_uv(uv)) == pytest.approx(uv)
    assert xyz_from_uv(uv)[:, 1] == pytest.approx(1.0)
    assert np.isnan(mired_and_duv(np.array([0.12, 0.37]))[0])  # a saturated green
    assert np.isnan(mired_and_duv(np.array([0.62, 0.34]))[0])  # redder than any black body here
    assert planckian_uv(1e6 / 2856.0) == pytest.approx(
        colour.UCS_to_uv(colour.XYZ_to_UCS([1.09850, 1.0, 0.35585])), abs=2e-4
    )


@pytest.mark.parametrize("cct_k", [4000.0, 5003.0, 6504.0, 7000.0, 7001.0, 12000.0, 25000.0])
def test_daylight_is_cies(cct_k):
    assert xy_from_uv(daylight_uv(cct_k)) == pytest.approx(colour.temperature.CCT_to_xy_CIE_D(cct_k), abs=1e-6)


def test_daylight_goes_on_below_its_formula():
    mired, duv = mired_and_duv(np.array([daylight_uv(cct_k) for cct_k in (4000.0, 3999.0, 2500.0)]))
    assert mired == pytest.approx([250.0, 250.06, 400.0], abs=0.05)
    assert duv == pytest.approx(duv[0], abs=1e-6)


def test_adaptation_is_the_librarys_and_the_white_is_white():
    white, other = LightColour.of_cct(3200.0), LightColour.of_cct(5600.0, 0.004)
    chance = np.random.default_rng(5)
    for xyz in chance.uniform(0.1, 1.0, (5, 3)):
        wanted = colour.adaptation.chromatic_adaptation_VonKries(xyz, white.xyz, other.xyz, transform="CAT16")
        assert adapted(xyz, white.xyz, other.xyz) == pytest.approx(wanted, abs=1e-9)
    assert screen_rgb(white.uv, white.uv) == pytest.approx(1.0, abs=2e-3)
    red, green, blue = screen_rgb(LightColour.of_cct(3200.0).uv, LightColour.of_cct(5600.0).uv)
    assert red == pytest.approx(1.0)
    assert red > green > blue > 0.3
    assert screen_rgb(np.array([0.12, 0.37]), white.uv).min() == 0.0  # beyond a screen: as pale as it has to be
    linear = colour.XYZ_to_sRGB(adapted(white.xyz, other.xyz, np.array([0.9505, 1.0, 1.089])) * 0.3)
    shown = screen_rgb(white.uv, other.uv)
    assert shown / shown.max() == pytest.approx(linear / linear.max(), abs=0.02)


def test_it_is_drawn_on_paper_and_told_in_words():
    white = LightColour.of_cct(5600.0)
    assert swatch(white, white) == "#fff4e0"
    warm = LightColour.of_cct(3200.0)
    assert seen_channels(np.array([warm.uv, white.uv]), white)[0] == pytest.approx(
        [int(swatch(warm, white)[at : at + 2], 16) for at in (1, 3, 5)], abs=0.5
    )


@tabled
def test_words_of_a_colour(mired, duv, words):
    white = LightColour.of_cct(5600.0)
    assert seen_against(white.shifted(mired, duv), white).words == words


def test_shifts_add_and_a_saturated_colour_has_no_temperature():
    lamp = LightColour.of_cct(5600.0, 0.003, Origin.CLAIMED)
    assert lamp.shifted(0.0) is lamp
    both = lamp.shifted(60.0).shifted(40.0, -0.002)
    assert (both.mired, both.duv) == (pytest.approx(lamp.mired + 100.0), pytest.approx(0.001))
    assert both.origin is Origin.CLAIMED
    assert lamp.shifted(-400.0).cct_k == 50_000.0
    green = LightColour(u=0.12, v=0.37, origin=Origin.MEASURED)
    assert not green.is_white
    assert np.isnan(green.cct_k)
    assert seen_against(green, lamp).words == "a saturated colour"
    assert green.shifted(60.0).xy[0] > green.xy[0]
    assert LightColour.of_xy(0.3127, 0.3290, Origin.MEASURED).cct_k == pytest.approx(6504.0, abs=3.0)
    for x, y in ((0.5, 0.6), (-0.1, 0.3), (0.3, 0.0)):
        with pytest.raises(BadValue):
            LightColour.of_xy(x, y, Origin.MEASURED)
    assert duv_from_tint(-0.5) == -0.01
    assert tint_from_duv(0.01) == 0.5


def test_in_the_dark_there_is_no_colour_and_one_light_is_itself():
    a, b = LightColour.of_cct(3200.0), LightColour.of_cct(5600.0, origin=Origin.MEASURED)
    assert mixed([], []) is None
    assert mixed([a, b], [0.0, 0.0]) is None
    alone = mixed([a, b], [0.0, 7.0])
    assert alone.uv == pytest.approx(b.uv)
    assert (alone.origin, alone.spectrum) == (Origin.MEASURED, None)
    assert mixed([a, b], [1.0, 7.0]).origin is Origin.TYPICAL
    even = mixed([a, b], [1.0, 1.0])
    assert even.xyz / 1.0 == pytest.approx((a.xyz + b.xyz) / 2.0)
    assert abs(even.cct_k - 4400.0) > 150.0  # the mean of kelvins is no mixture


def test_bands_add_up_to_the_light_and_surfaces_tint_it():
    white = daylight_uv(5600.0)
    assert BANDS_FROM_XYZ @ np.array([0.95046, 1.0, 1.08906]) == pytest.approx(1.0, abs=1e-3)  # D65 is even
    for uv in (white, uv_from_mired(500.0), uv_from_mired(60.0, 0.02)):
        assert bands_of(uv) @ LUMINOUS == pytest.approx(1.0)
        assert luminous_shares(uv).sum() == pytest.approx(1.0)
    assert bands_of(np.array([0.55, 0.36])).min() == 0.0
    assert sent_on(0.0, 0.0) == (1.0, 1.0, 1.0)
    for shift, duv in ((45.0, 0.0), (-20.0, 0.004), (10.0, -0.01)):
        ratio = sent_on(shift, duv)
        assert luminous_shares(white) @ ratio == pytest.approx(1.0)  # as much light, of another colour
        after = LightColour.of(np.array(_uv(bands_of(white) * ratio)), Origin.TYPICAL)
        before = LightColour.of(white, Origin.TYPICAL)
        assert after.mired - before.mired == pytest.approx(shift, abs=0.01)
        assert after.duv - before.duv == pytest.approx(duv, abs=1e-5)
    assert sent_on(0.0, -0.02)[1] < 1.0  # pink sends less green on


def _uv(bands):
    x, y, z = np.linalg.inv(BANDS_FROM_XYZ) @ bands
    whole = x + 15.0 * y + 3.0 * z
    return 4.0 * x / whole, 6.0 * y / whole


def test_the_ends_of_the_locus_and_what_bands_add_up_to():
    for mired in (8.0, 1000.0):
        found, duv = mired_and_duv(uv_from_mired(mired))
        assert (float(found), float(duv)) == (pytest.approx(mired), pytest.approx(0.0, abs=1e-9))
    assert Tinting(shift_mired=10.0, duv=0.001).bands(20.0, 0.002) == sent_on(30.0, 0.003)
    assert luminous_shares(daylight_uv(5600.0)) @ sent_on(120.0, 0.01) == pytest.approx(1.0)
    assert bands_of(np.array([0.05, 0.39])) @ LUMINOUS == pytest.approx(1.0)  # greener than any band
    tinted = LightColour.of_cct(4000.0, 0.004)
    assert (seen_against(tinted, tinted).mired, seen_against(tinted, tinted).duv) == (0.0, 0.0)


def test_spectra_add_up_where_all_of_them_are_known():
    broad = np.arange(380.5, 781.0)
    lights = [
        LightColour.of_spectrum(Spectrum(wavelength_nm=nm, power=np.full(len(nm), 3.0)))
        for nm in (broad, np.arange(400.0, 720.5, 0.5))
    ]
    both = mixed(lights, (50.0, 50.0)).spectrum
    assert (both.wavelength_nm[0], both.wavelength_nm[-1], len(both.wavelength_nm)) == (400.0, 720.0, 321)
    assert both.power == pytest.approx(both.power[0])
    assert len(mixed(lights[:1], (50.0,)).spectrum.wavelength_nm) == 400  # 381 to 780
    Spectrum(wavelength_nm=np.arange(400.0, 701.0, 10.0), power=np.ones(31))  # just enough


def test_a_screen_shows_what_it_was_told_and_pales_what_it_cannot():
    """IEC 61966-2-1 by hand: 12.92 times of the darkest, 1.055 x^(1 / 2.4) - 0.055 of the rest."""
    white = daylight_uv(5600.0)

    def curve(share):
        return 1.055 * share ** (1.0 / 2.4) - 0.055

    shown = screen_rgb(from_screen(np.array([1.0, 0.002, 0.3]), white), white)
    assert shown == pytest.approx([1.0, 12.92 * 0.002, curve(0.3)], abs=1e-6)
    beyond = screen_rgb(from_screen(np.array([1.0, -0.1, 0.2]), white), white)
    assert beyond == pytest.approx([1.0, 0.0, curve(0.3 / 1.1)], abs=1e-6)
