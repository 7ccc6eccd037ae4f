"""Bring one lamp to a practical, or to what a colour meter said."""

import colorsys

import numpy as np

from iron_bucket.core.checks import require_between, require_cct
from iron_bucket.core.colour.adaptation import from_screen
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Origin
from iron_bucket.core.setups.colour.agree import Scene
from iron_bucket.core.setups.colour.ways import ColourWay, ways_for


def by_meter(cct_k: float, duv: float = 0.0) -> LightColour:
    """A colour temperature and Duv as they were read. Raises: BadValue."""
    require_cct("cct", cct_k)
    require_between("duv", duv, low=-0.05, high=0.05, unit="")
    return LightColour.of_cct(cct_k, duv, Origin.MEASURED)


def by_xy(x: float, y: float) -> LightColour:
    """CIE 1931 x, y as they were read. Raises: BadValue."""
    return LightColour.of_xy(x, y, Origin.MEASURED)


def by_hue(hue_deg: float, saturation: float, white: LightColour) -> LightColour:
    """A hue round the circle (0 red, 120 green, 240 blue) and how saturated, 0 the white balance to 1. Raises:
    BadValue.

    Source: hue and saturation of the HSV model over linear sRGB, its white laid on the white balance.
    """
    require_between("hue", hue_deg, low=0.0, high=360.0, unit="degrees")
    require_between("saturation", saturation, low=0.0, high=1.0, unit="")
    rgb = np.array(colorsys.hsv_to_rgb(hue_deg / 360.0 % 1.0, saturation, 1.0))
    return LightColour.of(from_screen(rgb, white.uv), Origin.MEASURED)


def matching(scene: Scene, light_id: str, target: LightColour, tolerance: float) -> tuple[ColourWay, ...]:
    """Every way of one light, the best first. Raises: BadValue for a light that there is not."""
    light = next((each for each in scene.lit.built.lights if each.light_id == light_id), None)
    if light is None:
        raise BadValue("lamp", repr(light_id), "one of the lights of this set-up")
    return ways_for(light, scene.asked(target, tolerance))
