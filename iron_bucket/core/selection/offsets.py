"""Lenses and reflectors throw from a virtual source behind their housing.

Levels are computed for the two ends of what a bench has, and taken between in logarithms of the distance, in which an
inverse square is a straight line.
"""

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.selection.packing import PackedBench
from iron_bucket.core.selection.places import DARK_LX

#: A source no nearer than this, however its virtual one was fitted.
NEAREST_M = 0.05


def between_ends(bench: PackedBench, ends_m: Array, matrices: tuple[np.ndarray, ...], from_m: Array) -> Array:
    """Every configuration's candela through the matrices of both ends, its own offset between them. ``from_m``: from
    the head to what is lit, to broadcast with the columns. Shapes E times (D, ...) to (C, ...).
    """
    shape = (len(bench.configurations), *matrices[0].shape[1:])
    ends = [np.asarray(bench.candela @ each.reshape(len(each), -1), dtype=float).reshape(shape) for each in matrices]
    if len(ends) == 1:
        return ends[0]
    offset_m = bench.offset_m.reshape(-1, *[1] * (len(shape) - 1))
    nearest, own, farthest = (
        np.log(np.maximum(from_m + each, NEAREST_M)) for each in (ends_m[0], offset_m, ends_m[-1])
    )
    share = (own - nearest) / (farthest - nearest)
    low, high = (np.log(np.maximum(each, DARK_LX)) for each in ends)
    return np.asarray(np.exp(low + share * (high - low)))


def offset_ends_m(bench: PackedBench) -> Array:
    """The least and the greatest offset of a bench, and none, which is where a sheet begins: one or two."""
    return np.unique([bench.offset_m.min(initial=0.0), bench.offset_m.max(initial=0.0)])
