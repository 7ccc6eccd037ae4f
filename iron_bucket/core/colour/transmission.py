"""What a gel passes by wavelength, and what that makes of a light."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.checks import require_between
from iron_bucket.core.colour.bands import BANDS_FROM_XYZ, XYZ_FROM_BANDS, bands_of
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.observer import matching, wavelengths_nm
from iron_bucket.core.colour.spectrum import Spectrum
from iron_bucket.core.colour.white import planckian_power, uv_from_xyz
from iron_bucket.core.errors import BadValue

#: As makers print it: every so many nanometres, from the first to the last; beyond them as at the end.
FIRST_NM, LAST_NM, STEP_NM = 400.0, 700.0, 10.0
#: A gel is told for this light. Its lightest sheet passes no more than all, its deepest no less than that.
TOLD_FOR = LightColour.of_cct(5600.0)
_LEAST = 1e-4
_PER_CENT = 100.0
#: A band that a light hardly has says nothing of a gel.
_LEAST_BAND = 0.02


@dataclass(frozen=True, slots=True, kw_only=True)
class Behind:
    """A light behind a gel: its ``colour`` there, the share of its lux that ``passes``, and what became of it."""

    colour: LightColour
    passes: float
    shift_mired: float
    duv: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Transmission:
    """``shares`` passed at every 10 nm from 400 to 700 nm."""

    shares: tuple[float, ...]

    def __post_init__(self) -> None:
        if len(self.shares) != len(_nm()):
            raise BadValue("shares", f"{len(self.shares)} of them", f"{len(_nm())}, one every {STEP_NM:g} nm")
        for share in self.shares:
            require_between("share", share, low=0.0, high=1.0, unit="")

    @classmethod
    def of(cls, spectrum: Spectrum) -> "Transmission":
        """From a curve in shares, or in per cent where any lies above 1. Raises: BadValue above 100 %."""
        most = float(spectrum.power.max())
        if most > _PER_CENT:
            raise BadValue("what it passes", f"{most:g}", "shares up to 1, or per cent up to 100, at every wavelength")
        scale = _PER_CENT if most > 1.0 else 1.0
        shares = np.interp(_nm(), spectrum.wavelength_nm, spectrum.power) / scale
        return cls(shares=tuple(shares.tolist()))

    def at(self, wavelength_nm: Array) -> Array:
        """Shape (N,)."""
        return np.maximum(np.interp(wavelength_nm, _nm(), self.shares), _LEAST)

    def behind(self, colour: LightColour) -> Behind:
        """A light behind it: by its own spectrum, which is known still; by that of a black body as warm where it has
        none; a saturated one by what the bands of daylight lose.
        """
        return _behind(self, colour)


@lru_cache(maxsize=1024)
def _behind(gel: Transmission, colour: LightColour) -> Behind:
    own = colour.spectrum
    if own is not None:
        fine = own.at_every_nm()
        passed = Spectrum(wavelength_nm=fine.wavelength_nm, power=fine.power * gel.at(fine.wavelength_nm))
        power = np.interp(wavelengths_nm(), fine.wavelength_nm, fine.power, left=0.0, right=0.0)
        before, after = _before_and_after(gel, power)
        found = LightColour.of_spectrum(passed, colour.origin)
    else:
        before, after = _before_and_after(gel, planckian_power((colour if colour.is_white else TOLD_FOR).mired))
        xyz = colour.xyz * after / before
        if not colour.is_white:
            lost = (BANDS_FROM_XYZ @ after) / np.maximum(BANDS_FROM_XYZ @ before, _LEAST_BAND * before[1])
            xyz = XYZ_FROM_BANDS @ (bands_of(colour.uv) * np.maximum(lost, _LEAST))
        found = LightColour.of(uv_from_xyz(xyz), colour.origin)
    shift = found.mired - colour.mired
    return Behind(
        colour=found,
        passes=float(min(after[1] / before[1], 1.0)),
        shift_mired=0.0 if np.isnan(shift) else shift,
        duv=found.duv - colour.duv,
    )


def _before_and_after(gel: Transmission, power: Array) -> tuple[Array, Array]:
    return power @ matching(), (power * gel.at(wavelengths_nm())) @ matching()


def _nm() -> Array:
    return np.arange(FIRST_NM, LAST_NM + STEP_NM / 2.0, STEP_NM)
