"""Changes to the bench: noted with how things stood, told as history, undone."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.desk.history import Touch, read_touches, record, step
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.store.bench import stamp_bench
from iron_bucket.store.bucket import plans_with
from iron_bucket.store.history import Around, Scope, ScopeKind, around, changes_told_of

MOST_TOLD = 60


def record_bench(session: Session, person_id: int, slug: str, text: str, touches: Sequence[Touch]) -> None:
    """Note a change, so that it can be told and undone, and tell every process that the bench is another."""
    record(session, _own(person_id), person_id, text, touches, slug=slug)
    stamp_bench(session)


def _own(person_id: int) -> Scope:
    return Scope(ScopeKind.BENCH, person_id)


@one_transaction
def step_bench(session: Session, person_id: int, number: int, *, is_back: bool) -> str:
    """Undo this person's last change that still stands, or do again the last undone; gives its text.

    Raises: ChangedMeanwhile where that is not the last any more, or somebody has changed one of the rows since.
    """
    text = step(session, _own(person_id), person_id, number, is_back=is_back)
    stamp_bench(session)
    return text


@one_transaction
def bench_steps(session: Session, person_id: int) -> Around:
    """What undo and redo would do."""
    return around(session, _own(person_id))


@dataclass(frozen=True, slots=True, kw_only=True)
class FigureChange:
    """One figure: what it was and what it became, as stored; None where it was not there."""

    name: str
    before: object
    after: object


@dataclass(frozen=True, slots=True, kw_only=True)
class ChangeView:
    """One change as a line of history."""

    text: str
    who: str
    made_at: datetime
    is_undone: bool
    figures: tuple[FigureChange, ...]


def history_in(session: Session, slugs: list[str]) -> tuple[ChangeView, ...]:
    """What was done to some pieces, newest first."""
    told = changes_told_of(session, slugs, MOST_TOLD)
    touched = read_touches(session, [row for row, _ in told])
    return tuple(
        ChangeView(
            text=row.text,
            who=who,
            made_at=row.made_at,
            is_undone=row.undone_at is not None,
            figures=tuple(
                figure
                for touch in touched[row.id]
                if touch["table"] == "gear"
                for figure in _figures(touch.get("before"), touch.get("after"))
            ),
        )
        for row, who in told
    )


def _figures(before: dict[str, Any] | None, after: dict[str, Any] | None) -> list[FigureChange]:
    """The figures that differ; none where a whole piece was made or taken away."""
    if before is None or after is None:
        return []
    old, new = before["item"], after["item"]
    return [
        FigureChange(name=name, before=old.get(name), after=new.get(name))
        for name in sorted({*old, *new})
        if old.get(name) != new.get(name) and name != "table"
    ]


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanView:
    """A job whose bucket holds a piece, and the figures in which the piece has changed since it went in."""

    job_id: int
    name: str
    changed: tuple[FigureChange, ...]


def plans_in(session: Session, person_id: int, items: dict[str, dict[str, Any]]) -> tuple[PlanView, ...]:
    """This person's plans that use some pieces. ``items``: how each stands now, by slug."""
    found: dict[int, PlanView] = {}
    for number, name, item in plans_with(session, person_id, list(items)):
        changed = _figures({"item": item}, {"item": items[item["slug"]]})
        known = found.get(number)
        found[number] = PlanView(job_id=number, name=name, changed=(*(known.changed if known else ()), *changed))
    return tuple(found.values())
