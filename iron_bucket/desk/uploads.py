"""Large files taken in beside the pages: begun, worked on in a process of its own, looked at meanwhile."""

import logging
import threading
from dataclasses import dataclass
from datetime import timedelta
from enum import StrEnum
from typing import IO

from sqlalchemy import Engine
from sqlalchemy.orm import Session

from iron_bucket.core.errors import BadValue
from iron_bucket.desk.bench.transfer import import_bench
from iron_bucket.desk.counted import Tell, to_nobody
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.desk.job_transfer import import_job
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.formats.errors import FormatError
from iron_bucket.store.crews import crew_of, enter_crew
from iron_bucket.store.uploads import UploadRow, put_upload

#: What takes longer than two seconds is larger than this.
SMALL_BYTES = 1_000_000
_LOG = logging.getLogger(__name__)
#: How often it is told how far it is; a process that was not heard of for so long is gone.
_TELL_S, _SILENT = 1.0, timedelta(seconds=20)
#: Of the whole, what is done once it has been read, and once every piece is taken in.
_READ, _TAKEN = 0.3, 0.9


class UploadKind(StrEnum):
    """What a file is."""

    BENCH = "bench"
    JOB = "job"


class UploadState(StrEnum):
    """How it stands."""

    RUNNING = "running"
    DONE = "done"
    FAILED = "failed"


@dataclass(frozen=True, slots=True, kw_only=True)
class Upload:
    """``words``: what is done, was done, or why nothing was; ``job_id``: of the job that came of it."""

    number: int
    kind: UploadKind
    state: UploadState
    words: str
    share: float
    job_id: int | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class TakenFile:
    """What came of a file, in words; ``job_id`` of a job."""

    words: str
    job_id: int | None = None


def take_in(
    session: Session, person_id: int, kind: UploadKind, choice: str, data: bytes, tell: Tell = to_nobody
) -> TakenFile:
    """A file, whole or not at all. ``choice``: "theirs" replaces gear that differs, "copy" takes a job in once more.

    Raises: BadValue, FormatError.
    """
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise BadValue("file", "no UTF-8 text", f"a {kind.value} file") from None
    if kind is UploadKind.JOB:
        job = import_job(session, person_id, text, is_copy=choice == "copy", tell=tell)
        if not job.is_new:
            words = "This job is here already, and stays as it is. To have it twice, import it as a copy."
        else:
            words = f"Imported, with {job.pieces} pieces that the bench did not know." if job.pieces else "Imported."
        return TakenFile(words=words, job_id=job.job_id)
    bench = import_bench(session, person_id, text, theirs_win=choice == "theirs", tell=tell)
    return TakenFile(
        words=f"{bench.new} new, {bench.changed} changed, {bench.same} the same, {bench.kept_ours} kept as ours; "
        f"{bench.readings} readings and {bench.spectra} spectra."
    )


@one_transaction
def begin_upload(session: Session, person_id: int, kind: UploadKind, choice: str) -> int:
    """Of the crew that the session works for; gives what it is known by to whoever works on it."""
    row = UploadRow(
        person_id=person_id,
        crew_id=crew_of(session),
        kind=kind,
        choice=choice[:10],
        state=UploadState.RUNNING,
        progress="The file has arrived.",
        share=0.0,
        result={},
        begun_at=now(),
        seen_at=now(),
    )
    session.add(row)
    session.flush()
    return row.id


@one_transaction
def open_upload(session: Session, person_id: int, number: int) -> Upload:
    """One of this person's. Raises: NotFound."""
    row = session.get(UploadRow, number)
    if row is None or row.person_id != person_id:
        raise NotFound("there is no such file on its way")
    state, words = UploadState(row.state), row.progress
    if state is UploadState.RUNNING and now() - row.seen_at > _SILENT:
        state, words = UploadState.FAILED, "It broke off; nothing was taken in. Send the file again."
    return Upload(
        number=row.id,
        kind=UploadKind(row.kind),
        state=state,
        words=words,
        share=row.share,
        job_id=row.result.get("job_id"),
    )


def work_on_upload(engine: Engine, number: int, file: IO[bytes]) -> None:
    """All of it; what came of it, or why nothing did, is written down."""
    is_over = threading.Event()

    def put(**values: object) -> None:
        with Session(engine) as session, session.begin():
            put_upload(session, number, seen_at=now(), **values)

    def count(done: int, of: int) -> None:
        stands["share"] = _READ + (_TAKEN - _READ) * done / max(of, 1)
        stands["progress"] = f"{done:,} of {of:,} pieces are taken in."

    def tell() -> None:
        while not is_over.wait(_TELL_S):
            put(**stands)

    try:
        data = file.read()
        stands: dict[str, object] = {"share": 0.0, "progress": f"Reading {len(data) / 1e6:.0f} MB."}
        threading.Thread(target=tell, daemon=True).start()
        with Session(engine) as session:
            with session.begin():
                row = session.get_one(UploadRow, number)
                person_id, kind, choice, crew_id = row.person_id, UploadKind(row.kind), row.choice, row.crew_id
            enter_crew(session, crew_id)
            taken = take_in(session, person_id, kind, choice, data, count)
        end = {"state": UploadState.DONE, "progress": taken.words, "result": {"job_id": taken.job_id}, "share": 1.0}
    except (BadValue, FormatError, ChangedMeanwhile) as bad:
        end = {"state": UploadState.FAILED, "progress": f"Nothing was taken in: {bad}"[:300]}
    except Exception:
        _LOG.exception("taking in upload %s broke off", number)
        end = {"state": UploadState.FAILED, "progress": "It broke off; nothing was taken in. Send the file again."}
    is_over.set()
    put(**end)
