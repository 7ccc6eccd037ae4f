"""A reading as one flat row and back: in the database, in JSON and as CSV."""

from datetime import UTC, datetime
from typing import Any

from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.errors import BadValue
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.item_rows import Row

_TEXTS = ("modifier_slug", "frame_slug", "unit_slug", "meter", "note")
_PERHAPS = ("head_to_frame_m", "set_cct_k", "set_tint", "cct_k", "duv", "ra", "r9", "watts", "amps")


def reading_of(fields: Fields) -> Reading:
    """One reading. Raises: BadValue."""
    others: dict[str, Any] = {key: fields.word(key, "") for key in _TEXTS}
    others |= {key: fields.perhaps(key) for key in _PERHAPS}
    return Reading(
        configuration_slug=fields.word("configuration_slug"),
        throw_m=fields.number("throw_m"),
        illuminance_lx=fields.number("illuminance_lx"),
        setting=fields.number("setting", 1.0),
        ambient_lx=fields.number("ambient_lx", 0.0),
        aside_m=fields.number("aside_m", 0.0),
        taken_at=_time(fields.word("taken_at", "")),
        **others,
    )


def _time(text: str) -> datetime | None:
    if not text:
        return None
    try:
        found = datetime.fromisoformat(text)
    except ValueError:
        raise BadValue("taken_at", repr(text), "a time such as 2026-10-12T14:30:00+00:00") from None
    return found.astimezone(UTC) if found.tzinfo else found.replace(tzinfo=UTC)


def reading_row(reading: Reading) -> Row:
    """The same as a row; what was not read is left out."""
    row: Row = {
        "configuration_slug": reading.configuration_slug,
        "throw_m": reading.throw_m,
        "illuminance_lx": reading.illuminance_lx,
    }
    for key, usual in (("setting", 1.0), ("ambient_lx", 0.0), ("aside_m", 0.0)):
        if getattr(reading, key) != usual:
            row[key] = getattr(reading, key)
    for key in (*_TEXTS, *_PERHAPS):
        if getattr(reading, key) not in ("", None):
            row[key] = getattr(reading, key)
    if reading.taken_at is not None:
        row["taken_at"] = reading.taken_at.isoformat()
    return row
