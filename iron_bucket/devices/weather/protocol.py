"""What the application wants of a weather office."""

from datetime import date
from typing import Protocol

from iron_bucket.core.days.weather import WeatherHour
from iron_bucket.devices.json_http import DeviceTrouble


class WeatherTrouble(DeviceTrouble):
    """The office does not answer, or answers what cannot be read; the text says which."""


class WeatherOffice(Protocol):
    """An office that can be asked."""

    def hours(self, day: date, *, latitude_deg: float, longitude_deg: float) -> tuple[WeatherHour, ...]:
        """From the midnight before, by the clock of the place, a day and a half. Raises: WeatherTrouble."""
        ...
