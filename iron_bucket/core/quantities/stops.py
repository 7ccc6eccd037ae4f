"""Stops: factors of two."""

import numpy as np

from iron_bucket.core.arrays import Array, Floats
from iron_bucket.core.checks import require_positive


def stops_between(level: Floats, reference: Floats) -> Floats:
    """How many stops ``level`` lies above ``reference``; both in one unit.

    Raises: BadValue if either is not above 0.
    Source: a stop is a factor of two, stops = log2(E1 / E2).
    """
    require_positive("level", level, unit="")
    require_positive("reference", reference, unit="")
    result: Array = np.log2(level / np.asarray(reference))
    return result if result.ndim else float(result)


def factor_from_stops(stops: Floats) -> Floats:
    """The factor that ``stops`` stand for."""
    return 2.0**stops


def stops_from_density(density: Floats) -> Floats:
    """Stops that a neutral density takes, the trade's count.

    Source: ND 0.3 is called one stop (exactly log10(2) = 0.30103; the count is 0.3 % generous).
    """
    return density / 0.3
