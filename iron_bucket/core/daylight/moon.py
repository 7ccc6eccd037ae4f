"""Where the moon stands, and how much of it is lit."""

from dataclasses import dataclass
from datetime import datetime

import ephem
import numpy as np

from iron_bucket.core.daylight.observer import observer

#: Of a cycle from new moon to new moon, in eighths.
_PHASES = (
    "new moon",
    "waxing crescent",
    "first quarter",
    "waxing",
    "full moon",
    "waning",
    "last quarter",
    "waning crescent",
)


@dataclass(frozen=True, slots=True, kw_only=True)
class MoonPosition:
    """``azimuth_deg`` clockwise from true north; ``altitude_deg`` as from that place, without air;
    ``illuminated_share`` of its disc; ``phase``: of its cycle, 0 new, 0.5 full.
    """

    altitude_deg: float
    azimuth_deg: float
    illuminated_share: float
    phase: float

    @property
    def name(self) -> str:
        """What people call it."""
        return _PHASES[round(self.phase * len(_PHASES)) % len(_PHASES)]


def moon_position(when: datetime, *, latitude_deg: float, longitude_deg: float) -> MoonPosition:
    """The moon over a place. East is positive.

    Raises: BadValue for a time without its zone, or a place off the globe.
    """
    here = observer(when, latitude_deg=latitude_deg, longitude_deg=longitude_deg)
    moon, sun = ephem.Moon(here), ephem.Sun(here)
    ahead = float(ephem.Ecliptic(moon).lon - ephem.Ecliptic(sun).lon) % (2.0 * np.pi)
    return MoonPosition(
        altitude_deg=float(np.degrees(moon.alt)),
        azimuth_deg=float(np.degrees(moon.az)),
        illuminated_share=float(moon.phase) / 100.0,
        phase=ahead / (2.0 * np.pi),
    )
