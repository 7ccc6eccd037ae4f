"""Beam and field: how wide a distribution is in one plane through its axis.

Beam is the full angle at 50 % of the plane's peak, field at 10 %, each to the first crossing going outwards from the
peak.
"""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.photometry.distribution import IntensityDistribution
from iron_bucket.core.photometry.tabulated import PhotometryType, Tabulated

BEAM_SHARE, FIELD_SHARE = 0.5, 0.1
#: A twentieth of a degree apart.
_EVEN_DEG = np.linspace(-90.0, 90.0, 3601)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class PlaneProfile:
    """Candela along one plane: angle positive towards its first half plane. Shapes: both (N,)."""

    angle_deg: Array
    candela: Array


def plane_profile(distribution: IntensityDistribution, plane_deg: float) -> PlaneProfile:
    """The cut through C``plane_deg`` and its opposite half plane, at stored angles where there are any."""
    if isinstance(distribution, Tabulated):
        angles = _stored_angles(distribution, plane_deg)
    else:
        angles = _EVEN_DEG
    azimuth = np.where(angles < 0, plane_deg + 180.0, plane_deg)
    return PlaneProfile(angle_deg=angles, candela=distribution.intensity_cd(np.abs(angles), azimuth))


def _stored_angles(table: Tabulated, plane_deg: float) -> Array:
    if table.kind is PhotometryType.C:
        return np.unique(np.concatenate([-table.vertical_deg, table.vertical_deg]))
    stored = table.horizontal_deg if plane_deg % 180.0 == 0.0 else table.vertical_deg
    if plane_deg % 90.0:  # a slanted cut crosses the grid nowhere in particular
        return _EVEN_DEG
    return stored if stored[0] < 0 else np.unique(np.concatenate([-stored, stored]))


def width_deg(profile: PlaneProfile, share: float) -> float | None:
    """Full angle at ``share`` of the plane's peak; None where the stored data never fall that low."""
    peaks = np.flatnonzero(profile.candela >= profile.candela.max() * (1 - 1e-12))
    if profile.candela.max() <= 0.0:
        return None
    peak = int(peaks[np.argmin(np.abs(profile.angle_deg[peaks]))])  # the one nearest the axis
    level = profile.candela[peak] * share
    right = _first_crossing(profile.angle_deg[peak:], profile.candela[peak:], level)
    left = _first_crossing(-profile.angle_deg[peak::-1], profile.candela[peak::-1], level)
    return None if right is None or left is None else right + left


def _first_crossing(angle_deg: Array, candela: Array, level: float) -> float | None:
    below = np.flatnonzero(candela < level)
    if not len(below):
        return None
    outer, inner = int(below[0]), int(below[0]) - 1
    share = (candela[inner] - level) / (candela[inner] - candela[outer])
    return float(angle_deg[inner] + share * (angle_deg[outer] - angle_deg[inner]))


def beam_deg(distribution: IntensityDistribution, plane_deg: float = 0.0) -> float | None:
    """Full angle at half the peak in one plane."""
    return width_deg(plane_profile(distribution, plane_deg), BEAM_SHARE)


def field_deg(distribution: IntensityDistribution, plane_deg: float = 0.0) -> float | None:
    """Full angle at a tenth of the peak in one plane."""
    return width_deg(plane_profile(distribution, plane_deg), FIELD_SHARE)


def beam_width_m(beam_angle_deg: float, throw_m: float) -> float:
    """How wide the half edge lies at a distance. Source: 2 d tan(beam / 2)."""
    return float(2.0 * throw_m * np.tan(np.radians(beam_angle_deg / 2.0)))
