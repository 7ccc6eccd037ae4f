"""Sun and moon by the library against published formulas; the hours of a day; what hides a low sun."""

from datetime import UTC, date, datetime, timedelta

import numpy as np
import pytest

from iron_bucket.core.daylight.horizon import Horizon
from iron_bucket.core.daylight.moon import moon_position
from iron_bucket.core.daylight.observer import lifted_deg
from iron_bucket.core.daylight.sun import SunPosition, sun_position
from iron_bucket.core.daylight.sun_day import sun_day
from iron_bucket.core.errors import BadValue
from tests.core.daylight import published
from tests.tables import tabled


def turned(one: float, other: float) -> float:
    return (one - other + 180.0) % 360.0 - 180.0


@pytest.mark.parametrize("seed", range(40))
def test_sun_and_moon_stand_where_published_formulas_put_them(seed):
    chance = np.random.default_rng(seed)
    when = datetime(2010, 1, 1, tzinfo=UTC) + timedelta(minutes=int(chance.integers(0, 30 * 525_600)))
    at = {"latitude_deg": float(chance.uniform(-80, 80)), "longitude_deg": float(chance.uniform(-180, 180))}
    found, (altitude, azimuth) = sun_position(when, **at), published.sun(when, *at.values())
    assert found.altitude_deg == pytest.approx(altitude, abs=0.02)
    assert turned(found.azimuth_deg, azimuth) * np.cos(np.radians(altitude)) == pytest.approx(0.0, abs=0.02)
    moon, (altitude, azimuth, share) = moon_position(when, **at), published.moon(when, *at.values())
    assert moon.altitude_deg == pytest.approx(altitude, abs=0.6)
    assert turned(moon.azimuth_deg, azimuth) * np.cos(np.radians(altitude)) == pytest.approx(0.0, abs=0.6)
    assert moon.illuminated_share == pytest.approx(share, abs=0.01)
    assert 0.0 <= moon.phase < 1.0
    assert moon.illuminated_share == pytest.approx((1.0 - np.cos(2.0 * np.pi * moon.phase)) / 2.0, abs=0.01)


@tabled
def test_the_phases_of_a_month(when, name, share):
    moon = moon_position(when, latitude_deg=52.0, longitude_deg=0.0)
    assert (moon.name, moon.illuminated_share) == (name, pytest.approx(share, abs=0.01))


def height(when: datetime, latitude_deg: float, longitude_deg: float) -> float:
    return published.sun(when, latitude_deg, longitude_deg)[0]


@pytest.mark.parametrize(
    ("latitude", "longitude"), [(52.1, -1.3), (-33.9, 151.2), (27.7, 85.3), (0.0, -179.0), (64.1, -21.9), (61.0, 178.0)]
)
@pytest.mark.parametrize("day", [date(2026, 3, 20), date(2026, 6, 21), date(2026, 11, 26)])
def test_the_hours_of_a_day_are_those_of_its_own_sun(day, latitude, longitude):
    found = sun_day(day, latitude_deg=latitude, longitude_deg=longitude)
    at = (latitude, longitude)
    mean_noon = datetime(day.year, day.month, day.day, 12, tzinfo=UTC) - timedelta(hours=longitude / 15.0)
    assert abs(found.noon - mean_noon) < timedelta(minutes=20)  # by the equation of time
    if abs(latitude) > 23.5:  # due south or north
        there = sun_position(found.noon, latitude_deg=latitude, longitude_deg=longitude).azimuth_deg
        assert turned(there, 180.0 if latitude > 0.0 else 0.0) == pytest.approx(0.0, abs=0.5)
    assert found.highest_deg == pytest.approx(
        max(height(found.noon + timedelta(minutes=m), *at) for m in (-20, 0, 20)), abs=0.03
    )
    for early, late, degrees in (
        (found.sunrise, found.sunset, -0.8333),
        (found.civil_dawn, found.civil_dusk, -6.0),
        (found.nautical_dawn, found.nautical_dusk, -12.0),
        (found.golden_until, found.golden_from, 6.0),
        (found.blue_until, found.blue_from, -4.0),
    ):
        for when, way in ((early, 1), (late, -1)):
            if when is None:  # it is on one side of that height all the time
                assert not height(mean_noon - timedelta(hours=12 * way), *at) < degrees < found.highest_deg
                continue
            assert height(when, *at) == pytest.approx(degrees, abs=0.03)
            assert (
                height(when + timedelta(minutes=5 * way), *at)
                > degrees
                > height(when - timedelta(minutes=5 * way), *at)
            )
        if early and late:
            assert mean_noon - timedelta(hours=12) <= early < found.noon < late <= mean_noon + timedelta(hours=12)
    assert not found.is_polar_day
    assert not found.is_polar_night


def test_days_and_nights_without_an_end():
    tromso = {"latitude_deg": 69.6, "longitude_deg": 19.0}
    summer, winter = (sun_day(date(2026, month, 21), **tromso) for month in (6, 12))
    assert (summer.sunrise, summer.sunset, summer.civil_dawn) == (None, None, None)
    assert (summer.is_polar_day, summer.is_polar_night) == (True, False)
    assert summer.golden_until < summer.noon < summer.golden_from
    assert (winter.sunrise, winter.sunset, winter.golden_until) == (None, None, None)
    assert winter.civil_dawn < winter.noon < winter.civil_dusk
    assert (winter.is_polar_day, winter.is_polar_night) == (False, True)
    # The sun that sets for some minutes about midnight rises in the morning and sets in the evening of one day.
    days = [sun_day(date(2026, 5, 1) + timedelta(days=each), **tromso) for each in range(30)]
    longest = max(each.sunset - each.sunrise for each in days if each.sunrise and each.sunset)
    assert timedelta(hours=22) < longest < timedelta(hours=24)


@pytest.mark.parametrize(("altitude", "lift"), [(0.0, 28.97), (10.0, 5.41), (45.0, 1.0), (90.0, 0.0), (-1.01, 0.0)])
def test_air_lifts_what_is_low(altitude, lift):
    # Source: Bennett's formula, Journal of Navigation 35 (1982), turned round: 5.31' at an apparent 10 degrees 5'.
    assert (lifted_deg(altitude) - altitude) * 60.0 == pytest.approx(lift, abs=0.1)
    assert SunPosition(altitude_deg=altitude, azimuth_deg=0.0).apparent_altitude_deg == lifted_deg(altitude)


def test_what_rises_round_a_place_hides_a_low_sun():
    hills = Horizon(points=((90.0, 10.0), (180.0, 20.0), (350.0, 0.0)))
    assert hills.angle_deg(135.0) == pytest.approx(15.0)
    assert hills.angle_deg(40.0) == pytest.approx(5.0)  # round by north, from 350 to 90
    assert hills.angle_deg(400.0) == hills.angle_deg(40.0)
    assert (hills.hides(14.9, 135.0), hills.hides(15.1, 135.0)) == (True, False)
    assert not Horizon().hides(-1.0, 0.0)
    assert Horizon(points=((0.0, 3.0), (360.0, 89.0))).angle_deg(180.0) > 3.0
    assert Horizon().angle_deg(77.0) == 0.0
    for points in (((361.0, 3.0),), ((-1.0, 3.0),), ((10.0, 90.0),), ((10.0, -1.0),), ((1.0, 1.0),) * 121):
        with pytest.raises(BadValue):
            Horizon(points=points)
