"""LM-63 photometric files, every revision from 1986 to 2019.

Source: ANSI/IES LM-63-19 and its forerunners LM-63-86, -91, -95, -02.
"""

import re
from array import array
from bisect import bisect_right
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.constants import METRES_PER_FOOT
from iron_bucket.core.errors import BadValue
from iron_bucket.core.photometry.luminaire import Luminaire
from iron_bucket.core.photometry.tabulated import PhotometryType, Tabulated
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.text_file import lines_of, shown

FORMAT = "LM-63"
_REVISIONS = {
    "IESNA91": "1991",
    "IESNA:LM-63-1986": "1986",
    "IESNA:LM-63-1991": "1991",
    "IESNA:LM-63-1995": "1995",
    "IESNA:LM-63-2002": "2002",
    "IES:LM-63-2019": "2019",
}
_NUMERIC_LINE = re.compile(r"[0-9+\-.eE,\s]*", re.ASCII)
#: Commas alone between the numbers of a line part them; one inside a line with blanks is no such thing.
_PARTED_BY_COMMAS = re.compile(r"\s*[^\s,]+(?:\s*,\s*[^\s,]+)+\s*", re.ASCII)
_TYPES = {1: PhotometryType.C, 2: PhotometryType.B, 3: PhotometryType.A}
_LENGTH_UNITS = {1: METRES_PER_FOOT, 2: 1.0}
#: The twelfth number was a factor (ballast-lamp photometric factor) until LM-63-2002; in 2019 it tells how the file
#: was made.
_TWELFTH_IS_NO_FACTOR = "2019"


@dataclass(slots=True)
class _Numbers:
    """The numbers of the file's second half, taken one after the other; wrapped over lines as the writer liked."""

    values: "array[float]"
    line_starts: list[int]  # index of the first number of each line
    first_line: int
    taken: int = 0

    def line(self, index: int | None = None) -> int:
        """The line on which the last number taken, or the one at ``index``, stands."""
        at = max(self.taken - 1, 0) if index is None else index
        return self.first_line + max(0, bisect_right(self.line_starts, at) - 1)

    def left(self) -> int:
        """How many are still there."""
        return len(self.values) - self.taken

    def take(self, count: int, what: str) -> Array:
        """The next numbers. Raises: FormatError where the file holds fewer."""
        if count > self.left():
            raise FormatError(
                FORMAT,
                self.line(len(self.values) - 1) if self.values else self.first_line,
                f"the file ends inside {what}: {count:,} numbers are declared, {self.left():,} are there",
            )
        start, self.taken = self.taken, self.taken + count
        return np.array(self.values[start : self.taken])

    def one(self, what: str) -> float:
        """The next number."""
        return float(self.take(1, what)[0])

    def whole(self, what: str) -> int:
        """The next number, which must be a whole one."""
        value = self.one(what)
        if value != int(value):
            raise FormatError(FORMAT, self.line(), f"{what} is {value:g}; accepted: a whole number")
        return int(value)


def read_lm63(data: bytes) -> Luminaire:
    """One file. Raises: FormatError with the line, for anything that cannot be trusted."""
    lines = lines_of(data, FORMAT)
    tilt_at = next((index for index, line in enumerate(lines) if re.match(r"TILT\s*=", line.strip(), re.I)), None)
    if tilt_at is None:
        raise FormatError(FORMAT, None, "there is no line that begins with TILT=, so this is no LM-63 file")
    revision = _revision(lines[0])
    keywords = _keywords(lines[:tilt_at])
    tilt = lines[tilt_at].split("=", 1)[1].strip()
    numbers = _numbers(lines, tilt_at + 1)
    notes = _skip_tilt(tilt, numbers)
    return _luminaire(numbers, revision, keywords, notes)


def _revision(first_line: str) -> str:
    """The stated revision; files of 1986 state none."""
    mark = first_line.strip().upper()
    if mark in _REVISIONS:
        return _REVISIONS[mark]
    if re.match(r"IES(NA)?\s*:?\s*LM-63", mark):
        raise FormatError(
            FORMAT, 1, f"the revision is {shown(first_line.strip())}; accepted: LM-63 of 1986, 1991, 1995, 2002 or 2019"
        )
    return "1986"


def _keywords(lines: list[str]) -> dict[str, str]:
    """Keyword lines; the first of each wins, [MORE] adds to the one before."""
    found: dict[str, str] = {}
    last = ""
    for line in lines:
        match = re.match(r"\s*\[([A-Za-z0-9_\-]{1,18})\]\s*(.*)", line)
        if not match:
            continue
        name, text = match[1].upper(), match[2].strip()
        if name == "MORE" and last:
            found[last] = f"{found[last]} {text}"
        else:
            last = name
            found.setdefault(name, text)
    return found


def _numbers(lines: list[str], start: int) -> _Numbers:
    """Every number from ``start`` on, with where each line begins."""
    values: array[float] = array("d")
    starts = []
    for index in range(start, len(lines)):
        starts.append(len(values))
        line = lines[index]
        if not _NUMERIC_LINE.fullmatch(line):
            raise FormatError(FORMAT, index + 1, f"{shown(_first_odd(line))} is not a number")
        for token in line.split("," if _PARTED_BY_COMMAS.fullmatch(line) else None):
            values.append(_number(token, index + 1))
    return _Numbers(values=values, line_starts=starts, first_line=start + 1)


def _first_odd(line: str) -> str:
    return next((token for token in line.split() if not _NUMERIC_LINE.fullmatch(token)), line)


def _number(token: str, line: int) -> float:
    plain = token.rstrip(",")
    if "," in plain:
        raise FormatError(
            FORMAT, line, f"{shown(token)} has a comma inside; accepted: decimal points, and spaces between numbers"
        )
    try:
        value = float(plain)
    except ValueError:
        raise FormatError(FORMAT, line, f"{shown(token)} is not a number") from None
    if not np.isfinite(value):
        raise FormatError(FORMAT, line, f"{shown(token)} is too large for a number")
    return value


def _skip_tilt(tilt: str, numbers: _Numbers) -> tuple[str, ...]:
    """Read past the TILT table. It tells how output changes when the lamp is tilted; upright it is not applied."""
    if tilt.upper() == "NONE":
        return ()
    if tilt.upper() != "INCLUDE":
        return (f"the TILT table is in another file ({shown(tilt)}) and was not applied",)
    geometry = numbers.whole("the lamp-to-luminaire geometry")
    if geometry not in (1, 2, 3):
        raise FormatError(FORMAT, numbers.line(), f"the lamp-to-luminaire geometry is {geometry}; accepted: 1, 2 or 3")
    pairs = numbers.whole("the number of tilt angles")
    if pairs < 1:
        raise FormatError(FORMAT, numbers.line(), f"the number of tilt angles is {pairs}; accepted: 1 or more")
    numbers.take(2 * pairs, "the TILT table")
    return ("the TILT table was read and, for an upright lamp, not applied",)


def _luminaire(numbers: _Numbers, revision: str, keywords: dict[str, str], notes: tuple[str, ...]) -> Luminaire:
    lamps = numbers.whole("the number of lamps")
    lamp_lumens, multiplier = numbers.one("the lumens per lamp"), numbers.one("the candela multiplier")
    vertical_count = _count(numbers, "the number of vertical angles")
    horizontal_count = _count(numbers, "the number of horizontal angles")
    kind = _coded(numbers, "the photometric type", {code: str(code) for code in _TYPES})
    unit_m = _LENGTH_UNITS[_coded(numbers, "the units type", {1: "feet", 2: "metres"})]
    opening = numbers.take(3, "the size of the luminous opening")
    ballast, twelfth, watts = (
        numbers.one(what) for what in ("the ballast factor", "the twelfth number", "the input watts")
    )
    factor = multiplier * ballast * (1.0 if revision == _TWELFTH_IS_NO_FACTOR else twelfth)
    if not (factor > 0.0 and np.isfinite(factor)):
        raise FormatError(
            FORMAT,
            numbers.line(),
            f"multiplier, ballast factor and photometric factor give {factor:g}; accepted: above 0",
        )
    if watts < 0.0:
        raise FormatError(FORMAT, numbers.line(), f"the input watts are {watts:g}; accepted: 0 or more")
    declared = vertical_count + horizontal_count + vertical_count * horizontal_count
    if declared != numbers.left():
        raise FormatError(
            FORMAT,
            numbers.line(),
            f"{vertical_count:,} vertical by {horizontal_count:,} horizontal angles need {declared:,} "
            f"numbers, but {numbers.left():,} follow",
        )
    table = _table(numbers, _TYPES[kind], vertical_count, horizontal_count, factor)
    sides = (abs(float(opening[0])) * unit_m, abs(float(opening[1])) * unit_m)
    return Luminaire(
        file_format=FORMAT,
        revision=revision,
        name=_name(keywords),
        maker=keywords.get("MANUFAC", "")[:80],
        distribution=table,
        input_w=watts or None,
        rated_lamp_lumens=lamps * lamp_lumens if lamp_lumens > 0 else None,
        opening_m=sides,
        is_round=bool(opening[0] < 0),
        notes=notes,
    )


def _name(keywords: dict[str, str]) -> str:
    return (keywords.get("LUMINAIRE") or keywords.get("LUMCAT") or keywords.get("TEST") or "")[:100]


def _count(numbers: _Numbers, what: str) -> int:
    count = numbers.whole(what)
    if count < 1:
        raise FormatError(FORMAT, numbers.line(), f"{what} is {count}; accepted: 1 or more")
    return count


def _coded(numbers: _Numbers, what: str, meanings: dict[int, str]) -> int:
    code = numbers.whole(what)
    if code not in meanings:
        raise FormatError(
            FORMAT, numbers.line(), f"{what} is {code}; accepted: {', '.join(str(each) for each in meanings)}"
        )
    return code


def _table(
    numbers: _Numbers, kind: PhotometryType, vertical_count: int, horizontal_count: int, factor: float
) -> Tabulated:
    """Angles and candela; every refusal names the line on which its block begins."""
    lines = {}
    blocks = {}
    for field, count in (
        ("vertical_deg", vertical_count),
        ("horizontal_deg", horizontal_count),
        ("candela", vertical_count * horizontal_count),
    ):
        lines[field] = numbers.line(numbers.taken)
        begin = numbers.taken
        blocks[field] = numbers.take(count, field)
        if field == "candela" and (blocks[field] < 0).any():
            worst = int(np.argmax(blocks[field] < 0))
            raise FormatError(
                FORMAT, numbers.line(begin + worst), f"a candela value is {blocks[field][worst]:g}; accepted: 0 or more"
            )
    try:
        table = Tabulated(
            kind=kind,
            vertical_deg=blocks["vertical_deg"],
            horizontal_deg=blocks["horizontal_deg"],
            candela=blocks["candela"].reshape(horizontal_count, vertical_count) * factor,
        )
    except BadValue as bad:
        raise FormatError(FORMAT, lines[bad.field], bad) from bad
    _require_whole_turn(table, lines["horizontal_deg"])
    if not table.candela.max() > 0:
        raise FormatError(FORMAT, lines["candela"], "every candela value is 0, so there is no light to compute with")
    return table


def _require_whole_turn(table: Tabulated, line: int) -> None:
    """Type C planes stand for a whole turn: to 0, 90, 180 or 360, from 90 to 270, or up to one step short of 360."""
    angles = table.horizontal_deg
    if table.kind is not PhotometryType.C or (len(angles) == 1 and angles[0] == 0):
        return
    first, last = float(angles[0]), float(angles[-1])
    one_step_short = len(angles) > 2 and abs(360.0 - last - (angles[-1] - angles[-2])) < 1e-3
    if not ((first == 0.0 and (last in (90.0, 180.0, 360.0) or one_step_short)) or (first, last) == (90.0, 270.0)):
        raise FormatError(
            FORMAT,
            line,
            f"horizontal angles run from {first:g} to {last:g}; accepted: 0 alone, 0 to 90, 180 or 360, or 90 to 270",
        )
