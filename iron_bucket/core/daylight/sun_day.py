"""The hours of a day by the sun: rise, set, twilights, golden and blue hours."""

from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from functools import lru_cache

import numpy as np
from scipy.optimize import brentq

from iron_bucket.core.daylight.sun import sun_position

#: The middle of the sun when its upper edge is seen to rise: 34' of refraction and 16' of half its disc.
#: Source: Explanatory Supplement to the Astronomical Almanac, 9.33.
RISE_DEG, CIVIL_DEG, NAUTICAL_DEG = -50.0 / 60.0, -6.0, -12.0
#: Of the trade: warm and low up to here; cool light between here and the end of civil twilight.
GOLDEN_DEG, BLUE_DEG = 6.0, -4.0
_STEP_MIN = 10
_HALF_A_DAY_MIN = 720


@dataclass(frozen=True, slots=True, kw_only=True)
class SunDay:
    """In UTC; None where the sun does not cross that height that day. ``noon``: when it stands highest, ``highest_deg``
    high.
    """

    noon: datetime
    highest_deg: float
    nautical_dawn: datetime | None
    civil_dawn: datetime | None
    blue_until: datetime | None
    sunrise: datetime | None
    golden_until: datetime | None
    golden_from: datetime | None
    sunset: datetime | None
    blue_from: datetime | None
    civil_dusk: datetime | None
    nautical_dusk: datetime | None

    @property
    def is_polar_day(self) -> bool:
        """Whether it is up all day."""
        return self.sunrise is None and self.sunset is None and self.highest_deg > RISE_DEG

    @property
    def is_polar_night(self) -> bool:
        """Whether it does not come up at all."""
        return self.highest_deg <= RISE_DEG


@lru_cache(maxsize=512)
def sun_day(day: date, *, latitude_deg: float, longitude_deg: float) -> SunDay:
    """The twelve hours before and after the place's own mean noon of that date, whatever its clocks say.

    Raises: BadValue for a place off the globe.
    """
    mean_noon = datetime.combine(day, time(12), tzinfo=UTC) - timedelta(hours=longitude_deg / 15.0)

    def altitude_deg(minute: float) -> float:
        there = mean_noon + timedelta(minutes=minute)
        return sun_position(there, latitude_deg=latitude_deg, longitude_deg=longitude_deg).altitude_deg

    minutes = np.arange(-_HALF_A_DAY_MIN, _HALF_A_DAY_MIN + 1, _STEP_MIN, dtype=float)
    heights = np.array([altitude_deg(each) for each in minutes.tolist()])
    top = int(heights[1:-1].argmax()) + 1
    noon_min = _vertex(minutes[top - 1 : top + 2], heights[top - 1 : top + 2])

    def crossing(height_deg: float, *, is_rising: bool) -> datetime | None:
        above = heights > height_deg
        turns = np.flatnonzero(above[1:] != above[:-1])
        turns = turns[turns < top] if is_rising else turns[turns >= top]
        if not len(turns):
            return None
        at = int(turns[-1] if is_rising else turns[0])
        found = brentq(lambda each: altitude_deg(each) - height_deg, minutes[at], minutes[at + 1], xtol=1e-4)
        return mean_noon + timedelta(minutes=float(found))

    return SunDay(
        noon=mean_noon + timedelta(minutes=noon_min),
        highest_deg=altitude_deg(noon_min),
        nautical_dawn=crossing(NAUTICAL_DEG, is_rising=True),
        civil_dawn=crossing(CIVIL_DEG, is_rising=True),
        blue_until=crossing(BLUE_DEG, is_rising=True),
        sunrise=crossing(RISE_DEG, is_rising=True),
        golden_until=crossing(GOLDEN_DEG, is_rising=True),
        golden_from=crossing(GOLDEN_DEG, is_rising=False),
        sunset=crossing(RISE_DEG, is_rising=False),
        blue_from=crossing(BLUE_DEG, is_rising=False),
        civil_dusk=crossing(CIVIL_DEG, is_rising=False),
        nautical_dusk=crossing(NAUTICAL_DEG, is_rising=False),
    )


def _vertex(minutes: np.ndarray, heights: np.ndarray) -> float:
    """Where a parabola through three of them is highest."""
    bend, slope, _ = np.polyfit(minutes, heights, 2).tolist()
    return float(-slope / (2.0 * bend))
