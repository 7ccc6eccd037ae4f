from datetime import UTC, date, datetime, timedelta, timezone

import numpy as np
import pytest

from iron_bucket.core.daylight.hours import brighter_span
from iron_bucket.core.daylight.sky import Weather, daylight
from iron_bucket.core.daylight.sun import SunPosition, sun_position
from iron_bucket.core.errors import BadValue
from tests.tables import tabled


@tabled
def test_where_the_sun_stands(when, latitude, longitude, altitude, azimuth, tolerance):
    found = sun_position(when, latitude_deg=latitude, longitude_deg=longitude)
    assert found.altitude_deg == pytest.approx(altitude, abs=tolerance)
    assert (found.azimuth_deg - azimuth + 180.0) % 360.0 - 180.0 == pytest.approx(0.0, abs=tolerance)


def test_a_zone_changes_the_clock_and_a_place_moves_the_sun_by_its_longitude():
    here = sun_position(datetime(2026, 11, 24, 9, 0, tzinfo=UTC), latitude_deg=50.0, longitude_deg=0.0)
    clock = sun_position(
        datetime(2026, 11, 24, 11, 0, tzinfo=timezone(timedelta(hours=2))), latitude_deg=50.0, longitude_deg=0.0
    )
    east = sun_position(datetime(2026, 11, 24, 8, 0, tzinfo=UTC), latitude_deg=50.0, longitude_deg=15.0)
    assert clock == here
    assert east.azimuth_deg == pytest.approx(here.azimuth_deg, abs=0.05)


@tabled
def test_no_place_and_no_time(changes, sentence):
    given = {"when": datetime(2026, 1, 1, tzinfo=UTC), "latitude_deg": 0.0, "longitude_deg": 0.0} | changes
    with pytest.raises(BadValue, match=sentence):
        sun_position(given.pop("when"), **given)


@tabled
def test_what_sun_and_sky_give(weather, altitude, sun_lx, sky_lx):
    found = daylight(weather, altitude)
    assert found.sun_lx == pytest.approx(sun_lx)
    assert found.sky_lx == pytest.approx(sky_lx)
    on_ground = sky_lx + sun_lx * max(np.sin(np.radians(altitude)), 0)
    assert found.on_level_ground_lx(altitude) == pytest.approx(on_ground)


@tabled
def test_a_low_sun_is_warm(altitude, kelvin):
    assert daylight(Weather.CLEAR, altitude).sun_k == pytest.approx(kelvin)
    assert [daylight(each, altitude).sky_k for each in Weather] == [9000.0, 7500.0, 6500.0]


def test_the_hours_of_a_day_that_are_brighter_than_a_limit():
    # An overcast sky gives 300 + 21000 sin(altitude): over 10 800 lx from 30 degrees on. A sun that climbs 15 degrees
    # an hour from six and back passes 30 at eight and at four.
    def sun(when):
        return SunPosition(altitude_deg=15.0 * (6.0 - abs(when.hour + when.minute / 60.0 - 12.0)), azimuth_deg=180.0)

    first, last = brighter_span(10_800.0, Weather.OVERCAST, date(2026, 6, 21), sun)
    assert (first, last) == (datetime(2026, 6, 21, 8, 5), datetime(2026, 6, 21, 15, 55))
    assert brighter_span(21_301.0, Weather.OVERCAST, date(2026, 6, 21), sun) is None
    assert brighter_span(
        0.5, Weather.OVERCAST, date(2026, 6, 21), lambda _: SunPosition(altitude_deg=5.0, azimuth_deg=0.0)
    ) == (datetime(2026, 6, 21), datetime(2026, 6, 21, 23, 55))
    # Sun and sky on level ground, by hand: 15500 sqrt(sin 30) + 800 + 127500 exp(-0.21 / sin 30) sin 30.
    assert daylight(Weather.CLEAR, 30.0).on_level_ground_lx(30.0) == pytest.approx(11760 + 41888, rel=1e-3)
