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
from iron_bucket.desk.jobs import require_job, rules_from
from iron_bucket.desk.places import surroundings_at
from iron_bucket.desk.setups.kept import kept_passing_response, kept_scene
from iron_bucket.desk.setups.view import OpenSetup, SetupView, get_setup, read_setup, setup_view
from iron_bucket.desk.transaction import database_address, now, one_transaction
from iron_bucket.formats.change_json import Outdated, summary, with_changes
from iron_bucket.formats.record_json import read_record, write_record
from iron_bucket.store.setups import SetupRow
from iron_bucket.store.states import SetupStateRow, add_state, around

Row = dict[str, Any]
#: Changes as rows, or what makes them of the set-up as it stands once nobody else can change it.
Changes = list[Row] | Callable[[Setup, Place, Gear], list[Row]]


@one_transaction
def open_setup(session: Session, person_id: int, job_id: int, setup_id: int) -> SetupView:
    """Raises: NotFound, also for somebody else's job."""
    found, following = read_setup(session, person_id, job_id, setup_id)
    return setup_view(session, found, following)


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
    found, following = read_setup(session, person_id, job_id, setup_id, locked=True)
    before, place, gear = found.setup, found.surroundings.place, found.contents.gear
    rows = changes if isinstance(changes, list) else changes(before, place, gear)
    if not rows:
        return setup_view(session, found, following)
    built = _after(found, rows)
    names = piece_names(before, place) | piece_names(built.setup, place)
    found.contents.states[setup_id] = keep_setup(
        session, person_id, found.row, built.setup, text or summary(rows, names), has_following=following is not None
    )
    return setup_view(session, found)


def _after(found: OpenSetup, changes: list[Row]) -> BuiltScene:
    """The set-up after some changes, built; lamps that follow somebody have their bearing written down."""
    try:
        setup = read_record(Setup, with_changes(found.state.document, changes))
    except Outdated as outdated:
        raise ChangedMeanwhile(str(outdated)) from outdated
    setup = replace(setup, lamps=tuple(_with_bearing(setup, lamp) for lamp in setup.lamps))
    return build_scene(setup, found.surroundings, found.contents.gear, found.rules)


def _with_bearing(setup: Setup, lamp: PlacedLamp) -> PlacedLamp:
    if not lamp.aims_at or setup.find(lamp.aims_at) is None:
        return lamp
    bearing, tilt = aimed(setup, lamp)
    return replace(lamp, bearing_deg=round(bearing, 2), tilt_deg=round(tilt, 2))


def keep_setup(
    session: Session, person_id: int, row: SetupRow, setup: Setup, text: str, *, has_following: bool = False
) -> SetupStateRow:
    """Write a new state, and count the version up."""
    state = add_state(
        session, SetupStateRow, row, write_record(setup), text, person_id, now(), has_following=has_following
    )
    row.version, row.changed_at = row.version + 1, now()
    session.flush()
    return state


@one_transaction
def try_changes(session: Session, person_id: int, job_id: int, setup_id: int, changes: list[Row]) -> Evaluation:
    """What some changes would do, kept nowhere: for a piece that is being dragged.

    What comes off the walls follows when it is let go.
    """
    rules = rules_from(require_job(session, person_id, job_id).rules)
    row = get_setup(session, job_id, setup_id)
    state, _ = around(session, SetupStateRow, row)
    shelf, surroundings = shelf_in(session), surroundings_at(session, row.place_id)
    setup = read_record(Setup, with_changes(state.document, changes))
    built = build_scene(setup, surroundings, shelf.gear, rules)
    before = kept_scene(
        (database_address(session), state.id, state.made_at, shelf.stamp, rules, surroundings.place),
        lambda: build_scene(read_record(Setup, state.document), surroundings, shelf.gear, rules),
    )
    return Evaluation(
        lit=LitScene(built=built, response=kept_passing_response(built, before)), gear=shelf.gear, rules=rules
    )


@one_transaction
def step_setup(session: Session, person_id: int, job_id: int, setup_id: int, *, is_back: bool) -> SetupView:
    """Undo or redo one step; at the end of either it stays as it is."""
    found, following = read_setup(session, person_id, job_id, setup_id, locked=True)
    row = found.row
    if (is_back and row.at_state > 1) or (not is_back and following is not None):
        row.at_state += -1 if is_back else 1
        row.version, row.changed_at = row.version + 1, now()
        session.flush()
        found.contents.states[setup_id], following = around(session, SetupStateRow, row)
    return setup_view(session, found, following)
