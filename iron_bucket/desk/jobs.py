"""Jobs: list, create, rename, set the rules, archive; each change can be undone."""

from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any
from uuid import uuid4

from sqlalchemy.orm import Session

from iron_bucket.core.bucket.job_kit import JobKit
from iron_bucket.core.bucket.totals import Totals, totals_of
from iron_bucket.core.checks import require_showable, require_word
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.exposure.ratio import RatioSchool
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.jobs.roles import Role
from iron_bucket.core.modifiers.kinds import ScrimSchool
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.desk.crews import bring_whole_crew
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.desk.history import Touch, note, record, step
from iron_bucket.desk.job_contents import JobContents, job_contents, kept_crew_kit
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.formats.record_json import write_record
from iron_bucket.store.crews import crew_of, enter_crew
from iron_bucket.store.history import NO_STEPS, Around, Scope, ScopeKind, around, row_state
from iron_bucket.store.jobs import JobPersonRow, JobRow, crew_names, job_for, jobs_of, last_job_of

LONGEST_NAME = 120
LONGEST_PLACES = 300


@dataclass(frozen=True, slots=True, kw_only=True)
class JobView:
    """A job as a page shows it.

    ``steps``: what would be undone or done again; ``set_in``: the places of its set-ups, on a list of jobs.
    """

    job_id: int
    name: str
    places: str
    rules: HouseRules
    version: int
    is_archived: bool
    crew: tuple[str, ...]
    changed_at: datetime
    totals: Totals
    steps: Around = NO_STEPS
    set_in: tuple[tuple[int, str], ...] = ()


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
        kit=kept_crew_kit(stored.get("kit", {})),
    )


_NOTHING = JobKit()


def view_of(
    row: JobRow,
    kit: JobKit = _NOTHING,
    crew: tuple[str, ...] = (),
    steps: Around = NO_STEPS,
    set_in: tuple[tuple[int, str], ...] = (),
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
        totals=totals_of(kit.entries, rules, kit.left_out, kit.away),
        steps=steps,
        set_in=set_in,
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


def record_job(session: Session, row: JobRow, person_id: int, text: str, touch: Touch) -> None:
    """Note a change of a job or its bucket, so that it can be undone, and count the version up."""
    row.version += 1
    row.changed_at = now()
    record(session, Scope(ScopeKind.JOB, row.id), person_id, text, [touch])


@one_transaction
def list_jobs(session: Session, person_id: int) -> tuple[JobView, ...]:
    """All of this person's jobs with what their buckets add up to: a handful of queries, however many."""
    rows = jobs_of(session, person_id)
    crews, contents = crew_names(session, [row.id for row in rows]), _contents_by_crew(session, rows)
    at = {row.id: dict.fromkeys(setup.place_id for setup in contents[row.id].setups) for row in rows}
    return tuple(
        view_of(
            row,
            contents[row.id].kit(rules_from(row.rules)),
            tuple(crews[row.id]),
            set_in=tuple((place_id, contents[row.id].place_names[place_id]) for place_id in at[row.id]),
        )
        for row in rows
    )


def _contents_by_crew(session: Session, rows: list[JobRow]) -> dict[int, JobContents]:
    """Each job with the gear and places of its own crew."""
    found: dict[int, JobContents] = {}
    for crew_id in dict.fromkeys(row.crew_id for row in rows):
        enter_crew(session, crew_id)
        found |= job_contents(session, [row.id for row in rows if row.crew_id == crew_id])
    return found


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
    steps = around(session, Scope(ScopeKind.JOB, row.id))
    return view_of(row, contents.kit(rules_from(row.rules)), steps=steps)


def require_shared_job(session: Session, job_id: int) -> JobRow:
    """The job of a shared link, for whoever has it. Raises: NotFound."""
    row = session.get(JobRow, job_id)
    if row is None or row.is_archived:
        raise NotFound("this link is off")
    enter_crew(session, row.crew_id)
    return row


def _name(name: str) -> str:
    require_word("name", name.strip(), longest=LONGEST_NAME)
    return name.strip()


def _places(places: str) -> str:
    require_showable("places", places.strip(), longest=LONGEST_PLACES)
    return places.strip()


@one_transaction
def create_job(
    session: Session, person_id: int, name: str, places: str, rules: HouseRules, *, with_crew: bool = False
) -> int:
    """A new job of the crew that the session works for, packed as its last one; gives its number. This person is its
    gaffer; ``with_crew``: everybody else of the crew comes along.
    """
    if last := last_job_of(session, person_id):
        rules = replace(rules, kit=rules_from(last.rules).kit)
    row = new_job_row(session, person_id, name, places, rules, str(uuid4()))
    if with_crew:
        bring_whole_crew(session, person_id, row)
    return row.id


def new_job_row(session: Session, person_id: int, name: str, places: str, rules: HouseRules, uid: str) -> JobRow:
    """The same within an open transaction, known by ``uid`` everywhere."""
    row = JobRow(
        name=_name(name),
        uid=uid,
        crew_id=crew_of(session),
        places=_places(places),
        rules=write_record(rules),
        version=1,
        is_archived=False,
        created_at=now(),
        changed_at=now(),
    )
    session.add(row)
    session.flush()
    session.add(JobPersonRow(job_id=row.id, person_id=person_id, role=Role.GAFFER))
    note(session, Scope(ScopeKind.JOB, row.id), person_id, f"made the job {row.name}")
    session.flush()
    return row


def _changed(session: Session, row: JobRow, person_id: int, text: str, before: dict[str, Any]) -> None:
    if (after := row_state(row)) != before:
        record_job(session, row, person_id, text, Touch(table="jobs", key=row.id, before=before, after=after))


@one_transaction
def change_job(
    session: Session, person_id: int, job_id: int, version: int, name: str, places: str, rules: HouseRules
) -> None:
    """Rename and set the rules. Raises: NotFound, ChangedMeanwhile, BadValue."""
    row = lock_job(session, person_id, job_id, version)
    before = row_state(row)
    kept = replace(rules, kit=rules_from(row.rules).kit)  # how the crew packs is set in the bucket
    row.name, row.places, row.rules = _name(name), _places(places), write_record(kept)
    _changed(session, row, person_id, "changed the job's name or rules", before)


@one_transaction
def archive_job(session: Session, person_id: int, job_id: int, *, is_archived: bool) -> None:
    """Put a job away, or bring it back."""
    row = lock_job(session, person_id, job_id)
    before = row_state(row)
    row.is_archived = is_archived
    _changed(session, row, person_id, "archived the job" if is_archived else "restored the job", before)


@one_transaction
def step_job(session: Session, person_id: int, job_id: int, number: int, *, is_back: bool) -> str:
    """Undo a change to the job or its bucket, the last one, or do again what was undone; gives its text.

    Raises: NotFound, ChangedMeanwhile.
    """
    lock_job(session, person_id, job_id)
    return step(session, Scope(ScopeKind.JOB, job_id), person_id, number, is_back=is_back)
