"""Arrangements to begin with."""

import math
from dataclasses import fields, replace

import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.places.place import HouseLamp, KitArea
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluate.faces import lit_faces
from iron_bucket.core.setups.evaluate.ladder import ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import lit
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.core.setups.plan.setup import Setup, Target
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.core.setups.suggest.presets import Preset, preset_setup
from tests.core.setups.made import (
    BOX,
    NIGHT,
    NOON,
    RULES,
    a_place,
    lit_setup,
)

METRIC = UnitSystem.METRIC


@pytest.mark.parametrize("beginning", list(Preset))
def test_a_beginning_is_built_from_what_is_ours_and_can_be_lit(gear, beginning):
    globe = HouseLamp(lamp_id="globe", name="Globe", x_m=3, y_m=1, z_m=2.5, lumens=1000)
    exit_ = replace(globe, lamp_id="exit", must_stay=True)
    place = Surroundings(
        a_place(
            "white paint",
            house_lamps=(globe, exit_),
            kit_areas=(KitArea(area_id="k", name="Kit", x_m=0, y_m=0, width_m=1, depth_m=1),),
        )
    )
    setup = preset_setup(beginning, "New", place, gear.in_use(), RULES, Look(t_stop=4.0), NOON)
    found = lit(build_scene(setup, place, gear, RULES))
    for light in found.built.lights:
        if light.fixture:
            pieces = (light.fixture.head, light.fixture.face)
            assert all(piece is None or piece.is_owned for piece in pieces)
            assert not light.fixture.head.is_hot
            assert light.placed.z_m <= 3.0 - 0.35 + 1e-9
            assert light.lowest <= light.placed.level <= 1.0
    assert setup.house_off == ("globe",)
    assert (setup.lamps == ()) == (beginning is Preset.EMPTY)
    assert place.room_at(setup.camera.x_m, setup.camera.y_m) == 0
    assert ladder_of(found, RULES.receptor).lost == ()
    assert setup.name == "New"


def test_a_beginning_is_scaled_to_the_room_and_needs_a_lamp(gear):
    small, outside = (
        preset_setup(Preset.WINDOW_TALK, "N", Surroundings(place), gear, RULES, Look(), NOON)
        for place in (a_place(), a_place(rooms=(), circuits=(), sockets=()))
    )
    assert [
        abs(each.camera.x_m - each.people[0].x_m) + abs(each.camera.y_m - each.people[0].y_m)
        for each in (small, outside)
    ] == pytest.approx([0.55 * 0.8 * 6.0, 0.55 * 8.0], abs=0.02)
    with pytest.raises(BadValue, match="a head of ours that can play this part"):
        preset_setup(
            Preset.WINDOW_TALK,
            "N",
            BOX,
            replace(gear, heads=tuple(replace(head, owned=0) for head in gear.heads)),
            RULES,
            Look(),
            NOON,
        )
    # From the face at (2.28, 2.5) through the middle of the pane at (3, 5, 1.6), two metres beyond it; the fill stands
    # across from it.
    morning = preset_setup(Preset.MORNING, "N", BOX, gear, RULES, Look(), NIGHT)
    sun, fill = morning.lamps
    away = 2.0 / math.dist((2.28, 2.5, 1.3), (3.0, 5.0, 1.6))
    assert (sun.x_m, sun.y_m, sun.z_m) == pytest.approx(
        (3.0 + 0.72 * away, 5.0 + 2.5 * away, 1.6 + 0.3 * away), abs=0.01
    )
    assert fill.y_m < 2.5
    assert lit_faces(lit_setup(gear, morning))[0].key_light == "Morning sun"
    # No window of its own that lies aside: a lamp in the room plays the sun, and stands off the wall.
    blind = replace(a_place(), rooms=(replace(a_place().rooms[0], openings=()),))
    sun = preset_setup(Preset.MORNING, "N", Surroundings(blind), gear, RULES, Look(), NOON).lamps[0]
    assert BOX.room_at(sun.x_m, sun.y_m) == 0
    assert (sun.x_m, sun.y_m) == pytest.approx(
        (2.28 + 2.4 * 0.95 * math.cos(math.radians(70)), 2.5 - 2.4 * 0.95 * math.sin(math.radians(70))), abs=0.02
    )
    night = preset_setup(Preset.NIGHT_TABLE, "N", BOX, gear, RULES, Look(), NOON)
    assert (night.when.hour, night.look.white_balance_k) == (22, 3200.0)
    assert {each.name for each in fields(Setup)} >= {"films", "house_off"}
    assert Target(piece_id="x", mark="y", stops=0.0).tolerance == pytest.approx(1 / 3)
