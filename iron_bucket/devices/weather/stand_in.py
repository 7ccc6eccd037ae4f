"""A simulated weather office: made-up weather, the same for the same place and day, whoever asks."""

import json
import math
import zlib
from datetime import date
from pathlib import Path
from urllib.parse import parse_qs
from wsgiref.types import WSGIEnvironment

import numpy as np

from iron_bucket.core.days.weather import HOURS, WeatherHour
from iron_bucket.devices.json_http import Application, answering

_DOCUMENT = Path(__file__).parent / "openapi.json"
#: Hours after midnight at which it is coldest.
_COLDEST_H = 5.0


class StandInOffice:
    """It is asked directly in tests, and over HTTP by everybody else. Nothing of it is a forecast."""

    def hours(self, day: date, *, latitude_deg: float, longitude_deg: float) -> tuple[WeatherHour, ...]:
        """Fronts that drift by: cloud and wind rise and fall together, it rains under thick cloud, nights are
        colder.
        """
        where = f"{day.isoformat()} {latitude_deg:.1f} {longitude_deg:.1f}"
        chance = np.random.default_rng(zlib.crc32(where.encode()))
        hour = np.arange(HOURS)
        front = np.sin(2.0 * np.pi * (hour / chance.uniform(9.0, 22.0) + chance.random()))
        cloud = np.clip(chance.uniform(0.2, 0.8) + 0.45 * front + chance.normal(0.0, 0.06, HOURS), 0.0, 1.0)
        wind = np.clip(chance.uniform(2.0, 6.0) + 2.5 * front + chance.normal(0.0, 0.4, HOURS), 0.2, None)
        rain = np.where(cloud > 0.85, chance.gamma(1.2, 0.8, HOURS), 0.0)
        daily = -np.cos(2.0 * np.pi * (hour - _COLDEST_H) / 24.0)
        warmth = _season_c(day, latitude_deg) + chance.normal(0.0, 2.0) + (4.0 - 3.0 * cloud) * daily
        columns = zip(cloud, wind, rain, warmth, strict=True)
        return tuple(
            WeatherHour(
                cloud_share=round(float(over), 2),
                wind_m_s=round(float(blows), 1),
                gust_m_s=round(1.6 * float(blows), 1),
                rain_mm_h=round(float(falls), 1),
                temperature_c=round(float(degrees), 1),
            )
            for over, blows, falls, degrees in columns
        )


def _season_c(day: date, latitude_deg: float) -> float:
    """The mean of a day: colder away from the equator, warmest a month after the longest day."""
    turn = math.cos(2.0 * math.pi * (day.timetuple().tm_yday - 201) / 365.25)
    return 27.0 - 0.35 * abs(latitude_deg) + math.copysign(0.18 * abs(latitude_deg), latitude_deg) * turn


def http_office(office: StandInOffice) -> Application:
    """The office as a WSGI application that speaks the protocol."""
    return answering(lambda environ: _answered(office, environ))


def _answered(office: StandInOffice, environ: WSGIEnvironment) -> tuple[str, object]:
    if environ["PATH_INFO"] == "/v1/openapi.json":
        return "200 OK", json.loads(_DOCUMENT.read_text(encoding="utf-8"))
    if environ["PATH_INFO"] != "/v1/hours":
        return "404 Not Found", {"error": "accepted: /v1/hours and /v1/openapi.json"}
    wanted = parse_qs(environ.get("QUERY_STRING", ""))
    try:
        day = date.fromisoformat(wanted["date"][0])
        latitude_deg, longitude_deg = float(wanted["lat"][0]), float(wanted["lon"][0])
        if not (abs(latitude_deg) <= 90.0 and abs(longitude_deg) <= 180.0):
            raise ValueError
    except (KeyError, ValueError):
        return "400 Bad Request", {"error": "accepted: a date such as 2026-11-26, a lat and a lon in degrees"}
    hours = office.hours(day, latitude_deg=latitude_deg, longitude_deg=longitude_deg)
    told = [{name: getattr(each, name) for name in WeatherHour.__slots__} for each in hours]
    return "200 OK", {"date": day.isoformat(), "hours": told}
