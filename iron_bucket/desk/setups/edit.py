"""Change a set-up, try a change without keeping it, undo and redo."""

from dataclasses import replace
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.plan.setup import PlacedLamp, Setup
from iron_bucket.core.setups.scene.build_scene import BuiltScene, aimed, build_scene
from iron_bucket.desk.bench import shelf_in
from iron_bucket.desk.errors import ChangedMeanwhile
from iron_bucket.desk.jobs import job_view
from iron_bucket.desk.places import get_place, surroundings_of
from iron_bucket.desk.setups.kept import kept_scene, passing_response_for
from iron_bucket.desk.setups.view import Evaluation, SetupView, get_setup, piece_names, setup_view
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.formats.change_json import Outdated, said, with_changes
from iron_bucket.formats.record_json import read_record, write_record
from iron_bucket.store.setups import SetupRow
from iron_bucket.store.states import PlaceStateRow, SetupStateRow, add_state, around

Row = dict[str, Any]


@one_transaction
def open_setup(session: Session, person_id: int, job_id: int, setup_id: int) -> SetupView:
    """Raises: NotFound, also for somebody else's job."""
    job = job_view(session, person_id, job_id)
    return setup_view(session, job, get_setup(session, job_id, setup_id))


@one_transaction
def setup_version(session: Session, person_id: int, job_id: int, setup_id: int) -> int:
    """How often it was changed: what a page asks that waits for others. Raises: NotFound."""
    job_view(session, person_id, job_id, with_bucket=False)
    return get_setup(session, job_id, setup_id).version


@one_transaction
def change_setup(
    session: Session, person_id: int, job_id: int, setup_id: int, changes: list[Row], text: str = ""
) -> SetupView:
    """Some changes at once, or none of them; pieces that others moved meanwhile stay as they put them.

    Raises: NotFound; BadValue for what cannot be placed; ChangedMeanwhile where somebody else changed the very same thing.
    """
    row = get_setup(
        session, job_id, setup_id, locked=True
    )  # first: what is read before the lock would be what stood before it
    job = job_view(session, person_id, job_id)
    state, _ = around(session, SetupStateRow, row)
    built = _after(session, row, state.document, changes, job.rules)
    before, place = read_record(Setup, state.document), built.surroundings.place
    names = piece_names(before, place) | piece_names(built.setup, place)
    keep_setup(session, person_id, row, built.setup, text or said(changes, names))
    return setup_view(session, job_view(session, person_id, job_id), row)


def _after(session: Session, row: SetupRow, document: Row, changes: list[Row], rules: HouseRules) -> BuiltScene:
    """The set-up after some changes, built; lamps that follow somebody have their bearing written down."""
    try:
        setup = read_record(Setup, with_changes(document, changes))
    except Outdated as outdated:
        raise ChangedMeanwhile(str(outdated)) from outdated
    setup = replace(setup, lamps=tuple(_with_bearing(setup, lamp) for lamp in setup.lamps))
    place = get_place(session, row.place_id)
    place_state, _ = around(session, PlaceStateRow, place)
    return build_scene(setup, surroundings_of(session, place_state), shelf_in(session).gear, rules)


def _with_bearing(setup: Setup, lamp: PlacedLamp) -> PlacedLamp:
    if not lamp.aims_at or setup.find(lamp.aims_at) is None:
        return lamp
    bearing, tilt = aimed(setup, lamp)
    return replace(lamp, bearing_deg=round(bearing, 2), tilt_deg=round(tilt, 2))


def keep_setup(session: Session, person_id: int, row: SetupRow, setup: Setup, text: str) -> None:
    """Write a new state, and count the version up."""
    add_state(session, SetupStateRow, row, write_record(setup), text, person_id, now())
    row.version, row.changed_at = row.version + 1, now()
    session.flush()


@one_transaction
def try_changes(session: Session, person_id: int, job_id: int, setup_id: int, changes: list[Row]) -> Evaluation:
    """What some changes would do, kept nowhere: for a piece that is being dragged. What comes off the walls follows when it is let go."""
    job = job_view(session, person_id, job_id, with_bucket=False)
    row = get_setup(session, job_id, setup_id)
    state, _ = around(session, SetupStateRow, row)
    built, shelf = _after(session, row, state.document, changes, job.rules), shelf_in(session)
    gear = shelf.gear
    before = kept_scene(
        (str(session.get_bind().url), state.id, state.made_at, shelf.stamp, job.rules, built.surroundings.place),  # type: ignore[union-attr]
        lambda: build_scene(read_record(Setup, state.document), built.surroundings, gear, job.rules),
    )
    return Evaluation(
        lit=LitScene(built=built, response=passing_response_for(built, before)), gear=gear, rules=job.rules
    )


@one_transaction
def step_setup(session: Session, person_id: int, job_id: int, setup_id: int, *, is_back: bool) -> SetupView:
    """Undo or redo one step; at the end of either it stays as it is."""
    row = get_setup(session, job_id, setup_id, locked=True)
    job_view(session, person_id, job_id, with_bucket=False)
    _, following = around(session, SetupStateRow, row)
    if (is_back and row.at_state > 1) or (not is_back and following is not None):
        row.at_state += -1 if is_back else 1
        row.version, row.changed_at = row.version + 1, now()
        session.flush()
    return setup_view(session, job_view(session, person_id, job_id), row)
