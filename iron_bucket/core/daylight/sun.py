"""Where the sun stands."""

from dataclasses import dataclass
from datetime import datetime

import ephem
import numpy as np

from iron_bucket.core.daylight.observer import lifted_deg, observer


@dataclass(frozen=True, slots=True, kw_only=True)
class SunPosition:
    """``azimuth_deg`` clockwise from true north; ``altitude_deg`` without air."""

    altitude_deg: float
    azimuth_deg: float

    @property
    def apparent_altitude_deg(self) -> float:
        """As high as it looks: air lifts it, by half a degree on the horizon."""
        return lifted_deg(self.altitude_deg)


def sun_position(when: datetime, *, latitude_deg: float, longitude_deg: float) -> SunPosition:
    """The sun over a place. East is positive.

    Raises: BadValue for a time without its zone, or a place off the globe.
    """
    sun = ephem.Sun(observer(when, latitude_deg=latitude_deg, longitude_deg=longitude_deg))
    return SunPosition(altitude_deg=float(np.degrees(sun.alt)), azimuth_deg=float(np.degrees(sun.az)))
