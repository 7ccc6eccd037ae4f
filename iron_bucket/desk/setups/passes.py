"""The set-ups of a job: begin one, begin a pass from another, put away, order."""

from dataclasses import replace
from datetime import datetime

from sqlalchemy.orm import Session

from iron_bucket.core.errors import BadValue
from iron_bucket.core.places.place import require_named
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.core.setups.plan.setup import Setup, Width
from iron_bucket.core.setups.suggest.presets import Preset, preset_setup
from iron_bucket.desk.bench import shelf_in
from iron_bucket.desk.history import note
from iron_bucket.desk.job_contents import job_contents, power_of
from iron_bucket.desk.jobs import JobView, job_view, require_job, rules_from, view_of
from iron_bucket.desk.places import get_place, surroundings_at
from iron_bucket.desk.setups.kept import kept_setup
from iron_bucket.desk.setups.view import PassName, SetupCard, archived_setups, get_setup, setup_cards
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.formats.record_json import read_record, write_record
from iron_bucket.store.history import Scope, ScopeKind
from iron_bucket.store.setups import LookRow, SetupRow, count_and_last_rank, look_row, make_room_after, setups_of

MOST_SETUPS = 200


@one_transaction
def list_setups(
    session: Session, person_id: int, job_id: int
) -> tuple[JobView, tuple[SetupCard, ...], tuple[PassName, ...]]:
    """A job, its set-ups in their order, and those that are put away. Raises: NotFound."""
    row = require_job(session, person_id, job_id)
    contents = job_contents(session, [job_id])[job_id]
    job = view_of(row, contents.kit(rules_from(row.rules)))
    return job, setup_cards(contents, job.rules), archived_setups(session, job_id)


def added_setup(session: Session, job_id: int, place_id: int, after_id: int | None, rank: int, setup: Setup) -> int:
    """A new row within an open transaction; gives its number."""
    row = SetupRow(
        job_id=job_id,
        place_id=place_id,
        after_id=after_id,
        rank=rank,
        document=write_record(setup),
        version=1,
        is_archived=False,
        created_at=now(),
        changed_at=now(),
    )
    session.add(row)
    session.flush()
    return row.id


def room_for_one(session: Session, job_id: int) -> None:
    """Raises: BadValue where a job has as many set-ups as it may."""
    _next_rank(session, job_id)


def _next_rank(session: Session, job_id: int) -> int:
    count, last_rank = count_and_last_rank(session, job_id)
    if count >= MOST_SETUPS:
        raise BadValue("set-ups", count, f"up to {MOST_SETUPS} in a job")
    return last_rank + 1


@one_transaction
def begin_setup(
    session: Session, person_id: int, job_id: int, place_id: int, name: str, beginning: Preset, when: datetime
) -> int:
    """A set-up in a place, from an arrangement to begin with; gives its number. Raises: NotFound, BadValue."""
    rules = rules_from(require_job(session, person_id, job_id).rules)
    surroundings = surroundings_at(session, place_id, power_of(session, job_id))
    look = _look(session, job_id)
    gear = shelf_in(session).in_use
    setup = preset_setup(beginning, name, surroundings, gear, rules, look, when)
    return added_setup(session, job_id, place_id, None, _next_rank(session, job_id), setup)


@one_transaction
def put_setup(session: Session, person_id: int, job_id: int, place_id: int, setup: Setup, after_id: int | None) -> int:
    """A finished set-up, from a file or the demo; gives its number."""
    require_job(session, person_id, job_id)
    get_place(session, place_id)
    return added_setup(session, job_id, place_id, after_id, _next_rank(session, job_id), setup)


#: What the next pass is called, whichever end somebody plans from.
NEXT_WIDTH = {Width.WIDE: Width.MEDIUM, Width.MEDIUM: Width.TIGHT, Width.TIGHT: Width.TIGHT}
WIDER = {Width.TIGHT: Width.MEDIUM, Width.MEDIUM: Width.WIDE, Width.WIDE: Width.WIDE}


@one_transaction
def setup_names(session: Session, person_id: int, job_id: int) -> tuple[tuple[int, str], ...]:
    """Number and name, with its width, of each set-up of a job that is in use. Raises: NotFound."""
    require_job(session, person_id, job_id)
    rows = setups_of(session, [job_id])
    return tuple((row.id, f"{row.document.get('name', 'a set-up')}, {row.document.get('width', '')}") for row in rows)


@one_transaction
def next_pass(session: Session, person_id: int, job_id: int, setup_id: int, *, is_tighter: bool) -> int:
    """A pass that begins as a copy of this one; it stands after it in the list, whether it goes tighter or wider.

    Gives its number.
    """
    require_job(session, person_id, job_id)
    old = get_setup(session, job_id, setup_id)
    setup = kept_setup(old.document)
    width = (NEXT_WIDTH if is_tighter else WIDER)[setup.width]
    room_for_one(session, job_id)
    make_room_after(session, job_id, old.rank)
    return added_setup(session, job_id, old.place_id, old.id, old.rank + 1, replace(setup, width=width))


@one_transaction
def copy_pass(session: Session, person_id: int, job_id: int, setup_id: int) -> int:
    """The same pass once more, right behind it; gives its number."""
    require_job(session, person_id, job_id)
    old = get_setup(session, job_id, setup_id)
    room_for_one(session, job_id)
    make_room_after(session, job_id, old.rank)
    return added_setup(session, job_id, old.place_id, old.id, old.rank + 1, kept_setup(old.document))


@one_transaction
def copy_setup(session: Session, person_id: int, job_id: int, setup_id: int, name: str) -> int:
    """A set-up with all its passes under another name, at the end of the list; gives the number of the pass that was
    looked at. Raises: NotFound; BadValue for a name that is none, or too many set-ups.
    """
    require_job(session, person_id, job_id)
    require_named("name", name.strip())
    old = get_setup(session, job_id, setup_id)
    kept_setup(old.document)
    rows = {row.id: row for row in setups_of(session, [job_id])} | {old.id: old}
    numbers: dict[int, int] = {}
    for row in sorted(_of_one_setup(rows, old), key=lambda row: (row.rank, row.id)):
        setup = replace(kept_setup(row.document), name=name.strip())
        rank = _next_rank(session, job_id)
        numbers[row.id] = added_setup(session, job_id, row.place_id, numbers.get(row.after_id or 0), rank, setup)
    return numbers[old.id]


def _of_one_setup(rows: dict[int, SetupRow], one: SetupRow) -> list[SetupRow]:
    """All passes that vary one another in the same place under the same name."""
    alike = [
        row
        for row in rows.values()
        if row.place_id == one.place_id and row.document.get("name") == one.document.get("name")
    ]
    found, grows = {one.id}, True
    while grows:
        near = {row.id for row in alike if row.after_id in found}
        near |= {row.after_id for row in alike if row.id in found and row.after_id in {each.id for each in alike}}
        grows = not near <= found
        found |= near
    return [row for row in alike if row.id in found]


@one_transaction
def archive_setup(session: Session, person_id: int, job_id: int, setup_id: int, *, is_archived: bool) -> None:
    """Put a set-up away, or bring it back; passes that vary it stay."""
    require_job(session, person_id, job_id)
    get_setup(session, job_id, setup_id, locked=True).is_archived = is_archived
    told = "archived the set-up" if is_archived else "restored the set-up"
    note(session, Scope(ScopeKind.SETUP, setup_id), person_id, told)


def _look(session: Session, job_id: int) -> Look:
    row = look_row(session, job_id)
    return read_record(Look, row.document) if row else Look()


@one_transaction
def job_look(session: Session, person_id: int, job_id: int) -> tuple[JobView, Look]:
    """What a job's camera is set to. Raises: NotFound."""
    return job_view(session, person_id, job_id), _look(session, job_id)


@one_transaction
def set_look(session: Session, person_id: int, job_id: int, look: Look) -> None:
    """Keep a look for set-ups that start from now on."""
    require_job(session, person_id, job_id)
    row = look_row(session, job_id)
    if row is None:
        session.add(LookRow(job_id=job_id, document=write_record(look), version=1, changed_at=now()))
    else:
        row.document, row.version, row.changed_at = write_record(look), row.version + 1, now()
