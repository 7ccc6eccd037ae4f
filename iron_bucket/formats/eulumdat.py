"""EULUMDAT photometric files: all symmetry codes, decimal commas, old encodings.

Source: the EULUMDAT/2 description of 1990; one value a line, intensities per 1000 lamp lumens.
"""

import re

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.errors import BadValue
from iron_bucket.core.photometry.luminaire import Luminaire
from iron_bucket.core.photometry.tabulated import PhotometryType, Tabulated
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.text_file import lines_of, shown

FORMAT = "EULUMDAT"
_FIXED_LINES = 26
_LINES_A_SET = 6
_DIRECT_RATIOS = 10
_NUMBER = re.compile(r"[+-]?(\d+[.,]?\d*|[.,]\d+)([eE][+-]?\d{1,3})?", re.ASCII)


class _Lines:
    """Lines by the numbers that the description gives them, from 1."""

    def __init__(self, lines: list[str]) -> None:
        self.lines = lines

    def number(self, line: int, what: str) -> float:
        """The number on a line; a comma may stand for the point."""
        if line > len(self.lines):
            raise FormatError(FORMAT, len(self.lines), f"the file ends before {what} (line {line})")
        token = self.lines[line - 1].strip()
        if not _NUMBER.fullmatch(token):
            raise FormatError(FORMAT, line, f"{what} is {shown(token)}; accepted: a number")
        value = float(token.replace(",", "."))
        if not np.isfinite(value):
            raise FormatError(FORMAT, line, f"{what} is {shown(token)}; accepted: a number of this world")
        return value

    def whole(self, line: int, what: str, low: int, high: int) -> int:
        """A whole number within bounds."""
        value = self.number(line, what)
        if value != int(value) or not low <= value <= high:
            raise FormatError(FORMAT, line, f"{what} is {value:g}; accepted: a whole number from {low} to {high}")
        return int(value)

    def numbers(self, first: int, count: int, what: str) -> Array:
        """``count`` lines of numbers; the count is checked before anything is made for it."""
        if first + count - 1 > len(self.lines):
            raise FormatError(
                FORMAT,
                len(self.lines),
                f"the file ends inside {what}: {count:,} lines are declared, "
                f"{max(0, len(self.lines) - first + 1):,} are there",
            )
        return np.array([self.number(first + offset, what) for offset in range(count)])


def read_eulumdat(data: bytes) -> Luminaire:
    """One file; of several lamp sets the first. Raises: FormatError with the line."""
    text = _Lines(lines_of(data, FORMAT))
    if len(text.lines) < _FIXED_LINES:
        raise FormatError(
            FORMAT, len(text.lines), f"the file has {len(text.lines)} lines; a lamp needs at least {_FIXED_LINES}"
        )
    symmetry = text.whole(3, "the symmetry code", 0, 4)
    planes = text.whole(4, "the number of C planes", 1, 721)
    angles = text.whole(6, "the number of angles in a plane", 2, 721)
    conversion = text.number(24, "the conversion factor")
    sets = text.whole(26, "the number of lamp sets", 1, 20)
    flux_lm, watts = text.number(29, "the flux of the lamp set"), text.number(32, "the watts of the lamp set")
    factor = conversion * flux_lm / 1000.0
    if not factor > 0.0:
        raise FormatError(FORMAT, 29, f"conversion factor and lamp flux give {factor:g}; accepted: above 0")
    first = _FIXED_LINES + _LINES_A_SET * sets + _DIRECT_RATIOS + 1
    stored = {0: planes, 1: 1, 2: planes // 2 + 1, 3: planes // 2 + 1, 4: planes // 4 + 1}[symmetry]
    c_deg = text.numbers(first, planes, "the C angles")
    gamma_deg = text.numbers(first + planes, angles, "the angles in a plane")
    block = first + planes + angles
    values = text.numbers(block, stored * angles, "the intensities").reshape(stored, angles)
    if (values < 0).any():
        worst = int(np.argmax(values.ravel() < 0))
        raise FormatError(FORMAT, block + worst, f"an intensity is {values.ravel()[worst]:g}; accepted: 0 or more")
    horizontal, candela = _unfolded(symmetry, c_deg, values * factor, first)
    try:
        table = Tabulated(kind=PhotometryType.C, vertical_deg=gamma_deg, horizontal_deg=horizontal, candela=candela)
    except BadValue as bad:
        raise FormatError(FORMAT, first + planes if bad.field == "vertical_deg" else first, bad) from bad
    if not table.candela.max() > 0:
        raise FormatError(FORMAT, block, "every intensity is 0, so there is no light to compute with")
    notes = (f"{sets} lamp sets are listed; the first was taken",) if sets > 1 else ()
    length, width = (abs(text.number(line, "the luminous area")) / 1000.0 for line in (16, 17))
    return Luminaire(
        file_format=FORMAT,
        revision=None,
        name=text.lines[8].strip()[:100],
        maker=text.lines[0].strip()[:80],
        distribution=table,
        input_w=abs(watts) or None,
        rated_lamp_lumens=flux_lm,
        opening_m=(length, width or length),
        is_round=width == 0.0,
        notes=notes,
    )


def _unfolded(symmetry: int, c_deg: Array, candela: Array, line: int) -> tuple[Array, Array]:
    """Stored planes as the table wants them; code 3 holds C270 over C0 to C90 and is turned round to C90 to C270."""
    count = len(candela)
    if symmetry == 1:
        return np.zeros(1), candela
    if symmetry != 3:
        return c_deg[:count], candela
    start = len(c_deg) - len(c_deg) // 4  # C270 is the first plane stored
    stored = np.concatenate([c_deg[start:] - 360.0, c_deg[: count - (len(c_deg) - start)]])
    if len(stored) != count or abs(stored[0] + 90.0) > 1e-6 or abs(stored[-1] - 90.0) > 1e-6:
        raise FormatError(FORMAT, line, "the C angles do not hold C270 to C90, which symmetry code 3 needs")
    return (180.0 - stored)[::-1], candela[::-1]
