"""Light in three bands, red, green and blue, in which surfaces send it on.

Source: the primaries of ITU-R BT.2020, wide enough that the light of a set lies within them.
"""

from functools import lru_cache

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.colour.white import daylight_uv, mired_and_duv, uv_from_mired, xyz_from_uv

_PRIMARIES_XY = np.array([[0.708, 0.292], [0.170, 0.797], [0.131, 0.046]])
_WHITE_XY = np.array([0.3127, 0.3290])
#: Reflectances and transmittances are told for light of this colour.
_TOLD_FOR_K = 5600.0
#: A band that a light hardly has says nothing of a surface.
_LEAST_SHARE = 0.02


def _xyz(xy: Array) -> Array:
    return np.stack([xy[..., 0], xy[..., 1], 1.0 - xy.sum(axis=-1)], axis=-1) / xy[..., 1:]


def _to_xyz() -> Array:
    primaries, white = _xyz(_PRIMARIES_XY).T, _xyz(_WHITE_XY)
    return np.asarray(primaries * np.linalg.solve(primaries, white))


#: From bands to X, Y, Z and back; even bands are D65.
XYZ_FROM_BANDS = _to_xyz()
BANDS_FROM_XYZ = np.linalg.inv(XYZ_FROM_BANDS)
#: What each band counts as light.
LUMINOUS = XYZ_FROM_BANDS[1]


def bands_of(uv: Array) -> Array:
    """A light of Y = 1 in bands; a colour beyond the primaries has the nearest that is none below 0. Shapes (..., 2) to
    (..., 3).
    """
    bands = np.maximum(xyz_from_uv(uv) @ BANDS_FROM_XYZ.T, 0.0)
    return np.asarray(bands / (bands @ LUMINOUS)[..., None])


def luminous_shares(uv: Array) -> Array:
    """What of a light's lux lies in each band; together 1. Shapes (..., 2) to (..., 3)."""
    return np.asarray(bands_of(uv) * LUMINOUS)


@lru_cache(maxsize=1024)
def sent_on(shift_mired: float, duv: float) -> tuple[float, float, float]:
    """What a tinted surface or cloth makes of each band, over what it makes of all the light, so that white daylight
    leaves it by ``shift_mired`` and ``duv`` another.
    """
    if not shift_mired and not duv:
        return 1.0, 1.0, 1.0
    white = daylight_uv(_TOLD_FOR_K)
    mired, own_duv = mired_and_duv(white)
    before, after = bands_of(white), bands_of(uv_from_mired(mired + shift_mired, own_duv + duv))
    ratio = after / np.maximum(before, _LEAST_SHARE)
    red, green, blue = (ratio / (ratio * before * LUMINOUS).sum()).tolist()
    return red, green, blue
