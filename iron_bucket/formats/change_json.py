"""Changes to a place or a set-up as rows of JSON: ``{"operation", "where", "piece_id", "to", "was"}``.

``where`` names one of the lists of the document, or one of its inner objects, or is empty for its own fields. ``was``
holds what the fields stood at
when the change was made; where one of them stands otherwise now, somebody else has changed it meanwhile.
"""

import math
from collections.abc import Iterable, Sequence
from typing import Any

from iron_bucket.core.errors import BadValue
from iron_bucket.core.setups.plan.changes import Change, Operation
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.record_json import Row, write_record, written

MOST_CHANGES = 200
#: The field that names a piece, by list, where it is not ``piece_id``.
ID_FIELDS = {
    "rooms": "room_id",
    "openings": "opening_id",
    "house_lamps": "lamp_id",
    "circuits": "name",
    "sockets": "socket_id",
    "kit_areas": "area_id",
    "readings": "reading_id",
    "surfaces": "name",
}


class Outdated(Exception):
    """Somebody else changed the same field; the text says which and how it stands now."""


def change_row(change: Change) -> Row:
    """A change of the core as a row."""
    to = (
        write_record(change.piece)
        if change.piece is not None
        else {name: written(value) for name, value in change.to.items()}
    )
    where = "" if change.where == "setup" else change.where
    return {"operation": change.operation.value, "where": where, "piece_id": change.piece_id, "to": to}


def with_changes(document: Row, rows: object) -> Row:
    """A document after some changes; the one that was given stays as it is.

    Raises: BadValue for a row that is none, or a piece that is not there; Outdated for a field that stands otherwise
        by now.
    """
    if not isinstance(rows, list) or not 1 <= len(rows) <= MOST_CHANGES:
        raise BadValue("changes", repr(rows), f"a list of 1 to {MOST_CHANGES} changes")
    for row in rows:
        document = _with(document, Fields(row))
    return document


def _with(document: Row, given: Fields) -> Row:
    operation, where, piece_id = (
        given.choice("operation", Operation),
        given.word("where", ""),
        given.word("piece_id", ""),
    )
    to = given.raw("to") if given.has("to") else {}
    was = given.raw("was") if given.has("was") else {}
    given.done()
    if not isinstance(to, dict) or not isinstance(was, dict):
        raise BadValue("to", repr(to), "an object with named values")
    if not where:
        _require_unchanged(document, was, "the set-up")
        return document | to
    there = document.get(where)
    if isinstance(there, dict):
        _require_unchanged(there, was, where)
        return document | {where: there | to}
    if there is not None and not isinstance(there, list):
        raise BadValue("where", repr(where), "the name of a list or an object of the document")
    return document | {where: _in_list(there or [], where, operation, piece_id, to, was)}


def _in_list(pieces: Sequence[Row], where: str, operation: Operation, piece_id: str, to: Row, was: Row) -> list[Row]:
    key = ID_FIELDS.get(where, "piece_id")
    if operation is Operation.ADD:
        return [*pieces, to]
    at = next((at for at, piece in enumerate(pieces) if isinstance(piece, dict) and piece.get(key) == piece_id), None)
    if at is None:
        raise Outdated(f"{piece_id or 'that piece'} is no longer there")
    if operation is Operation.REMOVE:
        return [piece for place, piece in enumerate(pieces) if place != at]
    _require_unchanged(pieces[at], was, str(pieces[at].get("name", piece_id)))
    return [piece | to if place == at else piece for place, piece in enumerate(pieces)]


def _require_unchanged(now: Row, was: Row, name: str) -> None:
    for field, value in was.items():
        if field in now and not _alike(now[field], value):
            raise Outdated(f"{field.replace('_', ' ')} of {name} was changed meanwhile: it is {now[field]} now")


def _alike(one: Any, other: Any) -> bool:
    if isinstance(one, (int, float)) and isinstance(other, (int, float)):
        return math.isclose(one, other, abs_tol=1e-6)
    return bool(one == other)


def summary(rows: Iterable[Row], names: dict[str, str]) -> str:
    """What some changes do, in a few words, for the list that is undone from. ``names``: of pieces by id."""
    found: list[str] = []
    for row in rows:
        to: Row = row.get("to") or {}
        name = names.get(
            str(row.get("piece_id") or to.get("piece_id", "")), str(to.get("name") or row.get("where") or "it")
        )
        match row.get("operation"):
            case Operation.ADD.value:
                words = f"added {to.get('name') or name}"
            case Operation.REMOVE.value:
                words = f"removed {name}"
            case _:
                words = f"{_verb(tuple(to))} {name}"
        if words not in found:
            found.append(words)
    more = f" and {len(found) - 3} more" if len(found) > 3 else ""
    return (", ".join(found[:3]) + more)[:280] or "changed nothing"


#: What a field is called where its own name is no word of the crew's.
_FIELD_WORDS = {"z_m": "height", "height_m": "height", "cct_k": "colour", "is_locked": "lock", "piece_id": "id"}


def _verb(fields: tuple[str, ...]) -> str:
    names = set(fields)
    if names == {"z_m"}:
        return "changed the height of"
    if names and names <= {"x_m", "y_m", "z_m"}:
        return "moved"
    if names and names <= {"bearing_deg", "tilt_deg", "aims_at"}:
        return "turned"
    if names == {"level"}:
        return "dimmed"
    if names == {"is_on"}:
        return "switched"
    if len(fields) == 1:
        plain = fields[0].removesuffix("_m").removesuffix("_k").removesuffix("_mm").replace("_", " ")
        return f"changed the {_FIELD_WORDS.get(fields[0], plain)} of"
    return "changed"
