"""Sun and sky on any plane, against what they lay on level ground."""

from dataclasses import replace
from datetime import datetime

import numpy as np
import pytest

from iron_bucket.core.daylight.sky import Weather, daylight
from iron_bucket.core.figure import Origin
from iron_bucket.core.places.bearing import along_bearing
from iron_bucket.core.places.place import AmbientReading
from iron_bucket.core.places.plane_light import plane_light
from iron_bucket.core.places.surroundings import Surroundings
from tests.core.setups.made import a_place

NOON = datetime(2026, 5, 20, 12)
AROUND = Surroundings(a_place())


@pytest.mark.parametrize("weather", list(Weather))
def test_level_ground_has_what_the_sky_gives_it(weather):
    sun = AROUND.sun(NOON)
    there = daylight(weather, sun.altitude_deg)
    found = plane_light(AROUND, NOON, weather, 0.0, 90.0)
    assert found.illuminance_lx == pytest.approx(there.on_level_ground_lx(sun.altitude_deg), rel=0.01)
    assert found.sun_lx == pytest.approx(there.sun_lx * np.sin(np.radians(sun.altitude_deg)), rel=1e-6)


def test_a_plane_that_faces_the_sun_has_all_of_it_and_one_that_turns_away_none():
    sun = AROUND.sun(NOON)
    bearing = AROUND.sun_bearing_deg(sun)
    there = daylight(Weather.CLEAR, sun.altitude_deg)
    facing = plane_light(AROUND, NOON, Weather.CLEAR, bearing, sun.altitude_deg)
    assert facing.sun_lx == pytest.approx(there.sun_lx)
    away = plane_light(AROUND, NOON, Weather.CLEAR, bearing + 180.0, -sun.altitude_deg)
    assert away.sun_lx == 0.0
    turned = plane_light(AROUND, NOON, Weather.CLEAR, bearing + 60.0, 0.0)
    cosine = float(along_bearing(bearing + 60.0) @ along_bearing(bearing, sun.altitude_deg))
    assert turned.sun_lx == pytest.approx(there.sun_lx * cosine)
    # The blue sky alone is cooler than with the sun on it, which is as warm as the sun at most.
    assert away.cct_k > facing.cct_k > there.sun_k
    under = plane_light(AROUND, NOON, Weather.OVERCAST, 0.0, 0.0)
    assert under.cct_k == pytest.approx(daylight(Weather.OVERCAST, 50.0).sky_k, rel=0.01)


def test_a_reading_of_the_place_overrules_it():
    read = AmbientReading(
        reading_id="outside",
        x_m=3.0,
        y_m=-4.0,
        z_m=1.0,
        bearing_deg=0.0,
        tilt_deg=90.0,
        illuminance_lx=20_000.0,
        taken_at=NOON,
    )
    around = Surroundings(replace(a_place(), readings=(read,)))
    found, usual = (plane_light(each, NOON, Weather.OVERCAST, 0.0, 90.0) for each in (around, AROUND))
    assert (found.origin, usual.origin) == (Origin.MEASURED, Origin.TYPICAL)
    assert found.illuminance_lx == pytest.approx(20_000, rel=0.04)  # it was held against fewer directions of the sky


def test_in_the_dark_there_is_neither():
    night = plane_light(AROUND, NOON.replace(month=12, hour=1), Weather.CLEAR, 0.0, 90.0)
    assert (night.illuminance_lx, night.cct_k) == (0.0, None)
    turned = Surroundings(replace(a_place(), north_deg=90.0))
    west = plane_light(turned, NOON, Weather.CLEAR, turned.sun_bearing_deg(turned.sun(NOON)), 0.0)
    assert west.sun_lx > 0.5 * daylight(Weather.CLEAR, turned.sun(NOON).altitude_deg).sun_lx
