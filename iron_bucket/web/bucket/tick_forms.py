"""Ticks as a phone sends them."""

from typing import Any

from iron_bucket.core.bucket.ticks import Tick
from iron_bucket.core.errors import BadValue
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.json_text import parsed_json
from iron_bucket.formats.record_json import read_record

_LIMIT_LETTERS = 400_000


def read_ticks(form: Any) -> list[Tick]:
    """A list of them as JSON. Raises: BadValue."""
    try:
        rows = parsed_json(form.get("ticks", ""), "ticks", _LIMIT_LETTERS)
    except FormatError as bad:
        raise BadValue("ticks", "no JSON", "a list of ticks") from bad
    if not isinstance(rows, list):
        raise BadValue("ticks", repr(rows)[:60], "a list of ticks")
    return [read_record(Tick, row) for row in rows]
