"""The grid of directions on which every distribution is laid once, so that geometry becomes one matrix product.

Levels are linear in candela. A table (configurations x directions) times a matrix (directions x wanted levels) gives
every level of every configuration at once. Gamma is spaced as its square root: a hundredth of a degree on the axis,
one far out.
"""

from functools import lru_cache

import numpy as np

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


def grid_weights(gamma_deg: Array, azimuth_deg: Array, weight: Array, column: np.ndarray, columns: int) -> Array:
    """The matrix whose column c takes sum(weight x intensity) over the samples with ``column`` c.

    Shapes: the first four broadcast together; gives (CELLS, columns). Directions behind the head count nothing.
    """
    # Not yet with the weights: there are far fewer directions.
    gamma, azimuth = np.broadcast_arrays(gamma_deg, azimuth_deg)
    ahead = gamma <= WIDEST_GAMMA_DEG
    place = GAMMA_STEPS * np.sqrt(np.minimum(gamma, WIDEST_GAMMA_DEG) / WIDEST_GAMMA_DEG)
    ring = np.minimum(place.astype(int), GAMMA_STEPS - 1)
    outward = (gamma - _GAMMA_DEG[ring]) / (_GAMMA_DEG[ring + 1] - _GAMMA_DEG[ring])
    turn = np.mod(azimuth, 360.0) * AZIMUTHS / 360.0
    plane = np.minimum(turn.astype(int), AZIMUTHS - 1)
    onward = turn - plane
    cells, shares = [], []
    for ring_step, ring_share in ((0, 1.0 - outward), (1, outward)):
        for plane_step, plane_share in ((0, 1.0 - onward), (1, onward)):
            cell = np.mod(plane + plane_step, AZIMUTHS) * (GAMMA_STEPS + 1) + ring + ring_step
            share = np.where(ahead, ring_share * plane_share, 0.0) * weight
            cells.append(np.broadcast_to(cell * columns + column, share.shape).ravel())
            shares.append(share.ravel())
    matrix = np.bincount(np.concatenate(cells), weights=np.concatenate(shares), minlength=CELLS * columns)
    return np.asarray(matrix, dtype=float).reshape(CELLS, columns)
