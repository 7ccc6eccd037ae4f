"""The standard observer: what makes three numbers of a spectrum."""

from functools import cache

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.typical import typical


@cache
def wavelengths_nm() -> Array:
    """Every nanometre that counts. Shape (N,)."""
    table = typical("observer")
    return np.asarray(table["from_nm"] + np.arange(len(table["x"])), dtype=float)


@cache
def matching() -> Array:
    """What each nanometre adds to X, Y and Z. Shape (N, 3). Source: ISO/CIE 11664-1, 2 degrees."""
    table = typical("observer")
    return np.array([table["x"], table["y"], table["z"]]).T


def xyz_of(wavelength_nm: Array, power: Array) -> Array:
    """X, Y and Z of power by wavelength, in its own unit, linear in between. Shapes (N,) and (N,) to (3,)."""
    return np.asarray(np.interp(wavelengths_nm(), wavelength_nm, power, left=0.0, right=0.0) @ matching())
