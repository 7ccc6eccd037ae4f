"""A weather office over HTTP and JSON, asked with a short patience."""

from dataclasses import dataclass
from datetime import date
from typing import Any

from iron_bucket.core.days.weather import WeatherHour
from iron_bucket.devices.json_http import PATIENCE_S, asked_rows
from iron_bucket.devices.weather.protocol import WeatherTrouble


@dataclass(frozen=True, slots=True, kw_only=True)
class HttpWeather:
    """``address`` such as http://127.0.0.1:8011, without the path."""

    address: str
    patience_s: float = PATIENCE_S

    def hours(self, day: date, *, latitude_deg: float, longitude_deg: float) -> tuple[WeatherHour, ...]:
        """Hour by hour. Raises: WeatherTrouble."""
        path = f"/v1/hours?date={day.isoformat()}&lat={latitude_deg:.4f}&lon={longitude_deg:.4f}"
        return asked_rows(
            "weather office", self.address.rstrip("/") + path, self.patience_s, "hours", _hour, WeatherTrouble
        )


def _hour(entry: dict[str, Any]) -> WeatherHour:
    return WeatherHour(
        cloud_share=float(entry["cloud_share"]),
        wind_m_s=float(entry["wind_m_s"]),
        gust_m_s=float(entry["gust_m_s"]),
        rain_mm_h=float(entry["rain_mm_h"]),
        temperature_c=float(entry["temperature_c"]),
    )
