"""A head by lux at a distance and a beam: what comes out is what was read."""

import math

import numpy as np
import pytest

from iron_bucket.core.bench.from_beam import BeamSeen, head_from_beam
from iron_bucket.core.bench.head import Technology
from iron_bucket.core.figure import Origin
from iron_bucket.core.power.load import DrawCurve


def a_beam(**changes) -> BeamSeen:
    usual = {"name": "Lamp", "technology": Technology.LED_DAY, "illuminance_lx": 950.0, "at_m": 2.0, "beam_deg": 40.0}
    return BeamSeen(**(usual | {"origin": Origin.MEASURED} | changes))


def test_the_beam_is_what_was_read_and_the_rest_is_typical():
    head, configuration = head_from_beam("lamp", a_beam(owned=2, day_price=9.0))
    candela = configuration.distribution.intensity_cd(np.array([0.0, 20.0, 34.0]))
    assert candela == pytest.approx([3800.0, 1900.0, 380.0])  # I = E d^2, half at half the beam, a tenth at the field
    # The same integral by hand, ring by ring.
    ring = np.radians(np.arange(0.05, 90.0, 0.1))
    shape = configuration.distribution.intensity_cd(np.degrees(ring))
    flux = float((shape * 2.0 * math.pi * np.sin(ring)).sum() * math.radians(0.1))
    assert head.lumens.value == pytest.approx(flux, rel=1e-3)
    assert configuration.lumens == head.lumens.value
    assert head.draw.full_w.value == pytest.approx(flux / 92.0, abs=0.06)
    assert head.weight_kg == pytest.approx(1.0 + head.draw.full_w.value / 80.0, abs=0.06)
    assert all(round(each, 1) == each for each in (head.weight_kg, head.draw.full_w.value))
    assert (configuration.weight_kg, head.draw.idle_w, head.mains.low_v, head.mains.high_v) == (0.01, 0.0, 100, 240)
    assert (head.lumens.origin, head.draw.full_w.origin) == (Origin.TYPICAL, Origin.TYPICAL)
    assert configuration.origin is Origin.MEASURED
    assert (head.slug, configuration.slug, configuration.head_slug) == ("lamp", "lamp.beam", "lamp")
    assert (head.owned, configuration.owned, head.day_price) == (2, 2, 9.0)
    assert (head.lowest_cct_k, head.highest_cct_k) == (5600.0, 5600.0)


def test_what_is_known_stands_and_each_kind_is_as_its_kind_is():
    head, _ = head_from_beam("t", a_beam(technology=Technology.TUNGSTEN, cct_k=3200.0, watts=650.0, weight_kg=4.2))
    assert (head.draw.full_w.value, head.draw.full_w.origin, head.weight_kg) == (650.0, Origin.CLAIMED, 4.2)
    assert (head.draw.curve, head.draw.power_factor, head.lowest_level) == (DrawCurve.FILAMENT, 1.0, 0.01)
    assert head.is_hot
    led, _ = head_from_beam("l", a_beam())
    assert (led.draw.curve, led.draw.power_factor, led.lowest_level, led.is_hot) == (
        DrawCurve.ELECTRONIC,
        0.95,
        0.01,
        False,
    )
    hmi, _ = head_from_beam("h", a_beam(technology=Technology.HMI))
    assert (hmi.lowest_level, hmi.is_hot, hmi.draw.curve) == (1.0, True, DrawCurve.ELECTRONIC)
    assert head_from_beam("w", a_beam(beam_deg=120.0))[1].distribution.field_deg == 178.0
