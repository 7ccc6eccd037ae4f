"""A whole bench as one JSON text, and back. The format is described in docs/gear-format.md."""

import json
from typing import Any

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.errors import BadValue
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.gear_rows import GEAR_KINDS, item_of

FORMAT = "iron-bucket gear"
VERSION = 1
GEAR_LIMIT_BYTES = 64_000_000


def parsed_json(text: str, what: str, limit_bytes: int = GEAR_LIMIT_BYTES) -> Any:
    """JSON without the numbers that JSON does not have. Raises: FormatError with the line."""
    if len(text) > limit_bytes:
        raise FormatError(what, None, f"the file has {len(text):,} letters; accepted: up to {limit_bytes:,}")
    try:
        return json.loads(text, parse_constant=_no_constant)
    except json.JSONDecodeError as bad:
        raise FormatError(what, bad.lineno, bad.msg) from bad
    except (ValueError, RecursionError) as bad:
        raise FormatError(what, None, bad) from bad


def _no_constant(name: str) -> None:
    raise ValueError(f"{name} is no number of this world")


def read_gear(text: str) -> Gear:
    """Gear from JSON. Raises: FormatError that names the list, the entry and the value."""
    document = parsed_json(text, "gear file")
    try:
        fields = Fields(document)
        if fields.word("format", FORMAT) != FORMAT or fields.whole("version", VERSION) != VERSION:
            raise BadValue("format", fields.word("format", FORMAT), f"{FORMAT!r}, version {VERSION}")
        lists = {kind: _items(kind, fields.entries(kind)) for kind in GEAR_KINDS}
        fields.done()
        return Gear(**lists)
    except BadValue as bad:
        raise FormatError("gear file", None, bad) from bad


def _items(kind: str, entries: list[Any]) -> tuple[Any, ...]:
    items = []
    for place, entry in enumerate(entries, start=1):
        try:
            items.append(item_of(kind, entry))
        except BadValue as bad:
            raise FormatError("gear file", None, f"{GEAR_KINDS[kind].noun} {place} of {kind}: {bad}") from bad
    return tuple(items)


def gear_json(gear: Gear) -> dict[str, Any]:
    """Gear as a JSON object: what ``read_gear`` reads back without loss."""
    return {
        "format": FORMAT,
        "version": VERSION,
        **{kind: [each.write(item) for item in getattr(gear, kind)] for kind, each in GEAR_KINDS.items()},
    }
