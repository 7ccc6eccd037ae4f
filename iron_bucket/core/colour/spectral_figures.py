"""What a spectrum says of a light: CCT, Duv, Ra, R9, Rf, Rg, and how like daylight or tungsten it is.

The colour library is well kept and slow to import (seconds, 130 MB): import this module only where a spectrum is at
hand.
"""

import warnings
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.colour.spectrum import Spectrum
from iron_bucket.core.errors import NoAnswer

with warnings.catch_warnings():
    warnings.simplefilter("ignore")  # it misses a plotting library that nothing here uses
    import colour
    from colour.quality import colour_fidelity_index_ANSIIESTM3018

#: Beyond this Duv a light is no white light, and rendering figures mean little. Source: CIE 13.3-1995, section 5.3.
WHITE_DUV = 0.0054
#: Where the tungsten reference of the similarity gives way to daylight.
DAYLIGHT_FROM_K = 4000.0
TUNGSTEN_K, DAYLIGHT_K = 3200.0, 5500.0
_OBSERVER = "CIE 1931 2 Degree Standard Observer"
_BY_FIVE = colour.SpectralShape(380, 780, 5)
_BY_ONE = colour.SpectralShape(380, 780, 1)


@dataclass(frozen=True, slots=True, kw_only=True)
class SpectralFigures:
    """``similarity`` is against ``reference``; R9 and the similarity may lie below 0 and are kept so."""

    cct_k: float
    duv: float
    ra: float
    r9: float
    rf: float
    rg: float
    similarity: float
    reference: str

    @property
    def is_white(self) -> bool:
        """Whether the rendering figures mean much."""
        return abs(self.duv) <= WHITE_DUV


def chromaticity_uv(spectrum: Spectrum) -> Array:
    """CIE 1960 u, v. Shape (2,). Source: CIE 15:2018, 2 degree observer at 1 nm."""
    fine = spectrum.at_every_nm()
    observer = colour.MSDS_CMFS[_OBSERVER]
    power = np.interp(observer.wavelengths, fine.wavelength_nm, fine.power, left=0.0, right=0.0)
    return np.asarray(colour.UCS_to_uv(colour.XYZ_to_UCS(power @ observer.values)), dtype=float)


def cct_and_duv(spectrum: Spectrum) -> tuple[float, float]:
    """Colour temperature and distance from the Planckian locus; positive Duv is green.

    Raises: NoAnswer for a colour so far from white that it has no temperature.
    Source: Ohno 2013, Practical use and calculation of CCT and Duv.
    """
    u, v = chromaticity_uv(spectrum)
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        cct_k, duv = colour.temperature.uv_to_CCT_Ohno2013((u, v))
    if not (np.isfinite(cct_k) and 1000.0 < cct_k < 100000.0 and abs(duv) < 0.05):
        raise NoAnswer(f"the light is no shade of white (Duv {duv:.3f}): it has no colour temperature")
    return float(cct_k), float(duv)


def spectral_figures(spectrum: Spectrum) -> SpectralFigures:
    """All of them. Raises: NoAnswer for a light that is no shade of white.

    Source: CIE 13.3-1995 (Ra, R9); ANSI/IES TM-30-18 (Rf, Rg); SMPTE ST 2122 (similarity).
    """
    cct_k, duv = cct_and_duv(spectrum)
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")  # the library tells of every alignment that it makes itself
        rendering = colour.colour_rendering_index(_distribution(spectrum), additional_data=True)
        fidelity = colour_fidelity_index_ANSIIESTM3018(_distribution(spectrum), additional_data=True)
        similarity = colour.spectral_similarity_index(_distribution(spectrum), reference_distribution(cct_k))
    return SpectralFigures(
        cct_k=cct_k,
        duv=duv,
        ra=float(rendering.Q_a),
        r9=float(rendering.Q_as[9].Q_a),
        rf=float(fidelity.R_f),
        rg=float(fidelity.R_g),
        similarity=float(similarity),
        reference=f"tungsten {TUNGSTEN_K:.0f} K" if cct_k < DAYLIGHT_FROM_K else f"daylight {DAYLIGHT_K:.0f} K",
    )


def likenesses(spectrum: Spectrum) -> tuple[float, float]:
    """How like a filament of 3200 K it is, and how like CIE daylight of 5500 K. Source: SMPTE ST 2122."""
    given = _distribution(spectrum)
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        tungsten, daylight = (
            float(colour.spectral_similarity_index(given, reference_distribution(each)))
            for each in (TUNGSTEN_K, DAYLIGHT_K)
        )
    return tungsten, daylight


def _distribution(spectrum: Spectrum) -> "colour.SpectralDistribution":
    """A new one for each figure: the library's TM-30 function changes what it is given."""
    fine = spectrum.at_every_nm()
    return colour.SpectralDistribution(fine.power.copy(), fine.wavelength_nm.copy())


def reference_distribution(cct_k: float) -> "colour.SpectralDistribution":
    """The light that is copied: a filament at 3200 K below 4000 K, else CIE daylight at 5500 K."""
    if cct_k < DAYLIGHT_FROM_K:
        return colour.sd_blackbody(TUNGSTEN_K, _BY_ONE)
    daylight: colour.SpectralDistribution = colour.SDS_ILLUMINANTS["D55"].copy().align(_BY_FIVE)
    return daylight
