"""Change a set-up, try a change without keeping it, undo and redo."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.places.place import Place
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.evaluation import Evaluation, piece_names
from iron_bucket.core.setups.plan.setup import PlacedLamp, Setup
from iron_bucket.core.setups.scene.build_scene import BuiltScene, aimed, build_scene
from iron_bucket.desk.bench import shelf_in
from iron_bucket.desk.errors import ChangedMeanwhile
from iron_bucket.desk.history import Touch, record, step
from iron_bucket.desk.job_contents import power_of
from iron_bucket.desk.jobs import require_job, rules_from
from iron_bucket.desk.places import surroundings_at
from iron_bucket.desk.setups.kept import keep_built, kept_passing_response, kept_scene, kept_setup
from iron_bucket.desk.setups.view import OpenSetup, SetupView, get_setup, read_setup, setup_view
from iron_bucket.desk.transaction import database_address, now, one_transaction
from iron_bucket.formats.change_json import Outdated, summary, with_changes
from iron_bucket.formats.record_json import read_record, write_record
from iron_bucket.store.history import row_state

Row = dict[str, Any]
#: Changes as rows, or what makes them of the set-up as it stands once nobody else can change it.
Changes = list[Row] | Callable[[Setup, Place, Gear], list[Row]]


@one_transaction
def open_setup(session: Session, person_id: int, job_id: int, setup_id: int) -> SetupView:
    """Raises: NotFound, also for somebody else's job."""
    return setup_view(session, read_setup(session, person_id, job_id, setup_id))


@one_transaction
def setup_version(session: Session, person_id: int, job_id: int, setup_id: int) -> int:
    """How often it was changed: what a page asks that waits for others. Raises: NotFound."""
    require_job(session, person_id, job_id)
    return get_setup(session, job_id, setup_id).version


@one_transaction
def change_setup(
    session: Session, person_id: int, job_id: int, setup_id: int, changes: Changes, text: str = ""
) -> SetupView:
    """Some changes at once, or none of them; pieces that others moved meanwhile stay as they put them.

    Raises: NotFound; BadValue for what cannot be placed; ChangedMeanwhile where somebody else changed the very same
        thing.
    """
    found = read_setup(session, person_id, job_id, setup_id, locked=True)
    before, place, gear = found.setup, found.surroundings.place, found.contents.gear
    rows = changes if isinstance(changes, list) else changes(before, place, gear)
    if not rows:
        return setup_view(session, found)
    touch, setup = put_changes(found, rows)
    names = piece_names(before, place) | piece_names(setup, place)
    record(session, found.scope, person_id, text or summary(rows, names), [touch])
    session.flush()
    return setup_view(session, found)


def put_changes(found: OpenSetup, rows: list[Row]) -> tuple[Touch, Setup]:
    """Write down a set-up that is locked, after some changes; what it touched still has to be noted.

    Raises: BadValue, ChangedMeanwhile.
    """
    row, before, built = found.row, row_state(found.row), _after(found, rows)
    row.document, row.version, row.changed_at = write_record(built.setup), row.version + 1, now()
    keep_built(row.document, built, found.contents.gear, found.rules)
    return Touch(table="setups", key=row.id, before=before, after=row_state(row)), built.setup


def _after(found: OpenSetup, changes: list[Row]) -> BuiltScene:
    """The set-up after some changes, built; lamps that follow somebody have their bearing written down."""
    setup = _changed(found.row.document, changes)
    setup = replace(setup, lamps=tuple(_with_bearing(setup, lamp) for lamp in setup.lamps))
    return build_scene(setup, found.surroundings, found.contents.gear, found.rules)


def _changed(document: Row, changes: list[Row]) -> Setup:
    """Raises: BadValue; ChangedMeanwhile where something is not any more what the changes say it was."""
    try:
        setup = read_record(Setup, with_changes(document, changes))
    except Outdated as outdated:
        raise ChangedMeanwhile(str(outdated)) from outdated
    here = {each.piece_id for each in setup.people}  # whoever goes takes the positions along
    return replace(setup, positions=tuple(each for each in setup.positions if each.person in here))


def _with_bearing(setup: Setup, lamp: PlacedLamp) -> PlacedLamp:
    if not lamp.aims_at or setup.find(lamp.aims_at) is None:
        return lamp
    bearing, tilt = aimed(setup, lamp)
    return replace(lamp, bearing_deg=round(bearing, 2), tilt_deg=round(tilt, 2))


@one_transaction
def try_changes(session: Session, person_id: int, job_id: int, setup_id: int, changes: list[Row]) -> Evaluation:
    """What some changes would do, kept nowhere: for a piece that is being dragged.

    What comes off the walls follows when it is let go.
    """
    rules = rules_from(require_job(session, person_id, job_id).rules)
    row = get_setup(session, job_id, setup_id)
    shelf, surroundings = shelf_in(session), surroundings_at(session, row.place_id, power_of(session, job_id))
    setup = _changed(row.document, changes)
    built = build_scene(setup, surroundings, shelf.gear, rules)
    before = kept_scene(
        (database_address(session), row.id, row.version, row.changed_at, shelf.stamp, rules, surroundings.place),
        lambda: build_scene(kept_setup(row.document), surroundings, shelf.gear, rules),
    )
    return Evaluation(
        lit=LitScene(built=built, banded=kept_passing_response(built, before)), gear=shelf.gear, rules=rules
    )


@one_transaction
def step_setup(
    session: Session, person_id: int, job_id: int, setup_id: int, number: int, *, is_back: bool
) -> SetupView:
    """Undo or redo one step. Raises: NotFound, ChangedMeanwhile."""
    found = read_setup(session, person_id, job_id, setup_id, locked=True)
    step(session, found.scope, person_id, number, is_back=is_back)
    return setup_view(session, found)
