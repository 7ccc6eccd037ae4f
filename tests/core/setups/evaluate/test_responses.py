"""What is kept of lights gives the same as computing anew, whatever moved."""

from dataclasses import replace

import pytest

from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.place import Place
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.setups.evaluate.lit_scene import fresh_response
from iron_bucket.core.setups.evaluate.responses import passing_response_for, response_for
from iron_bucket.core.setups.plan.setup import Spot
from iron_bucket.core.setups.scene.build_scene import build_scene
from tests.core.setups.made import BOX, NOON, a_frame, a_lamp, a_place, a_setup
from tests.tables import tabled

FIELD = Surroundings(Place(name="A field"))


class Kept(dict):
    put = dict.__setitem__

    def get_or_make(self, key, make):
        return self[key] if key in self else self.setdefault(key, make())


def a_spot(**changes) -> Spot:
    looks = {"x_m": -1.0, "y_m": 3.0, "z_m": 1.0, "bearing_deg": 180.0}  # at the lamp
    return Spot(**({"piece_id": "spot", "name": "Spot"} | looks | changes))


def built(gear, **changes):
    return build_scene(a_setup(**({"people": (), "spots": (a_spot(),)} | changes)), FIELD, gear, HouseRules())


def test_a_spot_moved_from_minus_one_to_minus_two_gets_its_own_level(gear):
    """hash(-1.0) == hash(-2.0) in Python: what is kept must be told apart by value."""
    rows, about = Kept(), Kept()
    for x_m in (-1.0, -2.0):
        scene = built(gear, lamps=(a_lamp(aims_at="", tilt_deg=0.0),), spots=(a_spot(x_m=x_m),))
        assert response_for(scene, rows, about).whole_lx == pytest.approx(fresh_response(scene).whole_lx, rel=1e-12)
    assert hash(-1.0) == hash(-2.0)


@tabled
def test_what_is_kept_changes_with_all_that_it_depends_on(gear, changes):
    rows, about = Kept(), Kept()
    before = {"lamps": (a_lamp(x_m=-1.0),), "frames": (a_frame(x_m=-1.0),)}
    assert response_for(built(gear, **before), rows, about).via_lx.any()
    scene = built(gear, **(before | changes))
    assert response_for(scene, rows, about).whole_lx == pytest.approx(fresh_response(scene).whole_lx, rel=1e-12)


def test_levels_names_switches_and_nd_compute_nothing_anew(gear):
    rows, about, pale = Kept(), Kept(), Surroundings(a_place("white paint"))
    changed = replace(a_lamp(), name="Other", level=0.7, is_on=False, sheets=("nd-0.3",))
    before, after = (
        build_scene(a_setup(lamps=(lamp,), frames=(a_frame(),)), pale, gear, HouseRules())
        for lamp in (a_lamp(), changed)
    )
    response_for(before, rows, about)
    kept, found, fresh = len(rows), response_for(after, rows, about), fresh_response(after)
    assert len(rows) == kept == 1
    for name in ("direct_lx", "via_lx", "share_caught", "first_bounce_lx", "indirect_lx", "walls_lx"):
        assert getattr(found, name) == pytest.approx(getattr(fresh, name))


def test_a_gel_that_comes_off_and_an_hour_that_passes_are_told_apart(gear):
    rows, about, pale = Kept(), Kept(), Surroundings(a_place("white paint"))
    noon = a_setup(lamps=(a_lamp(sheets=("nd-0.3",)),), when=NOON)
    for setup in (noon, replace(noon, lamps=(a_lamp(),)), replace(noon, when=NOON.replace(hour=8))):
        scene = build_scene(setup, pale, gear, HouseRules())
        found, fresh = response_for(scene, rows, about), fresh_response(scene)
        for name in ("direct_lx", "indirect_lx", "walls_lx"):
            assert getattr(found, name) == pytest.approx(getattr(fresh, name), rel=1e-9)


def test_a_piece_on_the_move_is_computed_alone(gear):
    rows, about = Kept(), Kept()
    still, moved = a_lamp(piece_id="still", name="Still"), a_lamp(x_m=-1.0, sheets=("nd-0.3",))
    before = built(gear, lamps=(still, moved))
    response_for(before, rows, about)
    after = built(gear, lamps=(still, replace(moved, x_m=-2.0)))
    found = passing_response_for(after, before, rows, about)
    assert found.whole_lx == pytest.approx(fresh_response(after).whole_lx, rel=0.01)
    assert len(rows) == 2  # what passes by is not kept
    # In a room what comes off its walls stays as it was until the lamp is let go.
    rows, about, box = Kept(), Kept(), (still, replace(moved, x_m=1.0))
    before = build_scene(a_setup(people=(), lamps=box), BOX, gear, HouseRules())
    was = response_for(before, rows, about)
    after = build_scene(a_setup(people=(), lamps=(still, replace(moved, x_m=1.5))), BOX, gear, HouseRules())
    found = passing_response_for(after, before, rows, about)
    assert found.indirect_lx == pytest.approx(was.indirect_lx)
    assert found.walls_lx == pytest.approx(was.walls_lx)
    assert was.walls_lx.any()
    assert found.direct_lx == pytest.approx(fresh_response(after).direct_lx)
    # What is put in on the way has nothing on the walls yet; with another mark nothing of before can be taken over.
    for more in ({"lamps": (*box, a_lamp(piece_id="new"))}, {"lamps": box, "spots": (a_spot(x_m=2.0),)}):
        after = build_scene(a_setup(people=(), **more), BOX, gear, HouseRules())
        found = passing_response_for(after, before, rows, about)
        assert found.direct_lx == pytest.approx(fresh_response(after).direct_lx)
        assert found.walls_lx.shape == (len(more["lamps"]), was.walls_lx.shape[1])
