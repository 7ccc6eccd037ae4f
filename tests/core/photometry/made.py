"""A table of candela, as even as it can be."""

import numpy as np

from iron_bucket.core.photometry.tabulated import PhotometryType, Tabulated


def a_table(**changes) -> Tabulated:
    angles = {"vertical_deg": np.array([0.0, 45.0, 90.0]), "horizontal_deg": np.array([0.0])} | changes
    shape = (len(angles["horizontal_deg"]), len(angles["vertical_deg"]))
    made = {"kind": PhotometryType.C, "candela": np.full(shape, 100.0)} | angles
    return Tabulated(**made)
