"""The grid of directions on which every distribution is laid once, so that geometry becomes one matrix product.

Levels are linear in candela. A table (configurations x directions) times a matrix (directions x wanted levels) gives
every level of every configuration at once. Gamma is spaced as its square root: a hundredth of a degree on the axis,
one far out.
"""

from functools import lru_cache

import numpy as np
from numba import njit

from iron_bucket.core.arrays import Array
from iron_bucket.core.modifiers.scatter import RINGS_DEG, Scatter, scatter_matrix
from iron_bucket.core.photometry.distribution import IntensityDistribution

GAMMA_STEPS = len(RINGS_DEG) - 1
WIDEST_GAMMA_DEG = 90.0
AZIMUTHS = 8
CELLS = AZIMUTHS * (GAMMA_STEPS + 1)

_GAMMA_DEG = RINGS_DEG
_AZIMUTH_DEG = np.arange(AZIMUTHS) * 360.0 / AZIMUTHS


@lru_cache(maxsize=4096)
def candela_row(distribution: IntensityDistribution) -> Array:
    """A distribution on the grid, laid once however often the bench changes elsewhere. Shape (CELLS,); read only."""
    grid = distribution.intensity_cd(_GAMMA_DEG[None, :], _AZIMUTH_DEG[:, None])
    row = np.array(grid, dtype=float).reshape(CELLS)
    row.flags.writeable = False
    return row


def scattered_rows(candela: Array, scatter: Scatter) -> Array:
    """Distributions on the grid, behind a diffusion sheet that takes nothing. Shapes: (C, CELLS) to the same."""
    rings = candela.reshape(-1, AZIMUTHS, GAMMA_STEPS + 1)
    around = rings.mean(axis=1) @ scatter_matrix(scatter.lobe_deg).T
    behind = scatter.straight_share * rings + (1.0 - scatter.straight_share) * around[:, None, :]
    return np.asarray(behind.reshape(candela.shape))


def grid_weights(gamma_deg: Array, azimuth_deg: Array, weights: Array, first: np.ndarray, columns: int) -> Array:
    """The matrix to which every direction adds its row of weights, from its column ``first`` on: candela times it gives
    sums of weight x intensity.

    Shapes: the directions and first (P,), weights (P, W); gives (CELLS, columns). Directions behind the head count
    nothing.
    """
    matrix = np.zeros((CELLS, columns))
    add_weights(matrix, gamma_deg, azimuth_deg, weights, first)
    return matrix


def add_weights(matrix: Array, gamma_deg: Array, azimuth_deg: Array, weights: Array, first: np.ndarray) -> None:
    """The same, to a matrix that has some already."""
    _add_rows(
        np.ascontiguousarray(gamma_deg, dtype=float),
        np.ascontiguousarray(azimuth_deg, dtype=float),
        np.ascontiguousarray(weights, dtype=float),
        np.ascontiguousarray(first, dtype=np.int64),
        matrix,
    )


@njit("void(float64[::1], float64[::1], float64[:,::1], int64[::1], float64[:,::1])", cache=True, nogil=True)
def _add_rows(gamma_deg, azimuth_deg, weights, first, matrix):  # type: ignore[no-untyped-def]
    """Each direction's weights, shared out among the four cells about it."""
    for at in range(len(gamma_deg)):
        if gamma_deg[at] > WIDEST_GAMMA_DEG:
            continue
        ring = min(int(GAMMA_STEPS * np.sqrt(gamma_deg[at] / WIDEST_GAMMA_DEG)), GAMMA_STEPS - 1)
        outward = (gamma_deg[at] - _GAMMA_DEG[ring]) / (_GAMMA_DEG[ring + 1] - _GAMMA_DEG[ring])
        turn = azimuth_deg[at] % 360.0 * AZIMUTHS / 360.0
        plane = min(int(turn), AZIMUTHS - 1)
        onward = turn - plane
        for ring_step in range(2):
            for plane_step in range(2):
                cell = (plane + plane_step) % AZIMUTHS * (GAMMA_STEPS + 1) + ring + ring_step
                share = (outward if ring_step else 1.0 - outward) * (onward if plane_step else 1.0 - onward)
                for column in range(weights.shape[1]):
                    matrix[cell, first[at] + column] += share * weights[at, column]
