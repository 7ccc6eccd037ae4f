"""Begin, stop and read the search for the best kit of a job."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from enum import StrEnum
from typing import Any
from uuid import uuid4

from sqlalchemy.orm import Session

from iron_bucket.core.bucket.best.problem import Goal, Measure
from iron_bucket.desk.bucket.view import BucketView, bucket_view
from iron_bucket.desk.jobs import lock_job, require_job
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.store.best_kits import BestKitRow

#: A process that was not heard of for so long is gone.
_SILENT = timedelta(seconds=20)


class SearchState(StrEnum):
    """How a search stands."""

    RUNNING = "running"
    DONE = "done"
    STOPPED = "stopped"
    FAILED = "failed"


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Search:
    """``result``: what ``findings`` wrote, empty until it is done. ``is_outdated``: set-ups were changed since."""

    run: str
    state: SearchState
    goal: Goal
    progress: str
    share: float
    begun_at: datetime
    result: dict[str, Any] = field(default_factory=dict)
    is_outdated: bool = False


def goal_row(goal: Goal) -> dict[str, Any]:
    """As it is stored."""
    return {"weights": _written(goal.weights), "caps": _written(goal.caps)}


def _written(figures: Mapping[Measure, float]) -> dict[str, float]:
    return {measure.value: figure for measure, figure in figures.items()}


def goal_of(row: dict[str, Any]) -> Goal:
    """As it was stored."""
    weights, caps = ({Measure(key): value for key, value in row[name].items()} for name in ("weights", "caps"))
    return Goal(weights=weights, caps=caps)


@one_transaction
def begin_search(session: Session, person_id: int, job_id: int, goal: Goal) -> str:
    """Instead of the one before; gives what it is known by to whoever works on it. Raises: NotFound."""
    lock_job(session, person_id, job_id)
    row = session.get(BestKitRow, job_id)
    if row is None:
        row = BestKitRow(job_id=job_id)
        session.add(row)
    row.run, row.state, row.goal = str(uuid4()), SearchState.RUNNING, goal_row(goal)
    row.progress, row.share, row.result, row.begun_at, row.seen_at = "starting", 0.0, {}, now(), now()
    return row.run


@one_transaction
def stop_search(session: Session, person_id: int, job_id: int) -> None:
    """It ends at once, and nothing of it is kept. Raises: NotFound."""
    require_job(session, person_id, job_id)
    row = session.get(BestKitRow, job_id, with_for_update=True)
    if row is not None and row.state == SearchState.RUNNING:
        row.state, row.progress = SearchState.STOPPED, ""


@one_transaction
def open_search(session: Session, person_id: int, job_id: int) -> tuple[BucketView, Search | None]:
    """The bucket, and the newest search; None before the first. Raises: NotFound."""
    view = bucket_view(session, require_job(session, person_id, job_id))
    row = session.get(BestKitRow, job_id)
    return view, None if row is None else _search(row, view)


def _search(row: BestKitRow, view: BucketView) -> Search:
    state = SearchState(row.state)
    if state is SearchState.RUNNING and now() - row.seen_at > _SILENT:
        state = SearchState.FAILED
    return Search(
        run=row.run,
        state=state,
        goal=goal_of(row.goal),
        progress=row.progress,
        share=row.share,
        begun_at=row.begun_at,
        result=row.result,
        is_outdated=bool(row.result) and row.result["versions"] != versions_of(view),
    )


def versions_of(view: BucketView) -> dict[str, int]:
    """Of each set-up, as a document keeps it."""
    return {str(row.id): row.version for row in view.contents.setups}
