"""Luminous flux: intensity over the whole sphere."""

from functools import cache, lru_cache

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.photometry.distribution import IntensityDistribution
from iron_bucket.core.photometry.tabulated import PhotometryType, Symmetry, Tabulated
from iron_bucket.core.quadrature import gauss_nodes

_TURN = 2.0 * np.pi
#: Gauss nodes over the square root of gamma, and even steps over azimuth, for models without a table.
_GAMMA_NODES, _AZIMUTH_STEPS = 240, 16


@lru_cache(maxsize=512)
def lumens(distribution: IntensityDistribution) -> float:
    """Lumens of any distribution. Source: flux = double integral of I sin(gamma) over gamma and azimuth."""
    if isinstance(distribution, Tabulated):
        return _table_lumens(distribution)
    root, weights = _half_range_nodes()
    gamma = np.pi * root**2  # many nodes near the axis, where a spot has all its light
    azimuth = np.arange(_AZIMUTH_STEPS) * 360.0 / _AZIMUTH_STEPS
    intensity = distribution.intensity_cd(np.degrees(gamma)[:, None], azimuth[None, :]).mean(axis=1)
    return float(_TURN * np.sum(intensity * np.sin(gamma) * weights * 2.0 * np.pi * root))


@cache
def _half_range_nodes() -> tuple[Array, Array]:
    """Gauss nodes and weights on 0 to 1."""
    nodes, weights = gauss_nodes(_GAMMA_NODES)
    return (nodes + 1.0) / 2.0, weights / 2.0


def _linear_weights(angles: Array, *, cosine: bool) -> Array:
    """Weights w so that sum(w f) is the exact integral of the piecewise linear f against sin (or cos) of the angle."""
    radians = np.radians(angles)
    weights = np.zeros(len(angles))
    low, high = radians[:-1], radians[1:]
    step = high - low
    if cosine:  # integrals of cos and of (x - low) cos
        whole = np.sin(high) - np.sin(low)
        rising = step * np.sin(high) + np.cos(high) - np.cos(low)
    else:
        whole = np.cos(low) - np.cos(high)
        rising = -step * np.cos(high) + np.sin(high) - np.sin(low)
    weights[1:] += rising / step
    weights[:-1] += whole - rising / step
    return weights


def _even_weights(angles: Array) -> Array:
    """Trapezium weights in radians: exact for the bilinear table."""
    steps = np.diff(np.radians(angles))
    weights = np.zeros(len(angles))
    weights[1:] += steps / 2
    weights[:-1] += steps / 2
    return weights


def _table_lumens(table: Tabulated) -> float:
    """The exact integral of the bilinear interpolant over the stored range, mirrored to the full turn."""
    if len(table.vertical_deg) < 2:
        return 0.0
    if table.kind is PhotometryType.C:
        over_gamma = table.candela @ _linear_weights(table.vertical_deg, cosine=False)
        if table.symmetry is Symmetry.ROTATIONAL:
            return float(over_gamma[0] * _TURN)
        angles, values = table.horizontal_deg, over_gamma
        if table.symmetry is Symmetry.NONE:  # the turn closes on its first plane
            angles, values = np.append(angles, angles[0] + 360.0), np.append(values, values[0])
        mirrored = _TURN / np.radians(angles[-1] - angles[0])
        return float(values @ _even_weights(angles) * mirrored)
    latitude_is_vertical = table.kind is PhotometryType.A
    vertical = (
        _linear_weights(table.vertical_deg, cosine=True) if latitude_is_vertical else _even_weights(table.vertical_deg)
    )
    if len(table.horizontal_deg) < 2:
        return 0.0
    horizontal = (
        _even_weights(table.horizontal_deg)
        if latitude_is_vertical
        else _linear_weights(table.horizontal_deg, cosine=True)
    )
    return float(horizontal @ table.candela @ vertical) * (2.0 if table.is_mirrored else 1.0)
