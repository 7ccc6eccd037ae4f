"""The colour of a light: from its spectrum, or a chromaticity and who says so."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.checks import require_between
from iron_bucket.core.colour.bands import XYZ_FROM_BANDS, bands_of, sent_on
from iron_bucket.core.colour.observer import xyz_of
from iron_bucket.core.colour.spectrum import Spectrum
from iron_bucket.core.colour.white import (
    daylight_uv,
    mired_and_duv,
    uv_from_mired,
    uv_from_xy,
    uv_from_xyz,
    xy_from_uv,
    xyz_from_uv,
)
from iron_bucket.core.figure import Origin, least_trusted
from iron_bucket.core.quantities.mired import mired_from_k, seen_k

#: Less light has no colour to speak of.
_DARK_LX = 1e-9


@dataclass(frozen=True, slots=True, kw_only=True)
class LightColour:
    """``u`` and ``v``: CIE 1960; ``spectrum`` where the light has one, whose chromaticity they are then."""

    u: float
    v: float
    origin: Origin
    spectrum: Spectrum | None = None

    def __post_init__(self) -> None:
        require_between("u", self.u, low=0.0, high=0.7, unit="")
        require_between("v", self.v, low=0.0, high=0.5, unit="")

    @classmethod
    def of(cls, uv: Array, origin: Origin, spectrum: Spectrum | None = None) -> "LightColour":
        """From CIE 1960 u, v, shape (2,)."""
        return cls(u=float(uv[0]), v=float(uv[1]), origin=origin, spectrum=spectrum)

    @classmethod
    def of_cct(cls, cct_k: float, duv: float = 0.0, origin: Origin = Origin.TYPICAL) -> "LightColour":
        """From a temperature and the distance from the Planckian locus, positive green."""
        return cls.of_mired(float(mired_from_k(cct_k)), duv, origin)

    @classmethod
    def of_mired(cls, mired: float, duv: float, origin: Origin) -> "LightColour":
        """The same from a mired."""
        u, v = _uv_at(mired, duv)
        return cls(u=u, v=v, origin=origin)

    @classmethod
    def of_daylight(cls, cct_k: float, origin: Origin = Origin.TYPICAL) -> "LightColour":
        """A phase of daylight."""
        return cls.of(daylight_uv(cct_k), origin)

    @classmethod
    def of_xy(cls, x: float, y: float, origin: Origin) -> "LightColour":
        """From CIE 1931 x, y."""
        require_between("y", y, low=0.01, high=1.0, unit="")
        require_between("x", x, low=0.0, high=1.0 - y, unit="")
        return cls.of(uv_from_xy(np.array([x, y])), origin)

    @classmethod
    def of_spectrum(cls, spectrum: Spectrum, origin: Origin = Origin.MEASURED) -> "LightColour":
        """As the standard observer sees it."""
        return cls.of(_uv_of(spectrum), origin, spectrum)

    @property
    def uv(self) -> Array:
        """Shape (2,)."""
        return np.array([self.u, self.v])

    @property
    def xy(self) -> tuple[float, float]:
        """CIE 1931."""
        x, y = xy_from_uv(self.uv)
        return float(x), float(y)

    @property
    def xyz(self) -> Array:
        """X, Y and Z of one lux. Shape (3,)."""
        return xyz_from_uv(self.uv)

    @property
    def is_white(self) -> bool:
        """Whether it is a shade of white, and has a temperature."""
        return not math.isnan(self.mired)

    @property
    def mired(self) -> float:
        """Of the nearest black body; NaN of what is no shade of white."""
        return _white(self.u, self.v)[0]

    @property
    def duv(self) -> float:
        """Off the Planckian locus, positive is green."""
        return _white(self.u, self.v)[1]

    @property
    def cct_k(self) -> float:
        """The temperature that a screen shows; NaN of what is no shade of white."""
        return seen_k(self.mired) if self.is_white else math.nan

    def shifted(self, shift_mired: float, duv: float = 0.0) -> "LightColour":
        """Behind something that shifts it, positive warmer and greener; a spectrum is no longer known then."""
        if not shift_mired and not duv:
            return self
        if self.is_white:
            return LightColour.of_mired(max(self.mired + shift_mired, 0.0), self.duv + duv, self.origin)
        bands = bands_of(self.uv) * np.array(sent_on(shift_mired, duv))
        return LightColour.of(uv_from_xyz(XYZ_FROM_BANDS @ bands), self.origin)


@lru_cache(maxsize=256)
def _uv_of(spectrum: Spectrum) -> Array:
    return uv_from_xyz(xyz_of(spectrum.wavelength_nm, spectrum.power))


#: The lamps of a job stand at a few dozen settings.
@lru_cache(maxsize=4096)
def _uv_at(mired: float, duv: float) -> tuple[float, float]:
    u, v = uv_from_mired(mired, duv)
    return float(u), float(v)


@lru_cache(maxsize=4096)
def _white(u: float, v: float) -> tuple[float, float]:
    mired, duv = mired_and_duv(np.array([u, v]))
    return float(mired), float(duv)


def mixed(colours: Sequence[LightColour], illuminance_lx: Sequence[float] | Array) -> LightColour | None:
    """What several lights make together, each of so many lux: the sum of their tristimulus values. None in the dark.

    Its spectrum is known where each of them has one.
    """
    shares = np.maximum(np.asarray(illuminance_lx, dtype=float), 0.0)
    if not len(colours) or shares.sum() <= _DARK_LX:
        return None
    xyz = shares @ np.array([each.xyz for each in colours])
    told = [(each, float(share)) for each, share in zip(colours, shares, strict=True) if share > 0.0]
    origin = least_trusted(tuple(each.origin for each, _ in told))
    return LightColour.of(uv_from_xyz(xyz), origin, _sum_of(told))


def _sum_of(told: Sequence[tuple[LightColour, float]]) -> Spectrum | None:
    """Spectra side by side at every nanometre that all of them cover, each of so many lux."""
    spectra = [(each.spectrum, share) for each, share in told if each.spectrum is not None]
    if len(spectra) < len(told):
        return None
    low = max(float(np.ceil(each.wavelength_nm[0])) for each, _ in spectra)
    high = min(float(np.floor(each.wavelength_nm[-1])) for each, _ in spectra)
    nm = np.arange(low, high + 0.5)
    power = np.zeros_like(nm)
    for each, share in spectra:
        lux = xyz_of(each.wavelength_nm, each.power)[1]
        power += share / lux * np.interp(nm, each.wavelength_nm, each.power)
    return Spectrum(wavelength_nm=nm, power=power)
