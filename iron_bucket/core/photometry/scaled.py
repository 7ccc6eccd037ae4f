"""The same distribution, brighter or dimmer, wider or narrower: a maker's shape with a meter's figures."""

from dataclasses import replace

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.checks import require_positive
from iron_bucket.core.photometry.distribution import BeamField, CosinePower, IntensityDistribution, straight_cd
from iron_bucket.core.photometry.tabulated import Tabulated

#: How much wider or narrower a beam is looked for.
_STRETCHES = np.geomspace(0.4, 2.5, 361)
_WIDEST_BEAM_DEG, _WIDEST_FIELD_DEG = 175.0, 179.9
_DARK_SHARE = 1e-6


def scaled(distribution: IntensityDistribution, factor: float) -> IntensityDistribution:
    """Every candela times ``factor``. Raises: BadValue unless it is above 0."""
    require_positive("factor", factor, unit="")
    if isinstance(distribution, Tabulated):
        return replace(distribution, candela=distribution.candela * factor)
    if isinstance(distribution, (BeamField, CosinePower)):
        return replace(distribution, peak_cd=distribution.peak_cd * factor)
    raise TypeError(f"{type(distribution).__name__} cannot be scaled")


def stretched(distribution: IntensityDistribution, stretch: float) -> IntensityDistribution:
    """The same peak, its angles times ``stretch``. A table keeps its shape: it was measured by itself."""
    require_positive("stretch", stretch, unit="")
    if isinstance(distribution, BeamField):
        beam_deg = min(distribution.beam_deg * stretch, _WIDEST_BEAM_DEG)
        ratio = distribution.field_deg / distribution.beam_deg
        return replace(distribution, beam_deg=beam_deg, field_deg=min(beam_deg * ratio, _WIDEST_FIELD_DEG))
    if isinstance(distribution, CosinePower):
        return CosinePower.from_beam(
            peak_cd=distribution.peak_cd, beam_deg=min(distribution.beam_deg * stretch, _WIDEST_BEAM_DEG)
        )
    return distribution


def stretch_through(distribution: IntensityDistribution, gamma_deg: Array, shares: Array) -> float:
    """The stretch at which the distribution goes best through candela ``shares`` of the axis at angles. Shapes: both
    (N,).

    Best in the sense of least absolute stops, which one bad reading cannot pull.
    """
    axis_cd = straight_cd(distribution)
    inside = np.minimum(gamma_deg[None, :] / _STRETCHES[:, None], 180.0)
    model = np.maximum(distribution.intensity_cd(inside) / axis_cd, _DARK_SHARE)
    off_stops = np.abs(np.log2(np.maximum(shares, _DARK_SHARE))[None, :] - np.log2(model)).sum(axis=1)
    return float(_STRETCHES[int(np.argmin(off_stops))])
