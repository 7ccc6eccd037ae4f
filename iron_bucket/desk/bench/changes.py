"""Changes to the bench: noted with how things stood, told as history, undone."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.desk.errors import ChangedMeanwhile
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.store.bench import stamp_bench
from iron_bucket.store.bench_changes import (
    BenchChangeRow,
    changes_of,
    last_bench_change,
    plans_with,
    put_back,
    state_of,
)

MOST_TOLD = 60


@dataclass(frozen=True, slots=True, kw_only=True)
class Touch:
    """One row that a change touched: its table and key, and how it stood before and after. None: it was not there."""

    table: str
    key: str | int
    before: dict[str, Any] | None
    after: dict[str, Any] | None


def record_bench(session: Session, person_id: int, slug: str, text: str, touches: Sequence[Touch]) -> None:
    """Note a change, so that it can be told and undone, and tell every process that the bench is another."""
    session.add(
        BenchChangeRow(
            person_id=person_id,
            slug=slug,
            text=text[:300],
            touched=[
                {"table": each.table, "key": each.key, "before": each.before, "after": each.after} for each in touches
            ],
            made_at=now(),
        )
    )
    stamp_bench(session)


@one_transaction
def undo_bench(session: Session, person_id: int) -> str | None:
    """Undo this person's last change that still stands; gives what it was, None where there is none.

    Raises: ChangedMeanwhile where somebody has changed one of the rows since.
    """
    change = last_bench_change(session, person_id)
    if change is None:
        return None
    for touch in reversed(change.touched):
        if state_of(session, touch["table"], touch["key"]) != touch["after"]:
            raise ChangedMeanwhile(f"“{change.text}” cannot be undone: somebody has changed the same thing since")
        put_back(session, touch["table"], touch["key"], touch["before"], now())
    change.undone_at = now()
    stamp_bench(session)
    return change.text


@one_transaction
def undo_text(session: Session, person_id: int) -> str | None:
    """What undoing would undo."""
    change = last_bench_change(session, person_id)
    return change.text if change else None


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
    return tuple(
        ChangeView(
            text=row.text,
            who=who,
            made_at=row.made_at,
            is_undone=row.undone_at is not None,
            figures=tuple(
                figure
                for touch in row.touched
                if touch["table"] == "gear"
                for figure in _figures(touch["before"], touch["after"])
            ),
        )
        for row, who in changes_of(session, slugs, MOST_TOLD)
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
