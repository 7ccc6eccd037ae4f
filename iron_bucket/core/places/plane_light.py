"""What sun and sky lay on any plane in the open at a place, by the weather."""

from dataclasses import dataclass
from datetime import datetime

from iron_bucket.core.colour.light_colour import mixed
from iron_bucket.core.daylight.sky import Weather
from iron_bucket.core.figure import Origin
from iron_bucket.core.places.bearing import along_bearing
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.scene.scene import SceneLamp
from iron_bucket.core.scene.skylight import OpenSky
from iron_bucket.core.scene.sunlight import beam_lx


@dataclass(frozen=True, slots=True, kw_only=True)
class PlaneLight:
    """``sky_lx`` with what comes off the ground; ``cct_k`` of both together, None in the dark; ``origin``: typical, or
    measured where a reading of the place overrules it.
    """

    weather: Weather
    sun_lx: float
    sky_lx: float
    cct_k: float | None
    origin: Origin = Origin.TYPICAL

    @property
    def illuminance_lx(self) -> float:
        """Both together."""
        return self.sun_lx + self.sky_lx


def plane_light(
    around: Surroundings, when: datetime, weather: Weather, bearing_deg: float, tilt_deg: float
) -> PlaneLight:
    """A plane that looks along a bearing of the plan, tilted up; 90 degrees is level ground. Readings of the place
    overrule what is computed, as they do everywhere.
    """
    normal = along_bearing(bearing_deg, tilt_deg)
    sun_lx = sky_lx = 0.0
    colours, levels, origin = [], [], Origin.TYPICAL
    for each in around.available_light(when, weather):
        light = each.light
        if isinstance(light, OpenSky):
            sky_lx = level = light.sky.on_plane_lx_without_sun(normal)
        elif isinstance(light, SceneLamp) and each.is_daylight:
            sun_lx = level = beam_lx(light) * max(float(-light.aim @ normal), 0.0)
        else:
            continue
        origin = each.origin
        colours.append(each.colour)
        levels.append(level)
    both = mixed(colours, levels)
    return PlaneLight(weather=weather, sun_lx=sun_lx, sky_lx=sky_lx, cct_k=both.cct_k if both else None, origin=origin)
