"""What a diffusion sheet does to the light of the head that it hangs on: it widens the beam as it would on a frame."""

from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np

from iron_bucket.core.arrays import Array, Floats
from iron_bucket.core.checks import require_between, require_share
from iron_bucket.core.modifiers.lobe import MATT_DEG, lobe_exponent, lobe_middle, lobe_peak
from iron_bucket.core.photometry.distribution import FIRST_PLANE_DEG, IntensityDistribution, straight_cd
from iron_bucket.core.typical import typical

#: The size of a source is told by what holds so much of its light; docs/craft.md, section 3.
COUNTED_SHARE = 0.8
#: Angles off the axis on which a scattered beam is laid: as their square, so that the axis is fine.
RINGS_DEG = 90.0 * np.square(np.arange(97) / 96.0)
#: Directions round the axis of which the scattered beam is the mean, and round each ring for one lobe.
_PLANES, _ROUND = 8, 180


@dataclass(frozen=True, slots=True, kw_only=True)
class Scatter:
    """``straight_share`` of what passes is only dimmed, the rest is scattered by lobes of a half width."""

    straight_share: float
    lobe_deg: float = MATT_DEG

    def __post_init__(self) -> None:
        require_share("straight_share", self.straight_share)
        require_between("lobe_deg", self.lobe_deg, low=3.0, high=MATT_DEG, unit="degrees")


def typical_scatter(transmittance: float) -> Scatter:
    """Of a sheet that passes so much, between the figures of light frost, half white and full white.

    Source: docs/craft.md, section 3.
    """
    rows = sorted(typical("diffusion_sheets").values(), key=lambda row: row["transmittance"])
    passes = [row["transmittance"] for row in rows]
    return Scatter(
        straight_share=float(np.interp(transmittance, passes, [row["straight_share"] for row in rows])),
        lobe_deg=float(np.interp(transmittance, passes, [row["lobe_deg"] for row in rows])),
    )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Scattered:
    """A distribution behind a diffusion sheet; what the sheet loses is in ``inner`` already."""

    inner: IntensityDistribution
    scatter: Scatter
    table_cd: Array = field(init=False, repr=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "table_cd", _table_cd(self.inner, self.scatter.lobe_deg))

    @property
    def straight_on_axis(self) -> float:
        """Share of the light on the axis that still comes straight from the head."""
        straight = self.scatter.straight_share * straight_cd(self.inner)
        return straight / straight_cd(self)

    def intensity_cd(self, gamma_deg: Floats, azimuth_deg: Floats = FIRST_PLANE_DEG) -> Array:
        """Candela; what is scattered is the same all round. Shapes: broadcast together."""
        off = np.abs(np.asarray(gamma_deg, dtype=float))
        scattered = np.interp(off, RINGS_DEG, self.table_cd, right=0.0)
        share = self.scatter.straight_share
        return np.asarray(share * self.inner.intensity_cd(gamma_deg, azimuth_deg) + (1.0 - share) * scattered)


def _table_cd(inner: IntensityDistribution, lobe_deg: float) -> Array:
    planes = np.arange(_PLANES) * 360.0 / _PLANES
    around = np.asarray(inner.intensity_cd(RINGS_DEG[None, :], planes[:, None])).mean(axis=0)
    return np.asarray(scatter_matrix(lobe_deg) @ around)


@lru_cache(maxsize=64)
def scatter_matrix(lobe_deg: float) -> Array:
    """Candela on each ring for the candela on each, the sheet square to the axis. Shape (rings, rings); read only.

    Source: the lobe of every ray, summed over the solid angle 2 pi sin(g) dg of the rings.
    """
    exponent = float(lobe_exponent(lobe_deg))
    gamma = np.radians(RINGS_DEG)
    ways = np.column_stack([np.sin(gamma), np.zeros_like(gamma), np.cos(gamma)])
    middles = lobe_middle(ways, np.array([0.0, 0.0, 1.0]), np.full(len(gamma), lobe_deg))
    turn = np.pi * (np.arange(_ROUND) + 0.5) / _ROUND
    edges = np.concatenate([[0.0], (gamma[1:] + gamma[:-1]) / 2.0, [gamma[-1]]])
    solid = 2.0 * np.pi * -np.diff(np.cos(edges))
    matrix = np.empty((len(gamma), len(gamma)))
    for place, (across, _, ahead) in enumerate(middles):
        cosine = np.cos(gamma)[:, None] * ahead + np.sin(gamma)[:, None] * across * np.cos(turn)
        lobe = lobe_peak(np.array(ahead), exponent) * np.power(np.maximum(cosine, 0.0), exponent)
        matrix[:, place] = lobe.mean(axis=1) * solid[place]
    matrix.flags.writeable = False
    return matrix
