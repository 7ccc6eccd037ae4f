"""When of a day it is brighter outside than a limit."""

from collections.abc import Callable
from datetime import date, datetime, time, timedelta

from iron_bucket.core.daylight.sky import Weather, daylight
from iron_bucket.core.daylight.sun import SunPosition

STEP = timedelta(minutes=5)


def brighter_span(
    limit_lx: float, weather: Weather, day: date, sun: Callable[[datetime], SunPosition]
) -> tuple[datetime, datetime] | None:
    """First and last time, to five minutes, at which level ground gets more than ``limit_lx``; None on a day when it
    never does.

    ``sun``: where it stands at a time of the place's own clock.
    """
    times = [datetime.combine(day, time()) + STEP * step for step in range(24 * 12)]
    brighter = [when for when in times if _on_level_ground_lx(weather, sun(when)) > limit_lx]
    return (brighter[0], brighter[-1]) if brighter else None


def _on_level_ground_lx(weather: Weather, sun: SunPosition) -> float:
    return daylight(weather, sun.altitude_deg).on_level_ground_lx(sun.altitude_deg)
