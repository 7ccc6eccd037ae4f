"""How often something may be asked for: counted in the database, so that every process counts together."""

import hashlib
from collections.abc import Mapping
from datetime import datetime, timedelta

from sqlalchemy.orm import Session

from iron_bucket.desk.errors import TooManyTries
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.store.sign_ins import count_tries, forget_tries

_EPOCH = datetime(1970, 1, 1)


@one_transaction
def take_turn(session: Session, most: Mapping[str, int], window: timedelta) -> None:
    """One more for each subject within its window of time. Raises: TooManyTries past the most of any."""
    at = now()
    since = at - (at - _EPOCH) % window
    counts = count_tries(session, [_digest(subject) for subject in most], since)
    if any(count > limit for count, limit in zip(counts, most.values(), strict=True)):
        raise TooManyTries(max(1, round((since + window - at).total_seconds())))


def forget_turns(session: Session, *subjects: str) -> None:
    """Begin anew, within an open transaction."""
    forget_tries(session, [_digest(subject) for subject in subjects])


def _digest(subject: str) -> str:
    return hashlib.sha256(subject.encode("utf-8", "replace")).hexdigest()
