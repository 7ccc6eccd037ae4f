"""Where the sun stands."""

from dataclasses import dataclass
from datetime import UTC, datetime

import numpy as np

from iron_bucket.core.checks import require_between
from iron_bucket.core.errors import BadValue

_J2000 = datetime(2000, 1, 1, 12, tzinfo=UTC)


@dataclass(frozen=True, slots=True, kw_only=True)
class SunPosition:
    """``azimuth_deg`` clockwise from true north.

    Refraction is left out: on the horizon it would lift the sun by half a degree.
    """

    altitude_deg: float
    azimuth_deg: float


def sun_position(when: datetime, *, latitude_deg: float, longitude_deg: float) -> SunPosition:
    """The sun over a place, good to about 0.02 degrees from 1950 to 2050. East is positive.

    Raises: BadValue for a time without its zone, or a place off the globe.
    Source: Astronomical Almanac, low-precision formulas (page C5); sidereal time after Michalsky, Solar Energy 40
        (1988).
    """
    require_between("latitude", latitude_deg, low=-90.0, high=90.0, unit="degrees")
    require_between("longitude", longitude_deg, low=-180.0, high=180.0, unit="degrees")
    if when.tzinfo is None:
        raise BadValue("when", when.isoformat(), "a time with its zone")
    universal = when.astimezone(UTC)
    days = (universal - _J2000).total_seconds() / 86400.0
    hours = universal.hour + universal.minute / 60.0 + universal.second / 3600.0
    anomaly = np.radians(357.528 + 0.9856003 * days)
    longitude = np.radians(280.460 + 0.9856474 * days + 1.915 * np.sin(anomaly) + 0.020 * np.sin(2.0 * anomaly))
    obliquity = np.radians(23.439 - 0.0000004 * days)
    ascension = np.arctan2(np.cos(obliquity) * np.sin(longitude), np.cos(longitude))
    declination = np.arcsin(np.sin(obliquity) * np.sin(longitude))
    sidereal_h = 6.697375 + 0.0657098242 * days + hours
    hour_angle = np.radians(15.0 * sidereal_h + longitude_deg) - ascension
    latitude = np.radians(latitude_deg)
    altitude = np.arcsin(
        np.sin(declination) * np.sin(latitude) + np.cos(declination) * np.cos(latitude) * np.cos(hour_angle)
    )
    azimuth = np.arctan2(
        -np.cos(declination) * np.sin(hour_angle),
        np.sin(declination) * np.cos(latitude) - np.cos(declination) * np.sin(latitude) * np.cos(hour_angle),
    )
    return SunPosition(altitude_deg=float(np.degrees(altitude)), azimuth_deg=float(np.degrees(azimuth) % 360.0))
