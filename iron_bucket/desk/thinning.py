"""Old history thinned: every state of the last 90 days stays, of older days the last one of each thing."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import timedelta

from sqlalchemy.orm import Session

from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.store.history import entries_before, last_of_each_day, thin_out, touched_by_all
from iron_bucket.store.states import drop_states

KEPT_FOR = timedelta(days=90)


@dataclass(frozen=True, slots=True, kw_only=True)
class Thinned:
    """How many entries and states went."""

    entries: int
    states: int


@one_transaction
def thin_history(session: Session) -> Thinned:
    """What is older than 90 days can be brought back day by day, no longer step by step."""
    until = now() - KEPT_FOR
    kept = last_of_each_day(session, until)
    gone = [number for number in entries_before(session, until) if number not in kept]
    thin_out(session, gone, until)
    return Thinned(entries=len(gone), states=drop_states(session, set(_digests(session))))


def _digests(session: Session) -> Iterator[str]:
    for touched in touched_by_all(session):
        for touch in touched:
            yield from (touch[end] for end in ("before", "after") if isinstance(touch.get(end), str))
