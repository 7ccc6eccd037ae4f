"""Jobs: list, create, rename, set the rules, archive; each change can be undone."""

from dataclasses import asdict, dataclass
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.core.bucket.placed import PlacedEntries
from iron_bucket.core.bucket.totals import Totals, totals_of
from iron_bucket.core.checks import require_showable, require_word
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.exposure.ratio import RatioSchool
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.modifiers.kinds import ScrimSchool
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.desk.job_contents import JobContents, job_contents
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.store.bucket import restore
from iron_bucket.store.jobs import ChangeRow, CrewRow, JobRow, crew_names, job_for, jobs_of, last_change

LONGEST_NAME = 120
LONGEST_PLACES = 300


@dataclass(frozen=True, slots=True, kw_only=True)
class JobView:
    """A job as a page shows it. ``undo_text``: the last change that can be undone, None where there is none."""

    job_id: int
    name: str
    places: str
    rules: HouseRules
    version: int
    is_archived: bool
    crew: tuple[str, ...]
    changed_at: datetime
    totals: Totals
    undo_text: str | None = None


def rules_from(stored: dict[str, Any]) -> HouseRules:
    """House rules from their stored form."""
    return HouseRules(
        voltage_v=stored["voltage_v"],
        breaker_a=stored["breaker_a"],
        units=UnitSystem(stored["units"]),
        planned_share=stored["planned_share"],
        scrim_school=ScrimSchool(stored["scrim_school"]),
        ratio_school=RatioSchool(stored["ratio_school"]),
        receptor=Receptor(stored["receptor"]),
    )


_NOTHING = PlacedEntries(entries=(), left_out=())


def view_of(
    row: JobRow, entries: PlacedEntries = _NOTHING, crew: tuple[str, ...] = (), undo_text: str | None = None
) -> JobView:
    """A finished view of a job, what it holds summed up."""
    rules = rules_from(row.rules)
    return JobView(
        job_id=row.id,
        name=row.name,
        places=row.places,
        rules=rules,
        version=row.version,
        is_archived=row.is_archived,
        crew=crew,
        changed_at=row.changed_at,
        totals=totals_of(entries.entries, rules, entries.left_out),
        undo_text=undo_text,
    )


def require_job(session: Session, person_id: int, job_id: int) -> JobRow:
    """This person's job. Raises: NotFound, also for somebody else's."""
    row = job_for(session, person_id, job_id)
    if row is None:
        raise NotFound("there is no such job on your list")
    return row


def lock_job(session: Session, person_id: int, job_id: int, version: int | None = None) -> JobRow:
    """This person's job, held until the transaction ends.

    Raises: NotFound; ChangedMeanwhile where ``version`` is not the newest.
    """
    row = job_for(session, person_id, job_id, locked=True)
    if row is None:
        raise NotFound("there is no such job on your list")
    if version is not None and row.version != version:
        raise ChangedMeanwhile(f"“{row.name}” was changed meanwhile; here is how it stands now")
    return row


def record(session: Session, row: JobRow, person_id: int, subject: str, text: str, before: dict[str, Any]) -> None:
    """Note a change, so that it can be undone, and count the version up."""
    row.version += 1
    row.changed_at = now()
    session.add(
        ChangeRow(
            job_id=row.id, person_id=person_id, subject=subject, text=text[:300], before=before, made_at=row.changed_at
        )
    )


@one_transaction
def list_jobs(session: Session, person_id: int) -> tuple[JobView, ...]:
    """All of this person's jobs with what their buckets add up to: a handful of queries, however many."""
    rows = jobs_of(session, person_id)
    numbers = [row.id for row in rows]
    crews, contents = crew_names(session, numbers), job_contents(session, numbers)
    return tuple(view_of(row, contents[row.id].entries(rules_from(row.rules)), tuple(crews[row.id])) for row in rows)


@one_transaction
def open_job_names(session: Session, person_id: int) -> tuple[tuple[int, str], ...]:
    """Number and name of this person's jobs that are not archived: one query, nothing summed up."""
    return tuple((row.id, row.name) for row in jobs_of(session, person_id) if not row.is_archived)


@one_transaction
def open_job(session: Session, person_id: int, job_id: int, *, with_bucket: bool = True) -> JobView:
    """One job; without its bucket its totals are empty. Raises: NotFound, also for somebody else's."""
    return job_view(session, person_id, job_id, with_bucket=with_bucket)


def job_view(session: Session, person_id: int, job_id: int, *, with_bucket: bool = True) -> JobView:
    """The same within an open transaction."""
    row = require_job(session, person_id, job_id)
    return contents_view(session, row, job_contents(session, [job_id])[job_id]) if with_bucket else view_of(row)


def contents_view(session: Session, row: JobRow, contents: JobContents) -> JobView:
    """A job whose contents are at hand: one query, for what can be undone."""
    change = last_change(session, row.id)
    return view_of(row, contents.entries(rules_from(row.rules)), (), change.text if change else None)


def require_shared_job(session: Session, job_id: int) -> JobRow:
    """The job of a shared link, for whoever has it. Raises: NotFound."""
    row = session.get(JobRow, job_id)
    if row is None:
        raise NotFound("there is no such job")
    return row


def _name(name: str) -> str:
    require_word("name", name.strip(), longest=LONGEST_NAME)
    return name.strip()


def _places(places: str) -> str:
    require_showable("places", places.strip(), longest=LONGEST_PLACES)
    return places.strip()


@one_transaction
def create_job(session: Session, person_id: int, name: str, places: str, rules: HouseRules) -> int:
    """A new job with this person as its crew; gives its number."""
    row = JobRow(
        name=_name(name),
        places=_places(places),
        rules=asdict(rules),
        version=1,
        is_archived=False,
        created_at=now(),
        changed_at=now(),
    )
    session.add(row)
    session.flush()
    session.add(CrewRow(job_id=row.id, person_id=person_id))
    return row.id


def _job_before(row: JobRow) -> dict[str, Any]:
    return {"name": row.name, "places": row.places, "rules": row.rules, "is_archived": row.is_archived}


@one_transaction
def change_job(
    session: Session, person_id: int, job_id: int, version: int, name: str, places: str, rules: HouseRules
) -> None:
    """Rename and set the rules. Raises: NotFound, ChangedMeanwhile, BadValue."""
    row = lock_job(session, person_id, job_id, version)
    before = _job_before(row)
    row.name, row.places, row.rules = _name(name), _places(places), asdict(rules)
    if before != _job_before(row):
        record(session, row, person_id, "job", "changed the job's name or rules", before)


@one_transaction
def archive_job(session: Session, person_id: int, job_id: int, *, is_archived: bool) -> None:
    """Put a job away, or bring it back."""
    row = lock_job(session, person_id, job_id)
    if row.is_archived != is_archived:
        before = _job_before(row)
        row.is_archived = is_archived
        record(session, row, person_id, "job", "archived the job" if is_archived else "brought the job back", before)


@one_transaction
def undo(session: Session, person_id: int, job_id: int) -> str | None:
    """Undo the last change to the job or its bucket that still stands; gives what it was, None where there is none."""
    row = lock_job(session, person_id, job_id)
    change = last_change(session, job_id)
    if change is None:
        return None
    if change.subject == "bucket":
        restore(session, job_id, change.before)
    else:
        row.name, row.places, row.rules = change.before["name"], change.before["places"], change.before["rules"]
        row.is_archived = change.before["is_archived"]
    change.undone_at = now()
    row.version += 1
    row.changed_at = now()
    return change.text
