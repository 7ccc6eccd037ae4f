"""The weather as it was told, and whom it troubles."""

from dataclasses import replace
from datetime import datetime, timedelta

import pytest

from iron_bucket.core.cautions.rules import sail_of
from iron_bucket.core.daylight.sky import Weather
from iron_bucket.core.days.weather import Forecast, WeatherHour, WorstWeather, forecast_id
from iron_bucket.core.days.weather_cautions import weather_cautions
from iron_bucket.core.errors import BadValue
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.plan.setup import PlacedFrame
from tests.core.setups.made import a_lamp, a_place, a_setup, lit_setup
from tests.tables import tabled

HOUR = WeatherHour(cloud_share=0.5, wind_m_s=3.0, gust_m_s=5.0, rain_mm_h=0.0, temperature_c=12.0)
WET = replace(HOUR, cloud_share=1.0, rain_mm_h=0.4, gust_m_s=9.0, temperature_c=4.0)
EIGHT = datetime(2026, 11, 26, 8)
TOLD = Forecast(piece_id=forecast_id(3, "2026-11-26"), place_id=3, day="2026-11-26", hours=(HOUR,) * 9 + (WET,) * 3)


@pytest.mark.parametrize(
    ("cloud", "sky"),
    [(0.0, "clear"), (0.25, "clear"), (0.26, "partly cloudy"), (0.75, "partly cloudy"), (0.76, "overcast")],
)
def test_cloud_makes_a_sky(cloud, sky):
    assert replace(HOUR, cloud_share=cloud).sky == Weather(sky)


def test_each_hour_lasts_till_the_next_and_nothing_is_said_beyond():
    assert TOLD.piece_id == "forecast-3-2026-11-26"
    assert (TOLD.at(EIGHT), TOLD.at(EIGHT + timedelta(minutes=59)), TOLD.at(EIGHT + timedelta(hours=1))) == (
        HOUR,
        HOUR,
        WET,
    )
    assert (TOLD.at(EIGHT - timedelta(hours=9)), TOLD.at(EIGHT + timedelta(hours=4))) == (None, None)
    assert (TOLD.at(EIGHT - timedelta(hours=8)), TOLD.at(EIGHT + timedelta(minutes=239))) == (HOUR, WET)
    skies = [TOLD.sky(EIGHT + timedelta(hours=at), Weather.CLEAR) for at in (0, 1, 4)]
    assert skies == [Weather.PARTLY, Weather.OVERCAST, Weather.CLEAR]


def test_the_worst_of_a_span():
    dry = TOLD.within(EIGHT, EIGHT + timedelta(minutes=30))
    assert dry == WorstWeather.of((HOUR,))
    assert not dry.is_wet
    both = TOLD.within(EIGHT, EIGHT + timedelta(minutes=90))
    assert both == WorstWeather(gust_m_s=9.0, rain_mm_h=0.4, temperature_c=4.0, least_cloud=0.5, most_cloud=1.0)
    assert both.is_wet
    assert TOLD.within(EIGHT + timedelta(minutes=50), EIGHT + timedelta(minutes=65)).rain_mm_h == 0.4
    assert TOLD.within(EIGHT + timedelta(hours=5), EIGHT + timedelta(hours=6)) is None
    assert TOLD.within(EIGHT - timedelta(hours=12), EIGHT - timedelta(hours=9)) is None
    assert not TOLD.within(EIGHT - timedelta(hours=12), EIGHT - timedelta(hours=8)).is_wet


@tabled
def test_what_no_office_tells(changes):
    with pytest.raises(BadValue):
        replace(HOUR, **changes)
    with pytest.raises(BadValue):
        replace(TOLD, hours=(HOUR,) * 37)
    with pytest.raises(BadValue):
        replace(TOLD, day="soon")


def told(gear, worst, around, units=UnitSystem.METRIC, **changes):
    silk = PlacedFrame(piece_id="f", name="Silk", frame="frame-1.2", cloth="cloth-silk", x_m=2, y_m=2, z_m=2)
    setup = a_setup(**({"frames": (silk,), "lamps": (a_lamp(),)} | changes))
    lit = lit_setup(gear, setup, surroundings=around)
    return {each.code: each for each in weather_cautions(lit, worst, gear, units)}


def test_what_stands_in_the_open_minds_the_weather_and_nothing_else_does(gear):
    worst = WorstWeather.of((WET,))
    assert told(gear, worst, Surroundings(a_place("white paint"))) == {}
    outside = Surroundings(replace(a_place("white paint"), rooms=()))
    found = told(gear, worst, outside)
    frame = next(each for each in gear.frames if each.slug == "frame-1.2")
    tips_m_s = sail_of(frame).critical_wind_m_s
    assert f"with one bag it tips at {tips_m_s:.1f} m/s" in found["gusts"].trigger
    assert found["rain"].trigger == "0.4 mm of rain an hour are told; one lamp in the open, 1 of them not sealed"
    assert "0.02 in of rain an hour" in told(gear, worst, outside, UnitSystem.IMPERIAL)["rain"].trigger
    # The moment of a gust, half as much again, is the square of its speed.
    for share, codes in ((0.999, {"rain"}), (1.001, {"gusts", "rain"})):
        gust = replace(worst, gust_m_s=share * tips_m_s / 1.5**0.5)
        assert set(told(gear, gust, outside)) == codes
    assert told(gear, WorstWeather.of((HOUR,)), outside) == {}
    assert told(gear, worst, outside, lamps=(a_lamp(is_on=False),), frames=()) == {}


def test_batteries_in_the_cold(gear):
    outside = Surroundings(replace(a_place("white paint"), rooms=()))
    fed = a_lamp(feed=gear.batteries[0].slug)
    cold = told(gear, WorstWeather.of((WET,)), outside, lamps=(fed,), frames=())["cold"]
    # One per cent a degree under twenty: sixteen of them.
    assert cold.trigger == "4 °C are told: 84 % of the capacity is left, typically; one lamp on batteries"
    mild = replace(WorstWeather.of((WET,)), temperature_c=10.0)
    assert "cold" not in told(gear, mild, outside, lamps=(fed,), frames=())
