"""The number types that bulk work takes and gives."""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
#: One float or an array of them; functions that take it broadcast.
Floats = float | Array
_SHORTEST = 1e-12


def angle_rad(cosine: Floats) -> Array:
    """The angle of a cosine that rounding may have left a hair past 1."""
    return np.asarray(np.arccos(np.clip(cosine, -1.0, 1.0)))


def lengths(vectors: Array) -> Array:
    """Of vectors along the last axis; never 0, so that they can be divided by. Shapes (..., 3) to (...)."""
    return np.asarray(np.maximum(np.sqrt(np.einsum("...k,...k->...", vectors, vectors)), _SHORTEST))


def units(vectors: Array) -> Array:
    """The same ways, of length 1. Shapes (..., 3) both."""
    return np.asarray(vectors / lengths(vectors)[..., None])


def runs(chosen: np.ndarray) -> list[tuple[int, int]]:
    """The first and the last place of everything that is chosen without a gap. Shape (N,)."""
    edges = np.diff(np.concatenate([[0], chosen.astype(int), [0]]))
    return list(zip(np.flatnonzero(edges > 0).tolist(), (np.flatnonzero(edges < 0) - 1).tolist(), strict=True))


def cross(one: Array, other: Array) -> Array:
    """Cross product of two vectors of shape (3,).

    The library's costs thirty times as much there, for its choice of axes, and scenes ask by the thousand.
    """
    (a, b, c), (d, e, f) = one, other
    return np.array([b * f - c * e, c * d - a * f, a * e - b * d])
