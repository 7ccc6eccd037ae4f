"""How a lamp's intensity falls away from its axis, when only a beam, or a beam and a field, are known."""

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Protocol

import numpy as np

from iron_bucket.core.arrays import Array, Floats
from iron_bucket.core.checks import require_between, require_positive
from iron_bucket.core.errors import BadValue

_HALF_TO_TENTH = math.log(10.0) / math.log(2.0)  # ln 10 / ln 2 = 3.3219


#: The half plane that is meant where none is named.
FIRST_PLANE_DEG = 0.0
#: A large searchlight has a thousandth of it: beyond, single-precision sums over a bench lose what else stands there.
BRIGHTEST_CD = 1e10


def require_candela(field: str, peak_cd: float) -> None:
    """A peak that a lamp can have."""
    require_positive(field, peak_cd, unit="cd")
    require_between(field, peak_cd, low=0.0, high=BRIGHTEST_CD, unit="cd")


class IntensityDistribution(Protocol):
    """Anything that has an intensity in every direction."""

    def intensity_cd(self, gamma_deg: Floats, azimuth_deg: Floats = FIRST_PLANE_DEG) -> Array:
        """Candela at type C angles. Shapes: broadcast together."""
        ...

    def __hash__(self) -> int:
        """Frozen, so that what is computed of it once can be kept."""
        ...


@lru_cache(maxsize=4096)
def straight_cd(distribution: IntensityDistribution) -> float:
    """Candela straight ahead, on the axis."""
    return float(distribution.intensity_cd(0.0))


@dataclass(frozen=True, slots=True, kw_only=True)
class CosinePower:
    """Only the beam is known: I = I0 cos^n over the front half space.

    Source: I(beam/2) = I0/2, so n = ln 0.5 / ln cos(beam/2). n = 1 is a bare Lambertian face.
    """

    peak_cd: float
    exponent: float

    def __post_init__(self) -> None:
        require_candela("peak_cd", self.peak_cd)
        require_positive("exponent", self.exponent, unit="")

    @classmethod
    def from_beam(cls, *, peak_cd: float, beam_deg: float) -> "CosinePower":
        """The distribution that has half its peak at half the beam angle."""
        require_between("beam_deg", beam_deg, low=0.5, high=179.0, unit="degrees")
        return cls(peak_cd=peak_cd, exponent=math.log(0.5) / math.log(math.cos(math.radians(beam_deg / 2))))

    @property
    def beam_deg(self) -> float:
        """Full angle at half the peak."""
        return 2.0 * math.degrees(math.acos(0.5 ** (1.0 / self.exponent)))

    def intensity_cd(self, gamma_deg: Floats, azimuth_deg: Floats = FIRST_PLANE_DEG) -> Array:
        """Candela; nothing behind the lamp."""
        gamma, _ = np.broadcast_arrays(gamma_deg, azimuth_deg)
        return np.asarray(self.peak_cd * np.power(np.maximum(np.cos(np.radians(gamma)), 0.0), self.exponent))


@dataclass(frozen=True, slots=True, kw_only=True)
class BeamField:
    """Beam and field are known: I = I0 exp(-ln2 (2 theta / beam)^p).

    Source: I(beam/2) = I0/2 and I(field/2) = I0/10, so p = ln(3.3219) / ln(field/beam).
    """

    peak_cd: float
    beam_deg: float
    field_deg: float

    def __post_init__(self) -> None:
        require_candela("peak_cd", self.peak_cd)
        require_between("beam_deg", self.beam_deg, low=0.5, high=179.0, unit="degrees")
        if not (self.beam_deg < self.field_deg <= 180.0):
            raise BadValue("field_deg", self.field_deg, f"wider than the beam of {self.beam_deg:g} degrees, up to 180")

    @property
    def exponent(self) -> float:
        """p of the source formula: 2 is a bell, larger has a flatter top."""
        return math.log(_HALF_TO_TENTH) / math.log(self.field_deg / self.beam_deg)

    def intensity_cd(self, gamma_deg: Floats, azimuth_deg: Floats = FIRST_PLANE_DEG) -> Array:
        """Candela; nothing behind the lamp."""
        gamma, _ = np.broadcast_arrays(np.abs(np.asarray(gamma_deg, dtype=float)), azimuth_deg)
        with np.errstate(over="ignore"):  # a wide exponent overflows far off axis, where it is dark
            fall = np.power(2.0 * gamma / self.beam_deg, self.exponent)
        return np.where(gamma <= 90.0, self.peak_cd * np.exp2(-fall), 0.0)
