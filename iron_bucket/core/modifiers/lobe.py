"""How cloths and boards that are not matt send light on: gathered about the way it was going, or about its mirror
image.

Source: docs/craft.md, section 3; a cosine power with half its peak at the lobe's half width, cut off at the surface and
    with all of the light in what is left. The wider a lobe, the nearer its middle lies to the surface's normal, so that
    one of 60 degrees is Lambertian (cos^1 about the normal); the mixing is ours.
"""

from functools import lru_cache

import numpy as np
from numba import njit

from iron_bucket.core.arrays import Array, Floats, angle_rad, units
from iron_bucket.core.quadrature import gauss_nodes

#: A half width from which a surface is matt, and the one that matt surfaces are entered with.
LAMBERTIAN_DEG, MATT_DEG = 60.0, 90.0
#: One that scatters less than this is a mirror: it shows the lamp instead of glowing itself.
MIRROR_DEG = 10.0
#: The kernel takes powers from a table of so many steps, good to 2e-4 for the narrowest lobe; a power would cost it
#: six times as much.
_STEPS = 8192
#: Angles between a lobe's middle and the normal at which its light is summed up; between them it is smooth.
_TILTS = np.linspace(0.0, 1.0, 129)


def is_matt(lobe_deg: Floats) -> np.ndarray:
    """Whether a surface sends light on by Lambert's law, whatever way it came."""
    return np.asarray(np.asarray(lobe_deg) >= LAMBERTIAN_DEG)


def lobe_exponent(lobe_deg: Floats) -> Array:
    """n of a cos^n lobe that has half its peak at ``lobe_deg``; 1 of a matt surface."""
    return np.asarray(np.log(0.5) / np.log(np.cos(np.radians(np.minimum(lobe_deg, LAMBERTIAN_DEG)))))


def lobe_middle(ways: Array, normals: Array, lobe_deg: Floats) -> Array:
    """The middle of lobes, of length 1. Shapes (..., 3) twice, both leaving the surface, and (...)."""
    share = np.square(np.minimum(lobe_deg, LAMBERTIAN_DEG) / LAMBERTIAN_DEG)[..., None]
    mixed = (1.0 - share) * ways + share * normals
    return units(mixed)


def lobe_peak(cosine: Array, exponent: float) -> Array:
    """Candela in the middle for each lumen, from the cosine between the middle and the normal.

    Source: 1 / integral of cos^n over the directions that leave the surface.
    """
    return np.asarray(np.interp(cosine, _TILTS, _peaks(float(exponent))))


@lru_cache(maxsize=256)
def _peaks(exponent: float) -> Array:
    """At every one of the tilts: round the middle, at an angle whose cosine is u, a part of the circle leaves the
    surface.

    With u = s^(1 / (n + 1)) all of the lobe is looked at alike.
    """
    nodes, weights = gauss_nodes(96)
    cosine = ((nodes + 1.0) / 2.0) ** (1.0 / (exponent + 1.0))
    with np.errstate(divide="ignore"):
        across = -_TILTS[:, None] / np.sqrt(1.0 - _TILTS[:, None] ** 2) * cosine / np.sqrt(1.0 - cosine**2)
    circle = 2.0 * angle_rad(across)
    return np.asarray((exponent + 1.0) / (circle @ (weights / 2.0)))


def lobes_lx(peaks: Array, middles: Array, starts: Array, ends: Array, for_a_candela: Array, exponent: float) -> Array:
    """What receivers get of points that send on lobes. Shapes: peaks (L, P), candela in the middle; middles (L, P, 3)
    of length 1; starts (P, 3); ends (R, 3); gives (L, R).

    ``for_a_candela`` (P, R): lux at a receiver for each candela of a point; 0 where they do not see each other.
    """
    contiguous = [np.ascontiguousarray(each, dtype=float) for each in (peaks, middles, starts, ends, for_a_candela)]
    return np.asarray(_lobes_lx(*contiguous, _powers(exponent)))  # type: ignore[call-arg]


@lru_cache(maxsize=256)
def _powers(exponent: float) -> Array:
    """Of cosines from 0 to a step past 1."""
    return np.asarray((np.arange(_STEPS + 2) / _STEPS) ** exponent)


# Compiled where it is read, not where it is first called: the server's threads have too little stack for a compiler.
@njit(
    "float64[:,::1](float64[:,::1], float64[:,:,::1], float64[:,::1], float64[:,::1], float64[:,::1], float64[::1])",
    cache=True,
    error_model="numpy",
    nogil=True,
)
def _lobes_lx(peaks, middles, starts, ends, for_a_candela, powers):  # type: ignore[no-untyped-def]
    found = np.zeros((len(peaks), len(ends)))
    for point in range(len(starts)):
        for end in range(len(ends)):
            share = for_a_candela[point, end]
            if not share:
                continue
            x, y, z = ends[end, 0] - starts[point, 0], ends[end, 1] - starts[point, 1], ends[end, 2] - starts[point, 2]
            scale = _STEPS / np.sqrt(x * x + y * y + z * z)
            x, y, z = x * scale, y * scale, z * scale
            for lamp in range(len(peaks)):
                # One by one: a row taken out of an array is many times as slow.
                at = middles[lamp, point, 0] * x + middles[lamp, point, 1] * y + middles[lamp, point, 2] * z
                if at > 0.0 and peaks[lamp, point] > 0.0:
                    step = min(int(at), _STEPS)
                    power = powers[step] + (powers[step + 1] - powers[step]) * (at - step)
                    found[lamp, end] += peaks[lamp, point] * share * power
    return found
