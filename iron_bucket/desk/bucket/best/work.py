"""Work on a search that was begun, in a process of its own: it tells how far it is, and ends when it was stopped."""

import logging
import os
import threading
import time

from sqlalchemy import Engine
from sqlalchemy.orm import Session

from iron_bucket.core.errors import NoAnswer
from iron_bucket.desk.bench.shelf import shelf_in
from iron_bucket.desk.bucket.best.findings import findings
from iron_bucket.desk.bucket.best.search import SearchState, goal_of
from iron_bucket.desk.bucket.view import bucket_view
from iron_bucket.desk.transaction import now
from iron_bucket.store.best_kits import BestKitRow, put_progress
from iron_bucket.store.crews import enter_crew
from iron_bucket.store.jobs import JobRow

_LOG = logging.getLogger(__name__)
#: How often it is looked whether somebody stopped it, and how often its progress is written.
_LOOK_S, _TELL_S = 0.5, 0.3


def work_on(engine: Engine, job_id: int, run: str) -> None:
    """All of it; what comes out, or why nothing does, is written down."""
    told = [0.0]

    def tell(words: str, share: float) -> None:
        if time.monotonic() - told[0] > _TELL_S:
            told[0] = time.monotonic()
            _put(engine, job_id, run, progress=words, share=share, seen_at=now())

    try:
        with Session(engine) as session, session.begin():
            job, asked = session.get(JobRow, job_id), session.get(BestKitRow, job_id)
            if job is None or asked is None or asked.run != run:
                return
            enter_crew(session, job.crew_id)
            found = findings(bucket_view(session, job), shelf_in(session).packed, goal_of(asked.goal), tell)
        _put(engine, job_id, run, state=SearchState.DONE, result=found, progress="", share=1.0)
    except NoAnswer as none:
        _put(engine, job_id, run, state=SearchState.FAILED, progress=str(none)[:200])
    except Exception:
        _LOG.exception("the search for the best kit of job %s broke off", job_id)
        _put(engine, job_id, run, state=SearchState.FAILED, progress="The search broke off. Start it again.")


def _put(engine: Engine, job_id: int, run: str, **values: object) -> bool:
    with Session(engine) as session, session.begin():
        return put_progress(session, job_id, run, SearchState.RUNNING, **values)


def watch(engine: Engine, job_id: int, run: str) -> None:
    """End this process as soon as the search is stopped or another one begun: a solver at work does not listen."""

    def look() -> None:
        while _put(engine, job_id, run, seen_at=now()):
            time.sleep(_LOOK_S)
        os._exit(0)

    threading.Thread(target=look, daemon=True).start()
