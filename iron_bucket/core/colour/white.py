"""Colours as shades of white: colour temperature, and how far off the Planckian locus, green or magenta.

Small and quick; tested against the colour library, which stays out of every start.
"""

from functools import cache

import numpy as np
from scipy.interpolate import CubicSpline

from iron_bucket.core.arrays import Array, Floats
from iron_bucket.core.colour.observer import matching, wavelengths_nm

#: The second radiation constant in nm K. Source: CODATA 2018, c2 = h c / k.
_C2_NM_K = 1.438776877e7
#: The locus runs from 1000 K to 125 000 K.
_REDDEST_MIRED, _BLUEST_MIRED = 1000.0, 8.0
#: Farther off the locus a colour is no shade of white, and has no temperature. Source: CIE 15:2018, 9.4.
FARTHEST_DUV = 0.05
_NEAREST_STEPS = 5
#: Daylight: where CIE's formula for its chromaticity holds. Source: CIE 15:2018, 4.1.2.
_DAYLIGHT_LOW_K, _DAYLIGHT_HIGH_K = 4000.0, 25_000.0


def uv_from_xy(xy: Array) -> Array:
    """CIE 1960 u, v. Shapes (..., 2). Source: u = 4x / (-2x + 12y + 3), v = 6y / (-2x + 12y + 3)."""
    x, y = xy[..., 0], xy[..., 1]
    return np.asarray(np.stack([4.0 * x, 6.0 * y], axis=-1) / (-2.0 * x + 12.0 * y + 3.0)[..., None])


def xy_from_uv(uv: Array) -> Array:
    """The way back. Shapes (..., 2). Source: x = 3u / (2u - 8v + 4), y = 2v / (2u - 8v + 4)."""
    u, v = uv[..., 0], uv[..., 1]
    return np.asarray(np.stack([3.0 * u, 2.0 * v], axis=-1) / (2.0 * u - 8.0 * v + 4.0)[..., None])


def xyz_from_uv(uv: Array) -> Array:
    """X, Y and Z of a light of Y = 1. Shapes (..., 2) to (..., 3)."""
    xy = xy_from_uv(uv)
    x, y = xy[..., 0], xy[..., 1]
    return np.asarray(np.stack([x / y, np.ones_like(x), (1.0 - x - y) / y], axis=-1))


def uv_from_xyz(xyz: Array) -> Array:
    """Shapes (..., 3) to (..., 2). Source: u = 4X / (X + 15Y + 3Z), v = 6Y / (X + 15Y + 3Z)."""
    whole = xyz @ np.array([1.0, 15.0, 3.0])
    return np.asarray(np.stack([4.0 * xyz[..., 0], 6.0 * xyz[..., 1]], axis=-1) / whole[..., None])


def planckian_uv(mired: Floats) -> Array:
    """A black body's, up to 1000 mired. Shapes (...) to (..., 2)."""
    return np.asarray(_locus()(np.clip(mired, _BLUEST_MIRED, _REDDEST_MIRED)))


@cache
def _locus() -> CubicSpline:
    """u and v over mired."""
    mired = np.geomspace(_BLUEST_MIRED, _REDDEST_MIRED, 240)
    return CubicSpline(mired, uv_from_xyz(planckian_power(mired) @ matching()))


def planckian_power(mired: Floats) -> Array:
    """What a black body sends at every nanometre of the observer, in a unit of its own. Shapes (...) to (..., N).

    Source: Planck's law, L ~ lambda^-5 / (exp(c2 / lambda T) - 1).
    """
    nm = wavelengths_nm()
    return np.asarray(nm**-5.0 / np.expm1(_C2_NM_K / nm * np.asarray(mired)[..., None] * 1e-6))


def mired_and_duv(uv: Array) -> tuple[Array, Array]:
    """Of some colours the mired of the nearest black body and the distance from it, positive is green; where a colour
    is no shade of white its mired is NaN. Shapes (..., 2) to (...) and (...).

    Source: Duv of ANSI C78.377; the nearest place on the locus in CIE 1960 u, v by Newton's method.
    """
    locus, flat = _locus(), np.asarray(uv, dtype=float).reshape(-1, 2)
    knots = locus(locus.x)
    found = locus.x[np.argmin(((flat[:, None] - knots) ** 2).sum(axis=-1), axis=1)]
    for _ in range(_NEAREST_STEPS):
        off, along = flat - locus(found), locus(found, 1)
        step = (off * along).sum(axis=-1) / ((along**2).sum(axis=-1) - (off * locus(found, 2)).sum(axis=-1))
        found = np.clip(found + step, locus.x[0], locus.x[-1])
    duv = ((flat - locus(found)) * _greenwards(found)).sum(axis=-1)
    missed = np.linalg.norm(flat - locus(found), axis=-1) - np.abs(duv) > 1e-5  # beyond the ends of the locus
    mired = np.where((np.abs(duv) <= FARTHEST_DUV) & ~missed, found, np.nan)
    shape = np.shape(uv)[:-1]
    return mired.reshape(shape), duv.reshape(shape)


def uv_from_mired(mired: Floats, duv: Floats = 0.0) -> Array:
    """The colour of a mired and a distance from the locus. Shapes (...) to (..., 2)."""
    at = np.clip(np.asarray(mired, dtype=float), _BLUEST_MIRED, _REDDEST_MIRED)
    return np.asarray(_locus()(at) + np.asarray(duv)[..., None] * _greenwards(at))


def _greenwards(mired: Array) -> Array:
    """Square to the locus, towards green. Shapes (...) to (..., 2)."""
    along = _locus()(mired, 1)
    across = np.stack([-along[..., 1], along[..., 0]], axis=-1)
    across = across * np.sign(across[..., 1:])
    return np.asarray(across / np.linalg.norm(across, axis=-1, keepdims=True))


def daylight_uv(cct_k: float) -> Array:
    """Of a phase of daylight. Shape (2,). Below 4000 K, where the formula ends, as far off the locus as there.

    Source: CIE 15:2018, 4.1.2, the D series.
    """
    whole = min(max(cct_k, _DAYLIGHT_LOW_K), _DAYLIGHT_HIGH_K)
    t = 1e3 / whole
    if whole <= 7000.0:
        x = -4.6070 * t**3 + 2.9678 * t**2 + 0.09911 * t + 0.244063
    else:
        x = -2.0064 * t**3 + 1.9018 * t**2 + 0.24748 * t + 0.237040
    uv = uv_from_xy(np.array([x, -3.0 * x * x + 2.870 * x - 0.275]))
    if cct_k >= _DAYLIGHT_LOW_K:
        return uv
    return uv_from_mired(1e6 / cct_k, _warmest_daylight_duv())


@cache
def _warmest_daylight_duv() -> float:
    """Where the formula ends."""
    return float(mired_and_duv(daylight_uv(_DAYLIGHT_LOW_K))[1])
