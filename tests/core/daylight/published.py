"""Sun and moon by published low-precision formulas, to hold the library's against.

Source: Astronomical Almanac, pages C5 (sun, good to 0.01 degrees) and D22 (moon, good to 0.3 degrees); sidereal time
after Michalsky, Solar Energy 40 (1988).
"""

from datetime import UTC, datetime

import numpy as np

J2000 = datetime(2000, 1, 1, 12, tzinfo=UTC)


def _seen(ascension: float, declination: float, when: datetime, latitude_deg: float, longitude_deg: float):
    """Altitude and azimuth in degrees."""
    days = (when - J2000).total_seconds() / 86400.0
    hours = when.hour + when.minute / 60.0 + when.second / 3600.0
    turned = np.radians(15.0 * (6.697375 + 0.0657098242 * days + hours) + longitude_deg) - ascension
    latitude = np.radians(latitude_deg)
    up = np.sin(declination) * np.sin(latitude) + np.cos(declination) * np.cos(latitude) * np.cos(turned)
    north = np.sin(declination) * np.cos(latitude) - np.cos(declination) * np.sin(latitude) * np.cos(turned)
    east = -np.cos(declination) * np.sin(turned)
    return np.degrees(np.arcsin(up)), np.degrees(np.arctan2(east, north)) % 360.0


def sun(when: datetime, latitude_deg: float, longitude_deg: float) -> tuple[float, float]:
    ascension, declination, _ = _sun(when)
    return _seen(ascension, declination, when, latitude_deg, longitude_deg)


def _sun(when: datetime) -> tuple[float, float, float]:
    days = (when - J2000).total_seconds() / 86400.0
    anomaly = np.radians(357.528 + 0.9856003 * days)
    longitude = np.radians(280.460 + 0.9856474 * days + 1.915 * np.sin(anomaly) + 0.020 * np.sin(2.0 * anomaly))
    tilt = np.radians(23.439 - 0.0000004 * days)
    ascension = np.arctan2(np.cos(tilt) * np.sin(longitude), np.cos(longitude))
    return ascension, np.arcsin(np.sin(tilt) * np.sin(longitude)), longitude


def moon(when: datetime, latitude_deg: float, longitude_deg: float) -> tuple[float, float, float]:
    """Altitude, azimuth, and the share that is lit."""
    t = (when - J2000).total_seconds() / 86400.0 / 36525.0

    def wave(size: float, start: float, rate: float) -> float:
        return size * np.sin(np.radians(start + rate * t))

    longitude = np.radians(
        218.32
        + 481267.881 * t
        + wave(6.29, 135.0, 477198.87)
        - wave(1.27, 259.3, -413335.36)
        + wave(0.66, 235.7, 890534.22)
        + wave(0.21, 269.9, 954397.74)
        - wave(0.19, 357.5, 35999.05)
        - wave(0.11, 186.5, 966404.03)
    )
    latitude = np.radians(
        wave(5.13, 93.3, 483202.02)
        + wave(0.28, 228.2, 960400.89)
        - wave(0.28, 318.3, 6003.15)
        - wave(0.17, 217.6, -407332.21)
    )
    x = np.cos(latitude) * np.cos(longitude)
    y = 0.9175 * np.cos(latitude) * np.sin(longitude) - 0.3978 * np.sin(latitude)
    z = 0.3978 * np.cos(latitude) * np.sin(longitude) + 0.9175 * np.sin(latitude)
    high, azimuth = _seen(np.arctan2(y, x), np.arcsin(z), when, latitude_deg, longitude_deg)
    off = np.arccos(np.cos(latitude) * np.cos(longitude - _sun(when)[2]))
    return high - 0.95 * np.cos(np.radians(high)), azimuth, (1.0 - np.cos(off)) / 2.0
