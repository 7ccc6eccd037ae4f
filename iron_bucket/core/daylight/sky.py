"""What sun and sky give, by the sun's altitude and the weather. Estimates: a meter at the window beats them."""

from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from iron_bucket.core.quantities.mired import k_from_mired, mired_from_k
from iron_bucket.core.typical import typical


class Weather(StrEnum):
    CLEAR = "clear"
    PARTLY = "partly cloudy"
    OVERCAST = "overcast"


#: Solar illuminance outside the air, lx. Source: that of the table of skies.
_SOLAR_LX = 127_500.0
#: Typical: after sunset the sky loses a factor of ten in 2.5 degrees, so that civil twilight ends at some 3 lx.
_TWILIGHT_DECADE_DEG = 2.5
_DARK_FROM_DEG = -12.0
#: Typical colours.
_HIGH_SUN_K, _LOW_SUN_K, _HIGH_SUN_DEG = 5600.0, 2600.0, 30.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Daylight:
    """``sun_lx`` is square to the beam; ``sky_lx`` on level ground without the sun."""

    sun_lx: float
    sky_lx: float
    sun_k: float
    sky_k: float

    def on_level_ground_lx(self, altitude_deg: float) -> float:
        """Sun and sky together. Source: E = E_sky + E_sun sin(altitude)."""
        return self.sky_lx + self.sun_lx * max(float(np.sin(np.radians(altitude_deg))), 0.0)


def daylight(weather: Weather, altitude_deg: float) -> Daylight:
    """Sun and sky at an altitude; both are 0 in the dark.

    Source: E_sky = A + B sin(altitude)^C; the beam is E_solar exp(-extinction m), m the mass of air in its way.
    """
    sky = typical("sky")[weather]
    sine = max(float(np.sin(np.radians(altitude_deg))), 0.0)
    sky_lx = sky["at_horizon_lx"] + sky["rise_lx"] * sine ** sky["power"]
    if altitude_deg < 0.0:
        sky_lx *= 10.0 ** (altitude_deg / _TWILIGHT_DECADE_DEG)
    if altitude_deg < _DARK_FROM_DEG:
        sky_lx = 0.0
    beam = _SOLAR_LX * np.exp(-sky["extinction"] * air_mass(altitude_deg)) if sky["extinction"] and sine > 0.0 else 0.0
    low, high = mired_from_k(_LOW_SUN_K), mired_from_k(_HIGH_SUN_K)
    share = min(max(altitude_deg / _HIGH_SUN_DEG, 0.0), 1.0)
    return Daylight(
        sun_lx=float(beam),
        sky_lx=float(sky_lx),
        sun_k=float(k_from_mired(low + share * (high - low))),
        sky_k=sky["sky_k"],
    )


def air_mass(altitude_deg: float) -> float:
    """Air that the sun's beam goes through, over that of the zenith; 38 on the horizon.

    Source: Kasten and Young, Applied Optics 28 (1989), 4735.
    """
    altitude = max(altitude_deg, 0.0)
    return float(1.0 / (np.sin(np.radians(altitude)) + 0.50572 * (altitude + 6.07995) ** -1.6364))
