"""A spectrum as CSV: wavelength in nanometres, power in any unit."""

import re

import numpy as np

from iron_bucket.core.colour.spectrum import Spectrum
from iron_bucket.core.errors import BadValue
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.text_file import lines_of, shown

WHAT = "spectrum"
MOST_LINES = 10_000
_NUMBER = re.compile(r"[+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][+-]?\d{1,3})?")
_POINTED = re.compile(r"[+-]?[\d.]+(?:[eE][+-]?\d{1,3})?")


def read_spectrum_csv(data: bytes) -> Spectrum:
    """A spectrum; lines before the first pair of numbers are headings. Raises: FormatError with the line."""
    pairs: list[tuple[float, float]] = []
    for number, line in enumerate(lines_of(data, WHAT), start=1):
        if number > MOST_LINES:
            raise FormatError(WHAT, number, f"accepted: up to {MOST_LINES:,} lines")
        if not line.strip() or line.lstrip().startswith("#"):
            continue
        found = _parted(line)
        if found:
            pairs.append(_pair(*found, number))
        elif pairs:
            raise FormatError(WHAT, number, f"{shown(line.strip())} is no wavelength with a power")
    if len(pairs) < 2:
        raise FormatError(WHAT, None, "there are no two lines of wavelength and power")
    return spectrum_of(pairs)


def _parted(line: str) -> tuple[str, str] | None:
    """Two numbers parted by a semicolon, tab or spaces; or by a comma, where points are the decimal marks. Each letter
    is looked at but a few times: a line is as long as whoever wrote it likes.
    """
    plain = line.strip()
    bare = plain[:-1].rstrip() if plain.endswith((";", ",")) else plain
    for parts, number in ((bare.split(","), _POINTED), (bare.split(";") if ";" in bare else bare.split(), _NUMBER)):
        if len(parts) == 2 and all(number.fullmatch(part.strip()) for part in parts):
            return parts[0].strip(), parts[1].strip()
    return None


def _pair(wavelength: str, power: str, line: int) -> tuple[float, float]:
    try:
        values = float(wavelength.replace(",", ".")), float(power.replace(",", "."))
    except ValueError:
        raise FormatError(WHAT, line, f"{shown(f'{wavelength} {power}')} is no wavelength with a power") from None
    if not np.isfinite(values).all():
        raise FormatError(WHAT, line, f"{shown(power)} is too large for a number")
    return values


def spectrum_of(pairs: list[tuple[float, float]]) -> Spectrum:
    """A checked spectrum from wavelength and power. Noise a hair below 0 counts as 0. Raises: FormatError."""
    wavelength, power = np.array(pairs, dtype=float).T
    noise = 0.005 * float(np.abs(power).max())
    power = np.where((power < 0) & (power >= -noise), 0.0, power)
    try:
        return Spectrum(wavelength_nm=wavelength, power=power)
    except BadValue as bad:
        raise FormatError(WHAT, None, bad) from bad


def write_spectrum_csv(spectrum: Spectrum) -> str:
    """The same as CSV, every figure to full precision."""
    rows = "\r\n".join(
        f"{nm:.10g},{power:.10g}" for nm, power in zip(spectrum.wavelength_nm, spectrum.power, strict=True)
    )
    return f"wavelength_nm,relative_power\r\n{rows}\r\n"
