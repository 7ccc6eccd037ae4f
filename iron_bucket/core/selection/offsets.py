"""Lenses and reflectors throw from a virtual source behind their housing.

Levels are computed for a few offsets across what a bench has, and taken between in logarithms of the distance, in which
an inverse square is a straight line.
"""

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.selection.fronts import FRAME_PLACES
from iron_bucket.core.selection.packing import PackedBench
from iron_bucket.core.selection.places import DARK_LX

#: A source no nearer than this, however its virtual one was fitted.
NEAREST_M = 0.05
#: Steps in the logarithm of the distance to the nearest frame that stay within a tenth of a stop for spots; no more
#: than so many of them.
_STEP, _MOST_STEPS = 0.3, 6


def offsets_m(bench: PackedBench, throw_m: float) -> Array:
    """Offsets for which levels are computed: from the least of a bench to the greatest, and none among them, which is
    where a sheet begins. One where all are none. Shape (E,).
    """
    nearest_m = throw_m * FRAME_PLACES[0]
    ends_m = np.array([bench.offset_m.min(initial=0.0), bench.offset_m.max(initial=0.0)])
    ends = np.log(np.maximum(nearest_m + ends_m, NEAREST_M))
    steps = min(int(np.ceil((ends[1] - ends[0]) / _STEP)), _MOST_STEPS)
    return np.exp(np.linspace(ends[0], ends[1], steps + 1)) - nearest_m if steps else np.zeros(1)


def between_offsets(
    bench: PackedBench, candela: np.ndarray, at_m: Array, matrices: tuple[np.ndarray, ...], from_m: Array
) -> Array:
    """Every configuration's candela (C, D) through the matrices of the offsets ``at_m``, its own between the two next
    to it. ``from_m``: from the head to what is lit, to broadcast with the columns. Shapes E times (D, ...) to (C, ...).
    """
    shape = matrices[0].shape[1:]
    found = np.zeros((len(bench.configurations), *shape), dtype=np.float32)
    flat = [each.reshape(len(each), -1) for each in matrices]
    step = np.clip(np.searchsorted(at_m, bench.offset_m, side="right") - 1, 0, max(len(at_m) - 2, 0))
    for low in range(max(len(at_m) - 1, 1)):
        rows = np.flatnonzero(step == low)
        ends = [(candela[rows] @ each).reshape(-1, *shape) for each in flat[low : low + 2]]
        if len(ends) == 1:
            return np.asarray(ends[0], dtype=np.float32)
        own_m = bench.offset_m[rows].reshape(-1, *[1] * len(shape))
        first, own, last = (np.log(np.maximum(from_m + each, NEAREST_M)) for each in (at_m[low], own_m, at_m[low + 1]))
        share = (own - first) / np.maximum(last - first, 1e-9)
        dim, bright = (np.log(np.maximum(each, DARK_LX)) for each in ends)
        found[rows] = np.exp(dim + share.astype(np.float32) * (bright - dim))
    return found
