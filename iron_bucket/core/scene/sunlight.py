"""The sun as a lamp so far off that its rays are parallel on any set."""

from iron_bucket.core.arrays import Array
from iron_bucket.core.photometry.steady import Steady
from iron_bucket.core.scene.scene import SceneLamp

SUN_AT_M = 20_000.0


def sun_lamp(towards: Array, normal_lx: float) -> SceneLamp:
    """``towards``: where it stands, of length 1; ``normal_lx``: square to its beam."""
    return SceneLamp(
        lamp_id="sun",
        position_m=SUN_AT_M * towards,
        aim=-towards,
        intensity=Steady(candela=normal_lx * SUN_AT_M**2),
    )
