"""What is kept of lights gives the same as computing anew, whatever moved."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.place import Place
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.setups.evaluate.lit_scene import fresh_response
from iron_bucket.core.setups.evaluate.responses import passing_response_for, response_for
from iron_bucket.core.setups.plan.setup import Spot
from iron_bucket.core.setups.scene.build_scene import build_scene
from tests.core.setups.made import NOON, a_frame, a_lamp, a_place, a_setup
from tests.tables import tabled

FIELD, TILED = Surroundings(Place(name="A field")), Surroundings(a_place("terracotta tile"))


class Kept(dict):
    put = dict.__setitem__

    def get_or_make(self, key, make):
        return self[key] if key in self else self.setdefault(key, make())


def a_spot(**changes) -> Spot:
    looks = {"x_m": -1.0, "y_m": 3.0, "z_m": 1.0, "bearing_deg": 180.0}  # at the lamp
    return Spot(**({"piece_id": "spot", "name": "Spot"} | looks | changes))


def built(gear, **changes):
    return build_scene(a_setup(**({"people": (), "spots": (a_spot(),)} | changes)), FIELD, gear, HouseRules())


def whole(banded):
    """Of every band, one below the other."""
    return np.concatenate([each.whole_lx for each in banded])


def part(banded, name):
    return np.concatenate([getattr(each, name) for each in banded])


def test_a_spot_moved_from_minus_one_to_minus_two_gets_its_own_level(gear):
    """hash(-1.0) == hash(-2.0) in Python: what is kept must be told apart by value."""
    rows, about = Kept(), Kept()
    for x_m in (-1.0, -2.0):
        scene = built(gear, lamps=(a_lamp(aims_at="", tilt_deg=0.0),), spots=(a_spot(x_m=x_m),))
        assert whole(response_for(scene, rows, about)) == pytest.approx(whole(fresh_response(scene)), rel=1e-12)
    assert hash(-1.0) == hash(-2.0)


@tabled
def test_what_is_kept_changes_with_all_that_it_depends_on(gear, changes):
    rows, about = Kept(), Kept()
    before = {"lamps": (a_lamp(x_m=-1.0),), "frames": (a_frame(x_m=-1.0),)}
    assert part(response_for(built(gear, **before), rows, about), "via_lx").any()
    scene = built(gear, **(before | changes))
    assert whole(response_for(scene, rows, about)) == pytest.approx(whole(fresh_response(scene)), rel=1e-12)


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
        assert part(found, name) == pytest.approx(part(fresh, name))


def test_a_gel_that_comes_off_and_an_hour_that_passes_are_told_apart(gear):
    rows, about, pale = Kept(), Kept(), Surroundings(a_place("white paint"))
    noon = a_setup(lamps=(a_lamp(sheets=("nd-0.3",)),), when=NOON)
    for setup in (noon, replace(noon, lamps=(a_lamp(),)), replace(noon, when=NOON.replace(hour=8))):
        scene = build_scene(setup, pale, gear, HouseRules())
        found, fresh = response_for(scene, rows, about), fresh_response(scene)
        for name in ("direct_lx", "indirect_lx", "walls_lx"):
            assert part(found, name) == pytest.approx(part(fresh, name), rel=1e-9)


def test_a_piece_on_the_move_is_computed_alone(gear):
    rows, about = Kept(), Kept()
    still, moved = a_lamp(piece_id="still", name="Still"), a_lamp(x_m=-1.0, sheets=("nd-0.3",))
    before = built(gear, lamps=(still, moved))
    response_for(before, rows, about)
    after = built(gear, lamps=(still, replace(moved, x_m=-2.0)))
    found = passing_response_for(after, before, rows, about)
    assert whole(found) == pytest.approx(whole(fresh_response(after)), rel=0.01)
    assert len(rows) == 2  # what passes by is not kept
    # In a room what comes off its walls stays as it was until the lamp is let go.
    rows, about, box = Kept(), Kept(), (still, replace(moved, x_m=1.0))
    before = build_scene(a_setup(people=(), lamps=box), TILED, gear, HouseRules())
    was = response_for(before, rows, about)
    after = build_scene(a_setup(people=(), lamps=(still, replace(moved, x_m=1.5))), TILED, gear, HouseRules())
    found = passing_response_for(after, before, rows, about)
    assert part(found, "indirect_lx") == pytest.approx(part(was, "indirect_lx"))
    assert part(found, "walls_lx") == pytest.approx(part(was, "walls_lx"))
    assert len(was) == 3
    assert was[0].walls_lx.any()
    assert part(found, "direct_lx")[: len(after.lights)] == pytest.approx(fresh_response(after)[0].direct_lx)
    # What is put in on the way has nothing on the walls yet; with another mark nothing of before can be taken over.
    for more in ({"lamps": (*box, a_lamp(piece_id="new"))}, {"lamps": box, "spots": (a_spot(x_m=2.0),)}):
        after = build_scene(a_setup(people=(), **more), TILED, gear, HouseRules())
        found = passing_response_for(after, before, rows, about)
        assert part(found, "direct_lx")[: len(after.lights)] == pytest.approx(fresh_response(after)[0].direct_lx)
        assert found[0].walls_lx.shape == (len(more["lamps"]), was[0].walls_lx.shape[1])
