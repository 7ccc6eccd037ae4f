"""A change to a set-up as a value: what a way out proposes, what a hand does, and what undoes it."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum
from typing import Any

from iron_bucket.core.errors import BadValue
from iron_bucket.core.setups.plan.setup import LISTS, Setup


class Operation(StrEnum):
    SET = "set"
    ADD = "add"
    REMOVE = "remove"


@dataclass(frozen=True, slots=True, kw_only=True)
class Change:
    """``where``: one of the lists of a set-up, or ``look``, ``camera``, ``setup`` for its own fields; ``piece_id`` of
    a piece in a list.

    ``to``: fields and values; of an added piece all that has no default. A whole piece, where it is at hand, stands in
    ``piece``.
    """

    operation: Operation
    where: str
    piece_id: str = ""
    to: Mapping[str, Any] = field(default_factory=dict)
    piece: Any = None


def set_piece(where: str, piece_id: str, **to: Any) -> Change:
    """Some fields of one piece."""
    return Change(operation=Operation.SET, where=where, piece_id=piece_id, to=to)


def set_look(**to: Any) -> Change:
    """Some fields of the look."""
    return Change(operation=Operation.SET, where="look", to=to)


def added(where: str, piece: Any) -> Change:
    """One more piece."""
    return Change(operation=Operation.ADD, where=where, piece_id=piece.piece_id, piece=piece)


def changed(setup: Setup, changes: Iterable[Change]) -> Setup:
    """The set-up after some changes. Raises: BadValue for a piece that is not there, is there already, or is locked."""
    for change in changes:
        setup = _one(setup, change)
    return setup


def _one(setup: Setup, change: Change) -> Setup:
    if change.where == "setup":
        return replace(setup, **change.to)
    if change.where in ("look", "camera"):
        inner: dict[str, Any] = {change.where: replace(getattr(setup, change.where), **change.to)}
        return replace(setup, **inner)
    if change.where not in LISTS:
        raise BadValue("where", repr(change.where), ", ".join((*LISTS, "look", "camera", "setup")))
    pieces: tuple[Any, ...] = getattr(setup, change.where)
    if change.operation is Operation.ADD:
        kept = (*pieces, change.piece)
    else:
        old = next((each for each in pieces if each.piece_id == change.piece_id), None)
        if old is None:
            raise BadValue("piece", repr(change.piece_id), f"one of the {change.where} of this set-up")
        kept = tuple(
            replace(each, **change.to) if each is old else each
            for each in pieces
            if not (each is old and change.operation is Operation.REMOVE)
        )
    lists: dict[str, Any] = {change.where: kept}
    return replace(setup, **lists)


def next_id(setup: Setup, stem: str) -> str:
    """An id nobody has, such as ``lamp-4``."""
    taken = {each.piece_id for name in LISTS for each in getattr(setup, name)}
    number = 1
    while f"{stem}-{number}" in taken:
        number += 1
    return f"{stem}-{number}"
