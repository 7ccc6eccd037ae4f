"""Straight cells before a lamp: honeycombs and fabric grids."""

import numpy as np

from iron_bucket.core.arrays import Array


def grid_cut(cutoff_deg: float, angle_deg: Array) -> Array:
    """Share of the on-axis light that straight cells let through at an angle: 1 on the axis, 0 from half the cut-off
    on.

    Source: shadow of a cell's edge, 1 - tan(angle) / tan(cutoff / 2).
    """
    return np.asarray(np.maximum(1.0 - np.tan(np.radians(angle_deg)) / np.tan(np.radians(cutoff_deg / 2.0)), 0.0))
