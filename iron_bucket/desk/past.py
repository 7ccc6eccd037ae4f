"""What was done to a job, a place or a crew's bench, by whom, for as long as it is kept; and any of it brought back."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy.orm import Session

from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.history import bring_back
from iron_bucket.desk.jobs import lock_job, require_job
from iron_bucket.desk.places import get_place
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.store.bench import stamp_bench
from iron_bucket.store.history import ChangeRow, EntryKind, Scope, ScopeKind, entries_of, entry_in
from iron_bucket.store.setups import setup_names

PAGE = 60
_OF_JOB = {ScopeKind.JOB: "job and bucket", ScopeKind.POWER: "power", ScopeKind.DAYS: "days"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Entry:
    """One thing that was done. ``where`` says of what part; ``can_return``: how it stood then can be brought back."""

    number: int
    made_at: datetime
    who: str
    text: str
    where: str
    kind: EntryKind
    is_undone: bool
    can_return: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Past:
    """Newest first, a page of it; ``earlier``: from where the next page goes on, None at the end."""

    name: str
    entries: tuple[Entry, ...]
    earlier: int | None


def _past(session: Session, name: str, scopes: Sequence[Scope], words: dict[Scope, str], before: int | None) -> Past:
    rows = entries_of(session, scopes, before=before, most=PAGE)
    entries = tuple(
        Entry(
            number=row.id,
            made_at=row.made_at,
            who=who,
            text=row.text,
            where=words.get(Scope(ScopeKind(row.scope), row.scope_number), ""),
            kind=EntryKind(row.kind),
            is_undone=row.undone_at is not None,
            can_return=any("after" in touch for touch in row.touched),
        )
        for row, who in rows
    )
    return Past(name=name, entries=entries, earlier=rows[-1][0].id if len(rows) == PAGE else None)


def _scopes_of_job(session: Session, job_id: int) -> dict[Scope, str]:
    found = {Scope(kind, job_id): word for kind, word in _OF_JOB.items()}
    return found | {Scope(ScopeKind.SETUP, number): name for number, name in setup_names(session, job_id).items()}


@one_transaction
def past_of_job(session: Session, person_id: int, job_id: int, before: int | None = None) -> Past:
    """Of the job, its bucket, power, days and set-ups. Raises: NotFound."""
    row = require_job(session, person_id, job_id)
    words = _scopes_of_job(session, job_id)
    return _past(session, row.name, tuple(words), words, before)


@one_transaction
def past_of_place(session: Session, place_id: int, before: int | None = None) -> Past:
    """Of a place of the crew that the session works for. Raises: NotFound."""
    return _past(session, get_place(session, place_id).name, (Scope(ScopeKind.PLACE, place_id),), {}, before)


@one_transaction
def past_of_bench(session: Session, before: int | None = None) -> Past:
    """Of the bench of the crew that the session works for, by everybody."""
    return _past(session, "Bench", (), {}, before)


def _entry(session: Session, scopes: Sequence[Scope], number: int) -> ChangeRow:
    entry = entry_in(session, scopes, number)
    if entry is None or not entry.touched:
        raise NotFound("there is no such change to go back to")
    return entry


@one_transaction
def return_job_to(session: Session, person_id: int, job_id: int, number: int) -> str:
    """Make what an entry touched as it stood after it; gives its text. Raises: NotFound, BadValue."""
    lock_job(session, person_id, job_id)
    entry = _entry(session, tuple(_scopes_of_job(session, job_id)), number)
    return bring_back(session, Scope(ScopeKind(entry.scope), entry.scope_number), person_id, entry)


@one_transaction
def return_place_to(session: Session, person_id: int, place_id: int, number: int) -> str:
    """The same for a place."""
    get_place(session, place_id, locked=True)
    scope = Scope(ScopeKind.PLACE, place_id)
    return bring_back(session, scope, person_id, _entry(session, (scope,), number))


@one_transaction
def return_bench_to(session: Session, person_id: int, number: int) -> str:
    """The same for the bench, whoever made the change."""
    text = bring_back(session, Scope(ScopeKind.BENCH, person_id), person_id, _entry(session, (), number))
    stamp_bench(session)
    return text
