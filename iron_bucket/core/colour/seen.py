"""The colour in which a lamp appears against the camera's white balance, for drawing its light.

Colour on a screen means light and nothing else; every saturated tone of the pages comes from here.
"""

from functools import lru_cache

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.quantities.mired import mired_from_k

#: How far the screen goes: 130 mired (day against tungsten) is drawn fully saturated.
FULL_SHIFT_MIRED = 130.0
_WARM, _NEUTRAL, _COOL = (np.array(rgb, dtype=float) for rgb in ((255, 158, 74), (255, 244, 224), (120, 168, 255)))


def seen_shift_mired(*, light_k: float, white_balance_k: float) -> float:
    """Mired between a light and the white balance; positive reads warm."""
    return float(mired_from_k(light_k) - mired_from_k(white_balance_k))


def seen_channels(*, light_k: float, white_balance_k: float) -> Array:
    """Red, green and blue of a light as this white balance sees it, up to 255: neutral when they agree. Shape (3,)."""
    share = np.clip(seen_shift_mired(light_k=light_k, white_balance_k=white_balance_k) / FULL_SHIFT_MIRED, -1.0, 1.0)
    end = _WARM if share > 0 else _COOL
    return np.asarray(_NEUTRAL + abs(share) * (end - _NEUTRAL))


@lru_cache(maxsize=2048)
def seen_rgb(*, light_k: float, white_balance_k: float) -> str:
    """The same as ``#rrggbb``."""
    channels = seen_channels(light_k=light_k, white_balance_k=white_balance_k)
    return "#" + "".join(f"{round(float(part)):02x}" for part in channels)
