"""Take over what a search found: all of it or of one set-up, undone with the job in one step."""

from collections.abc import Sequence
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.desk.bucket.best.search import SearchState
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.desk.history import Touch, record
from iron_bucket.desk.jobs import lock_job
from iron_bucket.desk.setups.edit import put_changes
from iron_bucket.desk.setups.view import get_setup, opened_setup
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.store.best_kits import BestKitRow
from iron_bucket.store.history import Scope, ScopeKind
from iron_bucket.store.jobs import JobRow

Row = dict[str, Any]


@one_transaction
def apply_way(session: Session, person_id: int, job_id: int, run: str, way: str, setup_id: int | None = None) -> int:
    """The lamps of a way, of one set-up or of all; gives how many set-ups changed.

    Raises: NotFound; BadValue; ChangedMeanwhile where a lamp does not stand as it did, or another search was begun.
    """
    job = lock_job(session, person_id, job_id)
    asked = session.get(BestKitRow, job_id)
    if asked is None or asked.run != run or asked.state != SearchState.DONE:
        raise ChangedMeanwhile("another search was started meanwhile; here it is")
    found = next((each for each in asked.result["ways"] if each["name"] == way and not each["refused"]), None)
    if found is None:
        raise NotFound("that search has no such way")
    changes = [each for each in found["changes"] if setup_id is None or each["setup_id"] == setup_id]
    return put_lamps(session, job, person_id, changes, f"applied the best choice ({way}) to")


def put_lamps(session: Session, job: JobRow, person_id: int, changes: Sequence[Row], words: str) -> int:
    """Lamps of any set-ups of a locked job, in one step; gives how many set-ups changed.

    Raises: BadValue; ChangedMeanwhile where a lamp does not stand as it did.
    """
    by_setup: dict[int, list[Row]] = {}
    for each in changes:
        row = {"operation": "set", "where": "lamps", "piece_id": each["piece_id"], "to": each["to"]}
        by_setup.setdefault(each["setup_id"], []).append(row | {"was": each["was"]})
    touches: list[Touch] = []
    for number, rows in sorted(by_setup.items()):
        opened = opened_setup(session, job, get_setup(session, job.id, number, locked=True))
        touches.append(put_changes(opened, rows)[0])
    if touches:
        job.version, job.changed_at = job.version + 1, now()
        many = "one set-up" if len(touches) == 1 else f"{len(touches)} set-ups"
        record(session, Scope(ScopeKind.JOB, job.id), person_id, f"{words} {many}", touches)
    return len(touches)
