"""Where to look, and how much each look counts, to integrate a smooth thing."""

from functools import cache

import numpy as np

from iron_bucket.core.arrays import Array


@cache
def gauss_nodes(count: int) -> tuple[Array, Array]:
    """Gauss-Legendre places from -1 to 1 and their weights, shapes (count,); kept, because everything asks for the
    same few.
    """
    nodes, weights = np.polynomial.legendre.leggauss(count)
    nodes.flags.writeable = weights.flags.writeable = False
    return nodes, weights
