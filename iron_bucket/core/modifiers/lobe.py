"""How cloths and boards that are not matt send light on: gathered about the way it was going, or about its mirror
image.

Source: docs/craft.md, section 3; a cosine power with half its peak at the lobe's half width, (n + 1) / 2 pi cos^n of
    the flux for each steradian.
"""

import numpy as np
from numba import njit

from iron_bucket.core.arrays import Array, Floats

#: A half width from which a surface is matt.
MATT_DEG = 90.0
#: One that scatters less than this is a mirror: it shows the lamp instead of glowing itself.
MIRROR_DEG = 10.0
#: The kernel takes powers from a table of so many steps, good to 2e-4 for the narrowest lobe; a power would cost it
#: six times as much.
_STEPS = 8192


def lobe_exponent(lobe_deg: Floats) -> Array:
    """n of a cos^n lobe that has half its peak at ``lobe_deg``."""
    return np.asarray(np.log(0.5) / np.log(np.cos(np.radians(np.minimum(lobe_deg, 89.0)))))


def lobe_share(cosine: Array, exponent: Floats) -> Array:
    """Candela for each lumen in a direction, from the cosine of its angle to the lobe's middle.

    They broadcast together.
    """
    return np.asarray((exponent + 1.0) / (2.0 * np.pi) * np.power(np.maximum(cosine, 0.0), exponent))


# Compiled where it is read, not where it is first called: the server's threads have too little stack for a compiler.
@njit(
    "float64[:,::1](float64[:,::1], float64[:,:,::1], float64[:,::1], float64[:,::1], float64[:,::1], float64)",
    cache=True,
    error_model="numpy",
)
def lobes_lx(lit, ways, starts, ends, for_a_candela, exponent):  # type: ignore[no-untyped-def]
    """What receivers get of points that send on lobes. Shapes: lit (L, P); ways (L, P, 3) of length 1; starts (P, 3);
    ends (R, 3); gives (L, R).

    ``for_a_candela`` (P, R): lux at a receiver for each candela of a point; 0 where they do not see each other.
    """
    found = np.zeros((lit.shape[0], ends.shape[0]))
    peak = (exponent + 1.0) / (2.0 * np.pi)
    powers = (np.arange(_STEPS + 2) / _STEPS) ** exponent
    for point in range(starts.shape[0]):
        for end in range(ends.shape[0]):
            share = for_a_candela[point, end] * peak
            if share == 0.0:
                continue
            x, y, z = ends[end, 0] - starts[point, 0], ends[end, 1] - starts[point, 1], ends[end, 2] - starts[point, 2]
            throw = np.sqrt(x * x + y * y + z * z)
            for lamp in range(lit.shape[0]):
                cosine = (ways[lamp, point, 0] * x + ways[lamp, point, 1] * y + ways[lamp, point, 2] * z) / throw
                if cosine > 0.0 and lit[lamp, point] > 0.0:
                    step = min(int(cosine * _STEPS), _STEPS)
                    power = powers[step] + (powers[step + 1] - powers[step]) * (cosine * _STEPS - step)
                    found[lamp, end] += lit[lamp, point] * share * power
    return found
