"""Places and set-ups against the real database: kept with all their states, and changed by several people at once."""

from datetime import datetime

import numpy as np
import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.places.place import Place
from iron_bucket.core.scene.fineness import SET
from iron_bucket.core.scene.mark_levels import banded_response, weighed
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.core.setups.suggest.presets import Preset
from iron_bucket.demo.sign_in import DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.desk import jobs, people, places
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.desk.setups import edit, passes, share
from tests.tables import table, tabled

WHEN = datetime(2026, 11, 26, 11, 0)


@pytest.fixture
def gaffer(demo):
    return people.sign_in(demo, DEMO_SIGN_IN, DEMO_PASSWORD).person.person_id


@pytest.fixture
def at_bench(demo, gaffer) -> tuple[int, int, int]:
    """Person, job and first set-up of the demo."""
    job = next(job for job in jobs.list_jobs(demo, gaffer) if job.rules.voltage_v == 230)
    _, cards, _ = passes.list_setups(demo, gaffer, job.job_id)
    return gaffer, job.job_id, cards[0].setup_id


def level(**to):
    return {"operation": "set", "where": "lamps", "piece_id": "key", "to": to}


def test_the_demo_has_its_places_and_set_ups(demo, gaffer):
    views = places.list_places(demo)
    assert len(views) == 4
    found = [card for job in jobs.list_jobs(demo, gaffer) for card in passes.list_setups(demo, gaffer, job.job_id)[1]]
    firsts = [card for card in found if card.after_id is None]
    assert len(firsts) >= 7
    assert len(found) > len(firsts)
    assert {card.place_name for card in firsts} == {view.place.name for view in views}
    for card in found:
        assert card.trouble == ""
        assert card.now.ladder.lost == ()
        faces = [rung for rung in card.now.ladder.rungs if rung.mark_id.endswith(".key")]
        # Photographic sense: every face between two and a half stops under and two over, no window past the clip.
        assert all(-2.5 < rung.stops < 2.0 for rung in faces), card.setup.name
        assert all(rung.stops < card.now.ladder.above for rung in card.now.ladder.rungs), card.setup.name


def test_undo_and_redo_have_no_end(demo, at_bench):
    first = edit.open_setup(demo, *at_bench)
    shares = (0.2, 0.3, 0.4, 0.5)
    for value in shares:
        view = edit.change_setup(demo, *at_bench, [level(level=value)])
    assert view.version == first.version + 4
    assert view.steps.undo.text == "dimmed Window key"
    for value in reversed(shares[:-1]):
        view = edit.step_setup(demo, *at_bench, view.steps.undo.number, is_back=True)
        assert view.setup.lamps[0].level == value
    last = view.steps.undo.number
    view = edit.step_setup(demo, *at_bench, last, is_back=True)
    assert view.setup == first.setup
    assert view.steps.undo is None
    assert edit.step_setup(demo, *at_bench, last, is_back=True).version == view.version  # a key pressed twice
    for value in shares:
        view = edit.step_setup(demo, *at_bench, view.steps.redo.number, is_back=False)
        assert view.setup.lamps[0].level == value
    assert view.steps.redo is None
    edit.step_setup(demo, *at_bench, view.steps.undo.number, is_back=True)
    other = edit.change_setup(demo, *at_bench, [level(level=0.6)])
    assert other.steps.redo is None  # what was undone is gone once something else is done
    assert edit.setup_version(demo, *at_bench) == other.version


def test_two_change_different_things_and_both_stay(demo, at_bench):
    edit.change_setup(
        demo, *at_bench, [level(level=0.2) | {"was": {"level": edit.open_setup(demo, *at_bench).setup.lamps[0].level}}]
    )
    view = edit.change_setup(demo, *at_bench, [level(z_m=2.2) | {"was": {"z_m": 2.0}}])
    assert (view.setup.lamps[0].level, view.setup.lamps[0].z_m) == (0.2, 2.2)
    with pytest.raises(ChangedMeanwhile, match="level of Window key was changed meanwhile: it is 0.2 now"):
        edit.change_setup(demo, *at_bench, [level(x_m=1.0), level(level=0.9) | {"was": {"level": 0.5}}])
    assert edit.open_setup(demo, *at_bench).setup.lamps[0].x_m != 1.0  # all of it or none


@tabled
def test_what_cannot_be_reckoned_is_not_kept(demo, at_bench, row, sentence):
    before = edit.open_setup(demo, *at_bench)
    with pytest.raises(BadValue, match=sentence):
        edit.change_setup(demo, *at_bench, [row])
    assert edit.open_setup(demo, *at_bench).version == before.version


def test_a_try_is_kept_nowhere_and_agrees_with_what_is_kept(demo, at_bench):
    before = edit.open_setup(demo, *at_bench)
    tried = edit.try_changes(demo, *at_bench, [level(x_m=3.5)])
    assert edit.open_setup(demo, *at_bench).version == before.version
    kept = edit.change_setup(demo, *at_bench, [level(x_m=3.5)])
    place = tried.lit.place_of("repairer.key")
    assert tried.lit.total_lx[place] == pytest.approx(kept.now.lit.total_lx[place], rel=0.03)  # off the walls as before
    assert tried.lit.total_lx[place] != pytest.approx(before.now.lit.total_lx[place], rel=1e-4)
    # What is kept at hand is what would be computed anew.
    built = kept.now.lit.built
    anew = weighed(banded_response(built.scene, built.surroundings.grids, fineness=SET), built.band_shares)
    assert kept.now.lit.response.whole_lx == pytest.approx(anew.whole_lx, rel=1e-3)
    person = edit.try_changes(
        demo, *at_bench, [{"operation": "set", "where": "people", "piece_id": "repairer", "to": {"y_m": 2.6}}]
    )
    assert person.lit.total_lx[place] > 0.0
    assert np.isfinite(person.lit.total_lx).all()


def test_passes_begin_as_the_one_before_and_tell_what_moves(demo, at_bench):
    person, job_id, setup_id = at_bench
    number = passes.next_pass(demo, person, job_id, setup_id, is_tighter=True)
    view = edit.open_setup(demo, person, job_id, number)
    assert (view.setup.width, view.after_id, view.moves) == ("medium", setup_id, ())
    assert [each.setup_id for each in view.passes][1] == number  # right behind it
    moved = edit.change_setup(demo, person, job_id, number, [level(level=0.1), level(x_m=3.0)])
    assert [move.name for move in moved.moves] == ["Window key"]
    assert moved.drifts[0].name == "Repairer"
    wider = passes.next_pass(demo, person, job_id, number, is_tighter=False)
    assert edit.open_setup(demo, person, job_id, wider).setup.width == "wide"
    passes.archive_setup(demo, person, job_id, wider, is_archived=True)
    assert wider not in [each.setup_id for each in edit.open_setup(demo, person, job_id, number).passes]


def test_a_set_up_is_begun_with_the_look_of_the_job(demo, at_bench):
    person, job_id, _ = at_bench
    passes.set_look(demo, person, job_id, Look(iso=400.0))
    passes.set_look(demo, person, job_id, Look(iso=1600.0))
    place_id = places.list_places(demo)[0].place_id
    number = passes.begin_setup(demo, person, job_id, place_id, "Fresh", Preset.SIT_DOWN, WHEN)
    view = edit.open_setup(demo, person, job_id, number)
    assert view.setup.look.iso == 1600.0
    assert view.setup.name == "Fresh"
    assert passes.job_look(demo, person, job_id)[1].iso == 1600.0
    with pytest.raises(NotFound):
        passes.begin_setup(demo, person, job_id, 999_999, "Nowhere", Preset.EMPTY, WHEN)


def test_what_stands_in_set_ups_counts_for_the_job(demo, at_bench):
    person, job_id, _ = at_bench
    before = jobs.open_job(demo, person, job_id).totals
    row = table(__file__, "row")
    view = edit.change_setup(demo, *at_bench, [row])
    assert view.job.totals.heads == before.heads + 1
    assert view.job.totals.weight_kg > before.weight_kg + 29.0
    back = edit.step_setup(demo, *at_bench, view.steps.undo.number, is_back=True)
    assert back.job.totals.heads == before.heads


def test_a_link_shows_one_set_up_until_it_is_taken_back(demo, at_bench):
    token = share.open_share(demo, *at_bench)
    assert share.open_share(demo, *at_bench) == token == share.share_token(demo, *at_bench)[0]
    assert share.shared_setup(demo, token).setup_id == at_bench[2]
    share.revoke_share(demo, *at_bench)
    share.revoke_share(demo, *at_bench)
    assert share.share_token(demo, *at_bench) is None
    for gone in (token, "never was"):
        with pytest.raises(NotFound, match="this link is off"):
            share.shared_setup(demo, gone)
    assert share.open_share(demo, *at_bench) != token


def test_nobody_sees_or_changes_the_set_ups_of_another_job(demo, at_bench):
    stranger = people.add_person(demo, name="Stranger", sign_in="stranger", password="not-of-this-crew").person_id
    _, job_id, setup_id = at_bench
    for use in (
        lambda: edit.open_setup(demo, stranger, job_id, setup_id),
        lambda: edit.change_setup(demo, stranger, job_id, setup_id, [level(level=0.2)]),
        lambda: edit.try_changes(demo, stranger, job_id, setup_id, [level(level=0.2)]),
        lambda: edit.step_setup(demo, stranger, job_id, setup_id, 1, is_back=True),
        lambda: edit.setup_version(demo, stranger, job_id, setup_id),
        lambda: passes.list_setups(demo, stranger, job_id),
        lambda: passes.next_pass(demo, stranger, job_id, setup_id, is_tighter=True),
        lambda: passes.archive_setup(demo, stranger, job_id, setup_id, is_archived=True),
        lambda: passes.begin_setup(demo, stranger, job_id, 1, "X", Preset.EMPTY, WHEN),
        lambda: passes.job_look(demo, stranger, job_id),
        lambda: passes.set_look(demo, stranger, job_id, Look()),
        lambda: share.open_share(demo, stranger, job_id, setup_id),
        lambda: share.share_token(demo, stranger, job_id, setup_id),
        lambda: share.revoke_share(demo, stranger, job_id, setup_id),
    ):
        with pytest.raises(NotFound):
            use()
    with pytest.raises(NotFound, match="no such set-up in this job"):
        edit.open_setup(demo, at_bench[0], job_id, 999_999)


# ---- places


def test_a_place_is_recorded_changed_copied_and_put_away(demo, gaffer):
    number = places.add_place(demo, gaffer, Place(name="Shed"))
    view = places.change_place(
        demo, gaffer, number, [{"operation": "set", "to": {"name": "Barn"}, "was": {"name": "Shed"}}]
    )
    assert (view.place.name, view.version, view.steps.undo.text) == ("Barn", 2, "changed the name of Barn")
    with pytest.raises(ChangedMeanwhile, match="it is Barn now"):
        places.change_place(
            demo, gaffer, number, [{"operation": "set", "to": {"name": "Stable"}, "was": {"name": "Shed"}}]
        )
    with pytest.raises(BadValue, match="latitude is 95"):
        places.change_place(demo, gaffer, number, [{"operation": "set", "to": {"latitude_deg": 95}}])
    back = places.step_place(demo, gaffer, number, view.steps.undo.number, is_back=True)
    assert (back.place.name, back.steps.redo.text) == ("Shed", "changed the name of Barn")
    assert places.step_place(demo, gaffer, number, back.steps.redo.number, is_back=False).place.name == "Barn"
    copy = places.open_place(demo, places.copy_place(demo, gaffer, number))
    assert copy.place.name == "Barn, copy"
    places.archive_place(demo, gaffer, number, is_archived=True)
    assert places.list_places(demo)[-1].place_id == number
    assert places.open_place(demo, number).is_archived
    for use in (
        lambda: places.open_place(demo, 999_999),
        lambda: places.copy_place(demo, gaffer, 999_999),
        lambda: places.step_place(demo, gaffer, 999_999, 1, is_back=True),
    ):
        with pytest.raises(NotFound, match="no such place"):
            use()


def test_a_place_that_changes_changes_its_set_ups(demo, gaffer, at_bench):
    view = edit.open_setup(demo, *at_bench)
    room = places.open_place(demo, view.place_id)
    row = {"operation": "set", "where": "rooms", "piece_id": "shop", "to": {"walls": ["black cloth"] * 4}}
    places.change_place(demo, gaffer, view.place_id, [row])
    dark = edit.open_setup(demo, *at_bench)
    assert dark.now.lit.off_walls_lx.sum() < 0.7 * view.now.lit.off_walls_lx.sum()
    assert room.place.name == "Clock-repair shop"
