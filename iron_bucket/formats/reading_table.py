"""Readings from a pasted table or a CSV file, whatever its columns, delimiter, decimal mark and units.

First the cells are parted and a use is proposed for each column from its heading; a person says what each column
really is; then every
row is read, and the bad ones are told with line and reason.
"""

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace

from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities import parse
from iron_bucket.core.quantities.units import UnitSystem, lx_from_fc, m_from_ft
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.text_file import lines_of, shown

WHAT = "table of readings"
MOST_ROWS, MOST_COLUMNS = 5000, 40
#: Of a heading, so much is looked at.
LONGEST_HEADING = 80
_DELIMITERS = ("\t", ";", "|", ",")
_SPACES = re.compile(r"\s{2,}|\t|\s(?=[\d.,])")
#: Of the lines, how many must part alike for a delimiter to be believed.
_ALIKE = 0.8


@dataclass(frozen=True, slots=True, kw_only=True)
class ColumnUse:
    """What a column may be. ``field`` of a Reading, ``unit`` of a bare number in it."""

    code: str
    label: str
    field: str
    unit: str = ""


COLUMN_USES = {
    use.code: use
    for use in (
        ColumnUse(code="", label="not used", field=""),
        ColumnUse(code="distance_m", label="distance, m", field="throw_m", unit="m"),
        ColumnUse(code="distance_cm", label="distance, cm", field="throw_m", unit="cm"),
        ColumnUse(code="distance_ft", label="distance, ft", field="throw_m", unit="ft"),
        ColumnUse(code="level_lx", label="level, lx", field="illuminance_lx", unit="lx"),
        ColumnUse(code="level_klx", label="level, klx", field="illuminance_lx", unit="klx"),
        ColumnUse(code="level_fc", label="level, fc", field="illuminance_lx", unit="fc"),
        ColumnUse(code="ambient_lx", label="ambient included, lx", field="ambient_lx", unit="lx"),
        ColumnUse(code="ambient_fc", label="ambient included, fc", field="ambient_lx", unit="fc"),
        ColumnUse(code="setting", label="dimmer, %", field="setting", unit="%"),
        ColumnUse(code="aside_m", label="off axis, m", field="aside_m", unit="m"),
        ColumnUse(code="aside_ft", label="off axis, ft", field="aside_m", unit="ft"),
        ColumnUse(code="set_cct", label="colour set, K", field="set_cct_k"),
        ColumnUse(code="cct", label="CCT read, K", field="cct_k"),
        ColumnUse(code="duv", label="Duv", field="duv"),
        ColumnUse(code="ra", label="Ra", field="ra"),
        ColumnUse(code="r9", label="R9", field="r9"),
        ColumnUse(code="watts", label="watts", field="watts"),
        ColumnUse(code="amps", label="amps", field="amps"),
        ColumnUse(code="meter", label="meter", field="meter"),
        ColumnUse(code="note", label="note", field="note"),
    )
}
_SIZES = {
    "m": 1.0,
    "cm": 0.01,
    "ft": float(m_from_ft(1.0)),
    "lx": 1.0,
    "klx": 1000.0,
    "fc": float(lx_from_fc(1.0)),
    "%": 0.01,
    "": 1.0,
}
#: Words of a heading, most telling first, and the use without its unit.
_HEADINGS = (
    (r"aside|off.?axis|lateral|sideways", "aside"),
    (r"ambient|background|dark", "ambient"),
    (r"set.*(cct|colou?r|k\b)|(cct|colou?r).*set", "set_cct"),
    (r"dist|throw|abstand|\bd\b|far|metres$|meters$|feet$", "distance"),
    (r"duv", "duv"),
    (r"\bcct\b|kelvin|colou?r temp", "cct"),
    (r"\bra\b|\bcri\b", "ra"),
    (r"\br9\b", "r9"),
    (r"\bwatts?\b|power|\bw\b", "watts"),
    (r"\bamps?\b|current|\ba\b", "amps"),
    (r"dim|setting|percent|output|%", "setting"),
    (r"lux|\bk?lx\b|foot.?candle|\bfc\b|level|illum|reading", "level"),
    (r"\bmeter\b|instrument", "meter"),
    (r"note|remark|comment", "note"),
)


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingTable:
    """Cells as they stand. ``headings`` are empty where the first line was data; ``lines``: the line of each row."""

    headings: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    lines: tuple[int, ...]
    columns: int

    @property
    def signature(self) -> str:
        """What the same kind of file is known by next time."""
        return "|".join(self.headings).lower() or f"{self.columns} columns without headings"


@dataclass(frozen=True, slots=True, kw_only=True)
class BadRow:
    """A row that cannot be read."""

    line: int
    reason: str


def read_table(data: bytes) -> ReadingTable:
    """The cells of a table. Raises: FormatError for what is no table."""
    numbered = [(number, line) for number, line in enumerate(lines_of(data, WHAT), start=1) if line.strip()]
    if len(numbered) > MOST_ROWS + 1:
        raise FormatError(WHAT, None, f"{len(numbered):,} rows; accepted: up to {MOST_ROWS:,}")
    if not numbered:
        raise FormatError(WHAT, None, "there is nothing in it")
    delimiter = _delimiter([line for _, line in numbered])
    cells = [tuple(cell.strip().strip('"').strip() for cell in _parted(line, delimiter)) for _, line in numbered]
    columns = max(len(row) for row in cells)
    if columns < 2:
        raise FormatError(
            WHAT, numbered[0][0], f"{shown(numbered[0][1])} has one column; accepted: distance and level at least"
        )
    if columns > MOST_COLUMNS:
        raise FormatError(WHAT, None, f"{columns} columns; accepted: up to {MOST_COLUMNS}")
    padded = [row + ("",) * (columns - len(row)) for row in cells]
    has_headings = not any(re.match(r"\s*[+-]?[\d.,]", cell) for cell in padded[0])
    return ReadingTable(
        headings=padded[0] if has_headings else (),
        rows=tuple(padded[1:] if has_headings else padded),
        lines=tuple(number for number, _ in (numbered[1:] if has_headings else numbered)),
        columns=columns,
    )


def _parted(line: str, delimiter: str) -> list[str]:
    return line.split(delimiter) if delimiter else _SPACES.split(line.strip())


def _delimiter(lines: list[str]) -> str:
    """The first that parts most lines into the same number of cells; white space where none does."""
    for delimiter in _DELIMITERS:
        counts = [line.count(delimiter) for line in lines]
        ((commonest, times),) = Counter(counts).most_common(1)
        if commonest and times >= _ALIKE * len(lines):
            return delimiter
    return ""


def proposed_uses(table: ReadingTable, system: UnitSystem) -> tuple[str, ...]:
    """A use for each column, each but once. Without headings the first two are distance and level."""
    lengths, lights = ("ft", "fc") if system is UnitSystem.IMPERIAL else ("m", "lx")
    if not table.headings:
        return (f"distance_{lengths}", f"level_{lights}") + ("",) * (table.columns - 2)
    taken: set[str] = set()
    uses = []
    for heading in table.headings:
        use = _use_of(heading[:LONGEST_HEADING].lower(), lengths, lights)
        field = COLUMN_USES[use].field
        uses.append("" if field in taken else use)
        taken |= {field} - {""}
    return tuple(uses)


def _use_of(heading: str, lengths: str, lights: str) -> str:
    word = next((use for pattern, use in _HEADINGS if re.search(pattern, heading)), "")
    if word in ("distance", "aside"):
        unit = (
            "ft"
            if re.search(r"\bft\b|feet|foot", heading)
            else "cm"
            if re.search(r"\bcm\b", heading)
            else "m"
            if re.search(r"\bm\b|met", heading)
            else lengths
        )
        return f"{word}_{unit}" if f"{word}_{unit}" in COLUMN_USES else f"{word}_m"
    if word in ("level", "ambient"):
        unit = (
            "fc"
            if re.search(r"\bfc\b|candle", heading)
            else "klx"
            if "klx" in heading
            else "lx"
            if re.search(r"lx|lux", heading)
            else lights
        )
        return f"{word}_{unit}" if f"{word}_{unit}" in COLUMN_USES else f"{word}_lx"
    return word


def read_rows(
    table: ReadingTable, uses: Sequence[str], start: Reading
) -> tuple[tuple[Reading, ...], tuple[BadRow, ...]]:
    """Readings in the order of the rows, and those that are none. ``start`` holds what no column tells.

    Raises: BadValue where the uses do not name a distance and a level, or one field twice.
    """
    chosen = [COLUMN_USES.get(use) for use in uses]
    if len(chosen) != table.columns or None in chosen:
        raise BadValue("columns", ", ".join(uses)[:60], f"one known use for each of the {table.columns} columns")
    fields = [use.field for use in chosen if use and use.field]
    for needed, word in (("throw_m", "distance"), ("illuminance_lx", "level")):
        if fields.count(needed) != 1:
            raise BadValue(word, f"named for {fields.count(needed)} columns", "exactly one column")
    if len(set(fields)) < len(fields):
        raise BadValue("columns", "one use for several", "each use once")
    good, bad = [], []
    for line, row in zip(table.lines, table.rows, strict=True):
        try:
            changes = {
                use.field: _cell(cell, use) for cell, use in zip(row, chosen, strict=True) if use and use.field and cell
            }
            for needed, word in (("throw_m", "distance"), ("illuminance_lx", "level")):
                if needed not in changes:
                    raise BadValue(word, "missing", "a figure in every row")
            good.append(replace(start, **changes))  # type: ignore[arg-type]
        except BadValue as refused:
            bad.append(BadRow(line=line, reason=str(refused)))
    return tuple(good), tuple(bad)


def _cell(cell: str, use: ColumnUse) -> float | str:
    """One cell in SI; what stands in it with a unit of its own keeps that unit."""
    if use.field in ("meter", "note"):
        return cell
    plain = _ungrouped(cell)
    match use.field:
        case "throw_m" if not _is_bare(plain):
            return parse.length_m(plain, "distance")
        case "illuminance_lx" | "ambient_lx" if not _is_bare(plain):
            return parse.illuminance_lx(parse.with_program_decimals(plain.replace(",", ".")), "level")
    unit = {"setting": "%", "set_cct_k": "K", "cct_k": "K", "watts": "W", "amps": "A"}.get(use.field, "")
    return parse.signed(plain, use.label, unit, is_fine=True) * _SIZES[use.unit]  # a meter's table has decimals


def _is_bare(text: str) -> bool:
    return re.fullmatch(r"[+-]?[\d.,]+(?:[eE][+-]?\d+)?", text) is not None


def _ungrouped(cell: str) -> str:
    """``1,234.5``, ``1.234,5`` and ``1 234`` without their groups; one comma alone is a decimal mark unless three
    digits follow a thousand.
    """
    text = re.sub(r"(?<=\d)[ \u00a0\u202f'](?=\d{3}(?:\D|$))", "", cell)
    if "," in text and "." in text:
        group = "," if text.rindex(",") < text.rindex(".") else "."
        return text.replace(group, "")
    return text.replace(",", "") if re.fullmatch(r"\d{1,3}(,\d{3}){2,}", text) else text
