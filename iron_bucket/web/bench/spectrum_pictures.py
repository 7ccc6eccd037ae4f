"""A spectrum, and its Duv against the locus, as places on paper."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.colour.spectrum import Spectrum
from iron_bucket.core.colour.transmission import FIRST_NM, LAST_NM, Transmission
from iron_bucket.core.quantities.mired import mired_from_k
from iron_bucket.web.bench.pictures import Curve, Tick

WIDTH, HEIGHT, FOOT = 420.0, 170.0, 24.0
LOW_NM, HIGH_NM = 380.0, 780.0
#: The Duv picture goes so far to either side, and from candle to clear sky.
MOST_DUV, COOLEST_K, WARMEST_K = 0.02, 12000.0, 2000.0


def spectrum_picture(spectrum: Spectrum, name: str) -> Curve:
    """Power by wavelength, its peak at the top."""
    wavelength = np.clip(spectrum.wavelength_nm, LOW_NM, HIGH_NM)
    x = (wavelength - LOW_NM) / (HIGH_NM - LOW_NM) * WIDTH
    y = 10.0 + (1.0 - spectrum.power / spectrum.power.max()) * (HEIGHT - FOOT - 10.0)
    path = "M" + "L".join(f"{a:.1f} {b:.1f}" for a, b in zip(x, y, strict=True))
    peak_nm = float(spectrum.wavelength_nm[int(np.argmax(spectrum.power))])
    return Curve(
        width=WIDTH,
        height=HEIGHT,
        lines=(path,),
        along=_nanometres(),
        up=(),
        marks=(),
        band=f"{path}L{x[-1]:.1f} {HEIGHT - FOOT:.1f}L{x[0]:.1f} {HEIGHT - FOOT:.1f}Z",
        description=f"Spectrum {name}: relative power by wavelength in nanometres, the peak at {peak_nm:.0f}.",
    )


def passes_picture(curve: Transmission, name: str) -> Curve:
    """What a gel passes by wavelength, all of it at the top."""
    nm = np.arange(FIRST_NM, LAST_NM + 1.0, 5.0)
    foot = HEIGHT - FOOT
    x, y = (nm - LOW_NM) / (HIGH_NM - LOW_NM) * WIDTH, 10.0 + (1.0 - curve.at(nm)) * (foot - 10.0)
    path = "M" + "L".join(f"{a:.1f} {b:.1f}" for a, b in zip(x, y, strict=True))
    most = float(nm[int(np.argmax(curve.at(nm)))])
    return Curve(
        width=WIDTH,
        height=HEIGHT,
        lines=(path,),
        along=_nanometres(),
        up=tuple(Tick(at=10.0 + (1.0 - share) * (foot - 10.0), text=f"{share * 100:.0f} %") for share in (1.0, 0.5)),
        marks=(),
        band=f"{path}L{x[-1]:.1f} {foot:.1f}L{x[0]:.1f} {foot:.1f}Z",
        description=f"{name}: share passed by wavelength in nanometres, most of it at {most:.0f}.",
    )


def _nanometres() -> tuple[Tick, ...]:
    marked = range(400, 800, 50)
    return tuple(Tick(at=(nm - LOW_NM) / (HIGH_NM - LOW_NM) * WIDTH, text=f"{nm}") for nm in marked)


@dataclass(frozen=True, slots=True, kw_only=True)
class DuvPicture:
    """The locus as a straight line, the light as a dot above it (green) or below (magenta).

    ``white_top`` and ``white_foot``: where white ends.
    """

    width: float
    height: float
    locus_y: float
    white_top: float
    white_foot: float
    x: float
    y: float
    along: tuple[Tick, ...]
    description: str


def duv_picture(figures: Mapping[str, float]) -> DuvPicture:
    """Duv over the colour temperature, which is spaced by mired."""

    def across(cct_k: float) -> float:
        low, high = float(mired_from_k(WARMEST_K)), float(mired_from_k(COOLEST_K))
        return (low - float(mired_from_k(min(max(cct_k, WARMEST_K), COOLEST_K)))) / (low - high) * WIDTH

    def up(duv: float) -> float:
        middle = (HEIGHT - FOOT) / 2.0
        return middle - max(min(duv, MOST_DUV), -MOST_DUV) / MOST_DUV * (middle - 8.0)

    side = (
        "on the locus"
        if abs(figures["duv"]) < 0.0005
        else "green of the locus"
        if figures["duv"] > 0
        else "magenta of the locus"
    )
    return DuvPicture(
        width=WIDTH,
        height=HEIGHT,
        locus_y=up(0.0),
        white_top=up(0.0054),
        white_foot=up(-0.0054),
        x=across(figures["cct_k"]),
        y=up(figures["duv"]),
        along=tuple(
            Tick(at=across(kelvin), text=f"{kelvin:.0f}") for kelvin in (2500.0, 3200.0, 4300.0, 5600.0, 8000.0)
        ),
        description=f"{figures['cct_k']:.0f} K, Duv {figures['duv']:+.4f}: {side}.",
    )
