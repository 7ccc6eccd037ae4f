"""Frozen dataclasses of the core as rows of JSON, by their own fields, and back.

What a field's default is need not stand in the row.
"""

from dataclasses import MISSING, Field, fields, is_dataclass
from datetime import datetime
from enum import StrEnum
from functools import cache
from types import UnionType
from typing import Any, TypeVar, get_args, get_origin, get_type_hints

from iron_bucket.core.errors import BadValue
from iron_bucket.formats.fields import Fields

Record = TypeVar("Record")
Row = dict[str, Any]
#: More entries than any set has; keeps a pasted list out of the arithmetic.
MOST_ENTRIES = 400


def write_record(record: object) -> Row:
    """A row with every field. Times as ISO 8601."""
    return {each.name: written(getattr(record, each.name)) for each in _fields(type(record))}  # type: ignore[arg-type]


def written(value: object) -> Any:
    """One value as JSON has it."""
    if isinstance(value, StrEnum):
        return value.value
    if isinstance(value, datetime):
        return value.isoformat(timespec="auto" if value.second or value.microsecond else "minutes")
    if isinstance(value, tuple):
        return [written(each) for each in value]
    return write_record(value) if is_dataclass(value) else value


def read_record(kind: type[Record], row: object) -> Record:
    """Raises: BadValue for a key that is missing, means nothing, or holds what it cannot."""
    given = Fields(row)  # type: ignore[arg-type]
    hints = _hints(kind)  # type: ignore[arg-type]
    values = {each.name: _read(given, each, hints[each.name]) for each in _fields(kind)}  # type: ignore[arg-type]
    given.done()
    return kind(**values)


@cache
def _fields(kind: type) -> tuple[Field[Any], ...]:
    return tuple(each for each in fields(kind) if each.init)


@cache
def _hints(kind: type) -> dict[str, Any]:
    return get_type_hints(kind)


def _read(given: Fields, each: Field[Any], hint: Any) -> Any:
    if not given.has(each.name) and (each.default is not MISSING or each.default_factory is not MISSING):
        empty = given.word_or_nothing(each.name) if hint is str else None
        if empty is not None:
            return empty
        return each.default if each.default is not MISSING else each.default_factory()  # type: ignore[operator]
    if isinstance(hint, UnionType):  # X | None
        hint = next(part for part in get_args(hint) if part is not type(None))
    if get_origin(hint) is tuple:
        return _tuple(each.name, given.entries(each.name), get_args(hint))
    if is_dataclass(hint):
        return read_record(hint, given.raw(each.name))  # type: ignore[arg-type]
    return _plain(given, each.name, hint)


def _tuple(name: str, entries: list[Any], parts: tuple[Any, ...]) -> tuple[Any, ...]:
    if len(entries) > MOST_ENTRIES:
        raise BadValue(name, f"{len(entries)} entries", f"up to {MOST_ENTRIES}")
    if parts[-1] is Ellipsis:
        return tuple(_entry(name, entry, parts[0]) for entry in entries)
    if len(entries) != len(parts):
        raise BadValue(name, f"{len(entries)} values", f"{len(parts)} values")
    return tuple(_entry(name, entry, part) for entry, part in zip(entries, parts, strict=True))


def _entry(name: str, entry: Any, hint: Any) -> Any:
    if is_dataclass(hint):
        return read_record(hint, entry)  # type: ignore[arg-type]
    if get_origin(hint) is tuple:
        if not isinstance(entry, list):
            raise BadValue(name, repr(entry), "a list")
        return _tuple(name, entry, get_args(hint))
    return _plain(Fields({name: entry}), name, hint)


def _plain(given: Fields, name: str, hint: Any) -> Any:
    if hint is bool:
        return given.yes(name)
    if hint is int:
        return given.whole(name)
    if hint is float:
        return given.number(name)
    if hint is datetime:
        return _time(name, given.word(name))
    if isinstance(hint, type) and issubclass(hint, StrEnum):
        return given.choice(name, hint)
    return given.word(name)


def _time(name: str, text: str) -> datetime:
    try:
        return datetime.fromisoformat(text).replace(tzinfo=None)
    except ValueError:
        raise BadValue(name, repr(text), "a day and time such as 2026-11-24T10:30") from None
