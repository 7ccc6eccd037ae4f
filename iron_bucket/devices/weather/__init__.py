"""A weather office: cloud, wind, rain and temperature, hour by hour, of a place and a day.

The protocol is HTTP with JSON, described in ``openapi.json``.
"""

from iron_bucket.devices.weather.client import HttpWeather
from iron_bucket.devices.weather.protocol import WeatherOffice, WeatherTrouble

__all__ = ["HttpWeather", "WeatherOffice", "WeatherTrouble"]
