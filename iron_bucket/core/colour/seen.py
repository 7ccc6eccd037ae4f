"""The colour in which a light appears against the camera's white balance: as it is drawn, and in words.

Colour on a screen means light and nothing else; every saturated tone of the pages comes from here.
"""

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.colour.adaptation import screen_rgb
from iron_bucket.core.colour.light_colour import LightColour

#: Less is hardly seen. Source: docs/craft.md, section 5; the Duv typical.
HARDLY_MIRED, HARDLY_DUV = 10.0, 0.002
#: White as it is drawn on paper of this house.
_PAPER_WHITE = np.array([255.0, 244.0, 224.0])
#: From here on green and magenta are plain, and then strong; typical.
_PLAIN_DUV, _STRONG_DUV = 0.006, 0.012


@dataclass(frozen=True, slots=True, kw_only=True)
class Seen:
    """How far a light is from a white: above 0 warm, and green; NaN where it is no shade of white."""

    mired: float
    duv: float

    @property
    def words(self) -> str:
        """Such as “48 mired warm, slightly green”; “neutral” where nobody sees it."""
        if math.isnan(self.mired):
            return "a saturated colour"
        said = []
        if abs(self.mired) >= HARDLY_MIRED:
            said.append(f"{abs(self.mired):.0f} mired {'warm' if self.mired > 0.0 else 'cool'}")
        if abs(self.duv) >= HARDLY_DUV:
            how = "slightly " if abs(self.duv) < _PLAIN_DUV else "" if abs(self.duv) < _STRONG_DUV else "strongly "
            said.append(f"{how}{'green' if self.duv > 0.0 else 'magenta'}")
        return ", ".join(said) or "neutral"


def seen_against(colour: LightColour, white: LightColour) -> Seen:
    """A light against the white balance, or against any other light."""
    return Seen(mired=colour.mired - white.mired, duv=colour.duv - white.duv)


def seen_channels(uv: Array, white: LightColour) -> Array:
    """Red, green and blue of some lights as this white balance sees them, up to 255. Shapes (..., 2) to (..., 3)."""
    return np.asarray(_PAPER_WHITE * screen_rgb(uv, white.uv))


def swatch(colour: LightColour, white: LightColour) -> str:
    """The same of one light as ``#rrggbb``."""
    return _swatch(colour.u, colour.v, white.u, white.v)


@lru_cache(maxsize=4096)
def _swatch(u: float, v: float, white_u: float, white_v: float) -> str:
    channels = _PAPER_WHITE * screen_rgb(np.array([u, v]), np.array([white_u, white_v]))
    return "#" + "".join(f"{round(float(part)):02x}" for part in channels)
