"""A distribution as a table of C planes: what formats that know only those can hold."""

import numpy as np

from iron_bucket.core.photometry.distribution import IntensityDistribution
from iron_bucket.core.photometry.tabulated import PhotometryType, Symmetry, Tabulated

#: Fine enough that bilinear reading back stays within half a percent of the peak of a ten-degree spot.
PLANE_STEP_DEG, WIDEST_GAMMA_STEP_DEG, MOST_GAMMAS = 2.5, 1.0, 721
_FINE_TO_DEG, _FINE_STEP_DEG = 30.0, 0.1


def on_c_planes(distribution: IntensityDistribution) -> Tabulated:
    """The same light as full or mirrored C planes.

    A type C table comes back as it is, unless it has too many angles.
    """
    if isinstance(distribution, Tabulated) and distribution.kind is PhotometryType.C:
        if len(distribution.vertical_deg) <= MOST_GAMMAS:
            return distribution
        gamma = np.linspace(distribution.vertical_deg[0], distribution.vertical_deg[-1], MOST_GAMMAS)
        planes = distribution.horizontal_deg
    else:
        gamma = _even_gammas()
        planes = np.arange(0.0, 360.0, PLANE_STEP_DEG) if isinstance(distribution, Tabulated) else np.zeros(1)
    candela = distribution.intensity_cd(gamma[None, :], planes[:, None])
    return Tabulated(kind=PhotometryType.C, vertical_deg=gamma, horizontal_deg=planes, candela=candela)


def _even_gammas() -> "np.ndarray":
    """Tenths of a degree where a spot is steep, whole ones outside."""
    inner = np.arange(0.0, _FINE_TO_DEG, _FINE_STEP_DEG)
    outer = np.arange(_FINE_TO_DEG, 180.0 + WIDEST_GAMMA_STEP_DEG / 2, WIDEST_GAMMA_STEP_DEG)
    return np.round(np.concatenate([inner, outer]), 6)


def all_planes(table: Tabulated) -> Tabulated:
    """A type C table with every mirrored plane written out, from 0 up to but without 360."""
    if table.symmetry is Symmetry.ROTATIONAL:
        return table
    stored = np.mod(table.horizontal_deg, 360.0)
    if table.symmetry is Symmetry.NONE:
        planes = np.unique(stored)
    else:
        planes = np.unique(
            np.round(np.mod(np.concatenate([stored, -stored, 180.0 - stored, 180.0 + stored]), 360.0), 6)
        )
    candela = table.intensity_cd(table.vertical_deg[None, :], planes[:, None])
    return Tabulated(kind=PhotometryType.C, vertical_deg=table.vertical_deg, horizontal_deg=planes, candela=candela)
