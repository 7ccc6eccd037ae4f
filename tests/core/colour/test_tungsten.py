"""A filament on a dimmer, against the reference cases and docs/craft.md's own example."""

import pytest

from iron_bucket.core.colour import tungsten
from iron_bucket.core.errors import BadValue
from tests.conftest import golden_cases

FILE = "exposure_power.json"


@pytest.mark.parametrize(("given", "expected", "rel_tol"), golden_cases(FILE, "tungsten_dimming"))
def test_a_dimmed_filament(given, expected, rel_tol):
    voltage = given["voltage_fraction"]
    assert tungsten.flux_share(voltage) == pytest.approx(expected["flux_fraction"], rel=rel_tol)
    assert tungsten.cct_share(voltage) * given["rated_K"] == pytest.approx(expected["cct_K"], rel=rel_tol)
    assert tungsten.watts_share(voltage) * given["rated_W"] == pytest.approx(expected["power_W"], rel=rel_tol)
    assert tungsten.voltage_share_for_flux(expected["flux_fraction"]) == pytest.approx(voltage, rel=rel_tol)


def test_half_output_of_3200_k_is_2937_k():
    assert 3200 * tungsten.cct_share(tungsten.voltage_share_for_flux(0.5)) == pytest.approx(
        2937, abs=1
    )  # docs/craft.md, section 5


@pytest.mark.parametrize(("flux", "times"), [(1.0, 1.0), (0.5, 14.16), (0.1, 6667.0), (1.2, 0.498)])
def test_a_dimmed_globe_lasts_longer_and_a_boosted_one_half_as_long(flux, times):
    """By hand: flux^(-13 / 3.4); at 105 % of the voltage 0.53 times."""
    assert tungsten.life_share(tungsten.voltage_share_for_flux(flux)) == pytest.approx(times, rel=2e-3)
    assert tungsten.life_share(1.05) == pytest.approx(0.530, abs=1e-3)
    with pytest.raises(BadValue, match="above 0"):
        tungsten.life_share(0.0)


@pytest.mark.parametrize(
    "share", [tungsten.flux_share, tungsten.cct_share, tungsten.watts_share, tungsten.voltage_share_for_flux]
)
def test_no_negative_voltage(share):
    with pytest.raises(BadValue, match="is -0.1; accepted: 0 of the"):
        share(-0.1)
    assert share(0.0) == 0.0
