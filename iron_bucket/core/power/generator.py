"""How loud generators are where the microphone stands."""

import math

from iron_bucket.core.checks import require_positive


def sound_level_db(levels_db: tuple[float, ...], *, reference_m: float, distance_m: float) -> float:
    """Level of several machines at a distance, free field, added by energy.

    Source: Lp(d) = Lp(ref) - 20 log10(d / ref).
    """
    require_positive("reference_m", reference_m, unit="m")
    require_positive("distance_m", distance_m, unit="m")
    energy = sum(10.0 ** (level / 10.0) for level in levels_db)
    return 10.0 * math.log10(energy) - 20.0 * math.log10(distance_m / reference_m)
