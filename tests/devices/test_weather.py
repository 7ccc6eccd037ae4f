"""The weather office: its stand-in over real HTTP, and a client that never waits long."""

import json
import urllib.request
from datetime import date

import pytest

from iron_bucket.core.days.weather import HOURS, WeatherHour
from iron_bucket.devices.weather import HttpWeather, WeatherTrouble
from iron_bucket.devices.weather.stand_in import StandInOffice, http_office
from tests.devices.test_hire_desk import Served, saying
from tests.tables import tabled

DAY, LOCK = date(2026, 5, 20), {"latitude_deg": 52.1, "longitude_deg": 4.6}
OFFICE = StandInOffice()
HOUR = {"cloud_share": 0.5, "wind_m_s": 2, "gust_m_s": 3, "rain_mm_h": 0, "temperature_c": 9}


def test_the_stand_in_answers_what_the_client_reads():
    with Served(http_office(OFFICE)) as address:
        assert HttpWeather(address=address).hours(DAY, **LOCK) == OFFICE.hours(DAY, **LOCK)
        with urllib.request.urlopen(f"{address}/v1/openapi.json") as answer:
            document = json.load(answer)
    assert set(document["components"]["schemas"]["Hour"]["required"]) == set(WeatherHour.__slots__)
    assert set(document["paths"]) == {"/v1/hours", "/v1/openapi.json"}


@tabled
def test_the_stand_in_refuses_plainly(path, status):
    with Served(http_office(OFFICE)) as address:
        with pytest.raises(urllib.error.HTTPError) as refused:
            urllib.request.urlopen(address + path)
        with refused.value:
            assert (refused.value.code, "accepted" in json.load(refused.value)["error"]) == (status, True)


def test_the_same_place_and_day_the_same_weather():
    hours = OFFICE.hours(DAY, **LOCK)
    assert len(hours) == HOURS
    assert hours == OFFICE.hours(DAY, **LOCK)
    assert hours != OFFICE.hours(date(2026, 5, 21), **LOCK)
    winter = OFFICE.hours(date(2026, 1, 20), **LOCK)
    assert sum(each.temperature_c for each in hours) > sum(each.temperature_c for each in winter)
    assert all(each.rain_mm_h == 0.0 or each.cloud_share > 0.8 for each in (*hours, *winter))


@pytest.mark.parametrize(
    ("body", "sentence"),
    [
        ({"hours": [HOUR | {"cloud_share": 2}]}, "cloud_share is 2"),
        ({"hours": [{}]}, "it is not what the protocol says"),
        ([], "it is not what the protocol says"),
    ],
)
def test_answers_that_cannot_be_used(body, sentence):
    with Served(saying(json.dumps(body).encode())) as address, pytest.raises(WeatherTrouble, match=sentence):
        HttpWeather(address=address).hours(DAY, **LOCK)
    with pytest.raises(WeatherTrouble, match="the weather office is not answering"):
        HttpWeather(address="http://127.0.0.1:9").hours(DAY, **LOCK)
