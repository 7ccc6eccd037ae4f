"""The sun as a lamp so far off that its rays are parallel on any set."""

from functools import cache

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.photometry.steady import Steady
from iron_bucket.core.scene.scene import SceneLamp

SUN_AT_M = 20_000.0
#: What stands farther than this is the sun.
_FAR_M = 1000.0
#: Across its disc, in degrees.
SUN_DEG = 0.53
#: Places on its disc that its penumbrae are told by.
_ON_DISC = 400


def sun_lamp(towards: Array, normal_lx: float) -> SceneLamp:
    """``towards``: where it stands, of length 1; ``normal_lx``: square to its beam."""
    return SceneLamp(
        lamp_id="sun", position_m=SUN_AT_M * towards, aim=-towards, intensity=Steady(candela=normal_lx * SUN_AT_M**2)
    )


def beam_lx(lamp: object) -> float:
    """Lux square to the beam of a sun; 0 of anything else."""
    steady = isinstance(lamp, SceneLamp) and isinstance(lamp.intensity, Steady) and is_sun(lamp)
    return float(lamp.intensity.candela / SUN_AT_M**2) if steady else 0.0  # type: ignore[attr-defined]


def is_sun(lamp: SceneLamp) -> bool:
    """Whether a lamp stands so far off that it is a disc in the sky."""
    return float(np.linalg.norm(lamp.position_m)) > _FAR_M


def disc_m(lamp: SceneLamp) -> Array:
    """Places spread evenly over the sun's disc. Shape (N, 3)."""
    across = np.linalg.svd(lamp.aim[None])[2][1:]
    reach = float(np.linalg.norm(lamp.position_m)) * np.tan(np.radians(SUN_DEG / 2.0))
    return np.asarray(lamp.position_m + reach * _even_disc() @ across)


@cache
def _even_disc() -> Array:
    """A unit disc, every place for the same area. Shape (N, 2). Source: Vogel, Mathematical Biosciences 44 (1979)."""
    number = np.arange(_ON_DISC) + 0.5
    turn, reach = number * np.pi * (3.0 - np.sqrt(5.0)), np.sqrt(number / _ON_DISC)
    return np.stack([reach * np.cos(turn), reach * np.sin(turn)], axis=1)
