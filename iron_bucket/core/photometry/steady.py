"""The same in every direction: a bare globe, or a lamp so far away that a set fills none of its beam."""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array, Floats
from iron_bucket.core.checks import require_positive
from iron_bucket.core.photometry.distribution import FIRST_PLANE_DEG


@dataclass(frozen=True, slots=True, kw_only=True)
class Steady:
    """``candela`` all round."""

    candela: float

    def __post_init__(self) -> None:
        require_positive("candela", self.candela, unit="cd")

    def intensity_cd(self, gamma_deg: Floats, azimuth_deg: Floats = FIRST_PLANE_DEG) -> Array:
        """Candela. Shapes: broadcast together."""
        return np.full(np.broadcast(np.asarray(gamma_deg), np.asarray(azimuth_deg)).shape, self.candela)
