"""Whole tables, a row after the other, for what looks after an installation."""

from collections.abc import Iterator
from typing import Any

from sqlalchemy import inspect, select
from sqlalchemy.orm import Session

from iron_bucket.store.history import ChangeRow
from iron_bucket.store.states import StateRow


def rows_in_turn(session: Session, kind: type) -> Iterator[tuple[Any, Any]]:
    """Every row of a table with its key, a few hundred in memory at a time."""
    key: Any = inspect(kind).primary_key[0]
    row: Any
    for row in session.scalars(select(kind).order_by(key).execution_options(yield_per=200)):
        yield getattr(row, key.name), row


def missing_states(session: Session) -> Iterator[tuple[int, str]]:
    """Entries of the history that name a state which is not kept, with its digest."""
    kept = set(session.scalars(select(StateRow.digest)))
    for number, touched in session.execute(select(ChangeRow.id, ChangeRow.touched)):
        for touch in touched:
            for end in ("before", "after"):
                digest = touch.get(end)
                if isinstance(digest, str) and digest not in kept:
                    yield number, digest
