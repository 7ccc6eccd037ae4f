"""A hire house's price list or offer as CSV: what it is, a day, perhaps a week, how many there are, notice, least
days.
"""

import csv
import re
from dataclasses import dataclass

from iron_bucket.core.errors import BadValue
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.text_file import lines_of

WHAT = "price list"
MOST_ROWS = 20_000
_COLUMNS = {
    "item": r"slug|code|item|article|name|what|description",
    "day_price": r"day|daily|rate|price",
    "week_price": r"week",
    "hire_stock": r"stock|in store|available",
    "lead_days": r"notice|lead",
    "least_days": r"minimum|least",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Price:
    """``item`` is a slug or a name as the list has it."""

    line: int
    item: str
    day_price: float
    week_price: float | None
    hire_stock: int | None = None
    lead_days: int | None = None
    least_days: int | None = None


def read_price_list(data: bytes) -> tuple[Price, ...]:
    """Every row. Raises: FormatError with the line: a price list with a bad row is not taken in half."""
    lines = lines_of(data, WHAT)
    if len(lines) > MOST_ROWS:
        raise FormatError(WHAT, None, f"{len(lines):,} lines; accepted: up to {MOST_ROWS:,}")
    delimiter = max((";", "\t", ","), key=lines[0].count)
    try:
        rows = list(csv.reader(lines, delimiter=delimiter))
    except csv.Error as bad:
        raise FormatError("price list", None, bad) from bad
    places = _places(rows[0])
    prices = []
    for line, row in enumerate(rows[1:], start=2):
        if any(cell.strip() for cell in row):
            prices.append(_price(line, row, places))
    if not prices:
        raise FormatError(WHAT, 2, "there is no row under the headings")
    return tuple(prices)


def _places(headings: list[str]) -> dict[str, int]:
    """Column of each figure: by its very name first, then by what it is like; weeks before days, because "week rate"
    holds a rate too.
    """
    plain = [heading.strip().lower() for heading in headings]
    places = {column: plain.index(column) for column in _COLUMNS if column in plain}
    for column in ("week_price", "hire_stock", "lead_days", "least_days", "item", "day_price"):
        for place, heading in enumerate(plain):
            if column not in places and place not in places.values() and re.search(_COLUMNS[column], heading):
                places[column] = place
    for column, word in (("item", "item"), ("day_price", "day_price")):
        if column not in places:
            raise FormatError(WHAT, 1, f"no column is headed {word}; accepted: item, day_price and perhaps week_price")
    return places


def _price(line: int, row: list[str], places: dict[str, int]) -> Price:
    cells = {column: row[place].strip() if place < len(row) else "" for column, place in places.items()}
    try:
        if not cells["item"]:
            raise BadValue("item", "missing", "a slug or a name")
        return Price(
            line=line,
            item=cells["item"],
            day_price=_money(cells["day_price"], "day_price"),
            week_price=_money(cells["week_price"], "week_price") if cells.get("week_price") else None,
            hire_stock=_whole(cells.get("hire_stock", ""), "hire_stock", 9999),
            lead_days=_whole(cells.get("lead_days", ""), "lead_days", 60),
            least_days=_whole(cells.get("least_days", ""), "least_days", 60),
        )
    except BadValue as bad:
        raise FormatError(WHAT, line, bad) from bad


def _money(text: str, field: str) -> float:
    found = re.fullmatch(r"[^\d-]{0,4}?(\d{1,7}(?:[.,]\d{1,2})?)\s*\D{0,4}", text)
    if not found:
        raise BadValue(field, repr(text), "an amount such as 42 or 42.50")
    return float(found[1].replace(",", "."))


def _whole(text: str, field: str, most: int) -> int | None:
    if not text:
        return None
    if not text.isdecimal() or int(text) > most:
        raise BadValue(field, repr(text), f"a whole number up to {most}")
    return int(text)
