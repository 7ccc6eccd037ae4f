"""A bench as CSV tables, one for each kind of gear: how the demo's gear is kept."""

import csv
from collections.abc import Mapping
from typing import Any

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.errors import BadValue
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.gear_rows import GEAR_KINDS, item_of


def read_gear_tables(tables: Mapping[str, str]) -> Gear:
    """Gear from the texts of CSV tables, by the name of their list. Raises: FormatError with table and line."""
    lists = {}
    for kind, text in tables.items():
        if kind not in GEAR_KINDS:
            raise FormatError(f"table {kind}", None, f"accepted: {', '.join(GEAR_KINDS)}")
        items = []
        for line, row in enumerate(csv.DictReader(text.splitlines()), start=2):
            try:
                items.append(item_of(kind, row))
            except BadValue as bad:
                raise FormatError(f"table {kind}", line, bad) from bad
        lists[kind] = tuple(items)
    made: dict[str, Any] = dict(lists)
    return Gear(**made)
