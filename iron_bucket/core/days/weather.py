"""The weather of a day as it was foretold, hour by hour: what sky it makes, and whom it troubles."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta

from iron_bucket.core.checks import require_at_most, require_between, require_share
from iron_bucket.core.daylight.sky import Weather
from iron_bucket.core.errors import BadValue

#: From the midnight that a day begins with.
HOURS = 36
#: Up to so much of the sky covered it is clear, up to so much partly cloudy. Typical: two and six eighths.
_CLEAR_TO, _PARTLY_TO = 0.25, 0.75
#: Less than that wets nothing.
DRIZZLE_MM_H = 0.1


@dataclass(frozen=True, slots=True, kw_only=True)
class WeatherHour:
    """One hour: ``wind_m_s`` its mean, ``gust_m_s`` the strongest of it."""

    cloud_share: float
    wind_m_s: float
    gust_m_s: float
    rain_mm_h: float
    temperature_c: float

    def __post_init__(self) -> None:
        require_share("cloud_share", self.cloud_share)
        require_between("wind_m_s", self.wind_m_s, low=0.0, high=90.0, unit="m/s")
        require_between("gust_m_s", self.gust_m_s, low=self.wind_m_s, high=120.0, unit="m/s, no less than the wind")
        require_between("rain_mm_h", self.rain_mm_h, low=0.0, high=400.0, unit="mm/h")
        require_between("temperature_c", self.temperature_c, low=-60.0, high=60.0, unit="degrees Celsius")

    @property
    def sky(self) -> Weather:
        """As a set-up names it."""
        if self.cloud_share <= _CLEAR_TO:
            return Weather.CLEAR
        return Weather.PARTLY if self.cloud_share <= _PARTLY_TO else Weather.OVERCAST


@dataclass(frozen=True, slots=True, kw_only=True)
class Forecast:
    """``hours`` of one ``day`` at one place, by its number; ``told_at``: when, and by whom it was told, in words."""

    piece_id: str
    place_id: int
    day: str
    hours: tuple[WeatherHour, ...] = ()
    told_at: str = ""

    def __post_init__(self) -> None:
        try:
            date.fromisoformat(self.day)
        except ValueError:
            raise BadValue("day", repr(self.day), "a date such as 2026-11-26") from None
        require_at_most("hours", len(self.hours), HOURS)

    def at(self, when: datetime) -> WeatherHour | None:
        """Of a time by the clock of the place; None beyond what was told."""
        hour = self._hour(when)
        return self.hours[hour] if 0 <= hour < len(self.hours) else None

    def _hour(self, when: datetime) -> int:
        """From the midnight that the day begins with."""
        return (when - datetime.combine(date.fromisoformat(self.day), time())) // timedelta(hours=1)

    def sky(self, when: datetime, usual: Weather) -> Weather:
        """What sky stands then; the usual one beyond what was told."""
        found = self.at(when)
        return found.sky if found else usual

    def within(self, start: datetime, end: datetime) -> "WorstWeather | None":
        """The worst of a span of time; None where nothing was told of it."""
        found = self.hours[max(self._hour(start), 0) : max(self._hour(end) + 1, 0)]
        return WorstWeather.of(found) if found else None


def forecast_id(place_id: int, day: str) -> str:
    """What the weather of a place and a day is called."""
    return f"forecast-{place_id}-{day}"


@dataclass(frozen=True, slots=True, kw_only=True)
class WorstWeather:
    """Of some hours: the strongest gust, the heaviest rain, the coldest, the least and the most cloud."""

    gust_m_s: float
    rain_mm_h: float
    temperature_c: float
    least_cloud: float
    most_cloud: float

    @classmethod
    def of(cls, hours: Iterable[WeatherHour]) -> "WorstWeather":
        """Of one or more."""
        some = tuple(hours)
        return cls(
            gust_m_s=max(each.gust_m_s for each in some),
            rain_mm_h=max(each.rain_mm_h for each in some),
            temperature_c=min(each.temperature_c for each in some),
            least_cloud=min(each.cloud_share for each in some),
            most_cloud=max(each.cloud_share for each in some),
        )

    @property
    def is_wet(self) -> bool:
        """Whether it rains enough to cover lamps."""
        return self.rain_mm_h >= DRIZZLE_MM_H
