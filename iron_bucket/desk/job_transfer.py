"""A whole job out as one file, and such a file taken in: nothing twice, nothing lost."""

from dataclasses import dataclass
from uuid import uuid4

from sqlalchemy.orm import Session

from iron_bucket.core.bucket.bucket_plan import BucketPlan
from iron_bucket.core.bucket.entry import Entry
from iron_bucket.core.days.day_plan import DayPlan
from iron_bucket.core.errors import BadValue
from iron_bucket.core.places.place import Place
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.desk.bench.edit import add_piece
from iron_bucket.desk.bench.shelf import reading_row_of, shelf_in
from iron_bucket.desk.bench.transfer import whole_bench
from iron_bucket.desk.bucket.ticks import tick_of, tick_row
from iron_bucket.desk.counted import Tell, counted, to_nobody
from iron_bucket.desk.job_contents import entry_of, kept_days, kept_plan, kept_power
from iron_bucket.desk.jobs import new_job_row, require_job, rules_from
from iron_bucket.desk.places import put_place
from iron_bucket.desk.setups.kept import kept_setup
from iron_bucket.desk.setups.passes import added_setup
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.formats.gear_json import BenchFile
from iron_bucket.formats.gear_rows import GEAR_KINDS
from iron_bucket.formats.job_file import FilePass, JobFile, job_json, read_job, renumbered
from iron_bucket.formats.reading_rows import reading_row
from iron_bucket.formats.record_json import read_record, write_record
from iron_bucket.store.bench import all_gear, stamp_bench
from iron_bucket.store.bucket import BucketLineRow, BucketPlanRow, lines_of
from iron_bucket.store.days import DayPlanRow
from iron_bucket.store.documents import job_documents
from iron_bucket.store.jobs import JobRow, job_by_uid
from iron_bucket.store.places import all_places, places_by_id
from iron_bucket.store.power import PowerRow
from iron_bucket.store.readings import all_readings
from iron_bucket.store.setups import LookRow, look_row, setups_of
from iron_bucket.store.ticks import ticks_of


@one_transaction
def job_text(session: Session, person_id: int, job_id: int) -> str:
    """The file of one job. Raises: NotFound."""
    return job_json(_file(session, require_job(session, person_id, job_id)))


def _file(session: Session, row: JobRow) -> JobFile:
    rows = setups_of(session, [row.id])
    place_ids = list(dict.fromkeys(each.place_id for each in rows))
    stored = {each.id: read_record(Place, each.document) for each in places_by_id(session, set(place_ids))}
    places = {place_id: at for at, place_id in enumerate(place_ids, start=1)}
    passes = {each.id: at for at, each in enumerate(rows, start=1)}
    documents, look = job_documents(session, [row.id])[row.id], look_row(session, row.id)
    power = kept_power(documents.power.document) if documents.power else JobPower()
    plan = kept_plan(documents.plan.document) if documents.plan else BucketPlan()
    days = kept_days(documents.days.document) if documents.days else DayPlan()
    return JobFile(
        uid=row.uid,
        name=row.name,
        places_note=row.places,
        rules=rules_from(row.rules),
        bench=whole_bench(session),
        places=tuple(stored[place_id] for place_id in place_ids),
        passes=tuple(
            FilePass(
                place=places[each.place_id],
                after=passes.get(each.after_id or 0, 0) if passes.get(each.after_id or 0, 0) < passes[each.id] else 0,
                setup=kept_setup(each.document),
            )
            for each in rows
        ),
        power=read_record(JobPower, renumbered(write_record(power), places, passes)),
        plan=read_record(BucketPlan, renumbered(write_record(plan), places, passes)),
        days=read_record(DayPlan, renumbered(write_record(days), places, passes)),
        lines=tuple(entry_of(line) for line in lines_of(session, [row.id])),
        ticks=tuple(tick_of(each) for each in ticks_of(session, row.id)),
        look=read_record(Look, look.document) if look else None,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class JobTaken:
    """``job_id`` of the job; ``is_new``: it was not here before. How many pieces of the bench were not here."""

    job_id: int
    is_new: bool
    pieces: int


@one_transaction
def import_job(
    session: Session, person_id: int, text: str, *, is_copy: bool = False, tell: Tell = to_nobody
) -> JobTaken:
    """Taken in whole or not at all. A job that is here already stays as it is, unless a copy is asked for; places that
    are here alike are used, and so is the bench: only pieces that it does not know are added.

    Raises: FormatError.
    """
    job = read_job(text)
    known = job_by_uid(session, person_id, job.uid)
    if known is not None and not is_copy:
        return JobTaken(job_id=known.id, is_new=False, pieces=0)
    pieces = _take_bench(session, person_id, job.bench, tell)
    uid = str(uuid4()) if known is not None else job.uid
    row = new_job_row(session, person_id, job.name, job.places_note, job.rules, uid)
    here = {place.name: place for place in all_places(session)}
    places = {number: put_place(session, place, here) for number, place in enumerate(job.places, start=1)}
    passes: dict[int, int] = {}
    for number, each in enumerate(job.passes, start=1):
        after = passes.get(each.after)
        passes[number] = added_setup(session, row.id, places[each.place], after, number, each.setup)
    _take_documents(session, row, job, places, passes)
    for entry in job.lines:
        session.add(_line_row(row.id, entry))
    if not is_copy:
        session.add_all(tick_row(tick, row.id, person_id) for tick in job.ticks)
    session.flush()
    return JobTaken(job_id=row.id, is_new=True, pieces=pieces)


def _take_documents(
    session: Session, row: JobRow, job: JobFile, places: dict[int, int], passes: dict[int, int]
) -> None:
    power, plan, days = (renumbered(write_record(each), places, passes) for each in (job.power, job.plan, job.days))
    if job.power != JobPower():
        session.add(PowerRow(job_id=row.id, document=power, version=1, changed_at=now()))
    if job.plan != BucketPlan():
        session.add(BucketPlanRow(job_id=row.id, document=plan, version=1, changed_at=now()))
    if job.days != DayPlan():
        session.add(DayPlanRow(job_id=row.id, document=days, version=1, changed_at=now()))
    if job.look is not None:
        session.add(LookRow(job_id=row.id, document=write_record(job.look), version=1, changed_at=now()))


def _line_row(job_id: int, entry: Entry) -> BucketLineRow:
    return BucketLineRow(
        job_id=job_id,
        number=entry.entry_id,
        parent_number=entry.parent_id,
        kind=entry.kind,
        item=GEAR_KINDS[entry.kind].write(entry.item),
        quantity=entry.quantity,
        purpose=entry.purpose,
        level=entry.level,
        fed_from=entry.fed_from.value,
        area_m2=entry.area_m2,
        setting=entry.setting,
    )


def _take_bench(session: Session, person_id: int, bench: BenchFile, tell: Tell) -> int:
    """Pieces that are not known here, with readings of those; what is known stays. Raises: BadValue where a slug is
    another kind of thing here.
    """
    known = {row.slug: row.kind for row in all_gear(session)}
    new: set[str] = set()
    pieces = [(kind, each, item) for kind, each in GEAR_KINDS.items() for item in getattr(bench.gear, kind)]
    for kind, each, item in counted(pieces, tell):
        if item.slug not in known:
            add_piece(session, kind, each.write(item))
            new.add(item.slug)
        elif known[item.slug] != kind:
            noun = GEAR_KINDS[known[item.slug]].noun
            raise BadValue("slug", repr(item.slug), f"another one: here it is a {noun}")
    there = {repr(sorted(row.item.items())) for row in all_readings(session)}
    for reading in bench.readings:
        if reading.configuration_slug in new and repr(sorted(reading_row(reading).items())) not in there:
            session.add(reading_row_of(reading, person_id))
    if new:
        stamp_bench(session)
        session.flush()
        shelf_in(session)
    return len(new)
