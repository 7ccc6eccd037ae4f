"""What moves from pass to pass."""

from dataclasses import replace

import pytest

from iron_bucket.core.bucket.pass_kit import pass_kit
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluate.faces import lit_faces
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.core.setups.plan.setup import Camera, Person, PlacedFlag
from iron_bucket.core.setups.sheet.moves import drifts, moves
from tests.core.setups.made import ANNA, a_frame, a_lamp, a_setup, lit_setup

METRIC = UnitSystem.METRIC


def test_the_move_sheet(gear):
    before = a_setup(
        frames=(a_frame(),), flags=(PlacedFlag(piece_id="f", name="Flag", x_m=1, y_m=1, z_m=1, bearing_deg=10.0),)
    )
    key = a_lamp(
        x_m=2.293, y_m=1.793, z_m=1.8, level=0.05, sheets=("nd-0.3",), cct_k=4300.0, configuration="day-led-300.hyper"
    )
    now = replace(
        before,
        camera=Camera(x_m=3.0, y_m=1.3, z_m=1.5, focal_mm=65.0),
        look=Look(t_stop=2.0, iso=400.0, nd_stops=1.0),
        lamps=(key,),
        frames=(a_frame(cloth="cloth-silk"),),
        flags=(replace(before.flags[0], bearing_deg=20.0, piece_id="f"),),
        people=(ANNA, Person(piece_id="ben", name="Ben", x_m=1, y_m=4, z_m=1.6)),
    )
    said = {move.name: move.words for move in moves(before, now, gear, METRIC)}
    assert said["camera"] == ("moves 1.0 m", "65 mm for 35", "T2 for T2.8", "ISO 400 for 800", "1.0 stop of ND for 0")
    assert said["Key"] == ("1.0 m closer", "0.3 m up", "−1.0 stop", "narrow reflector 27°", "ND 0.3 on", "4300 K")
    assert said["Frame"] == ("artificial silk",)
    assert said["Flag"] == ("turned 10°",)
    assert said["Ben"] == ("bring in",)
    back = {move.name: move.words for move in moves(now, before, gear, METRIC)}
    assert back["Key"] == ("1.0 m farther", "0.3 m down", "+1.0 stop", "reflector 55°", "ND 0.3 off")
    assert back["Ben"] == ("strike",)
    assert moves(before, before, gear, METRIC) == ()
    aside = replace(before, lamps=(replace(before.lamps[0], x_m=2.586, y_m=0.2, is_on=False, face=""),))
    assert {move.name: move.words for move in moves(before, aside, gear, METRIC)}["Key"] == ("1.34 m aside", "off")
    boxed = replace(
        before, lamps=(a_lamp(configuration="day-led-300.bare", face="octagon-0.9", grid="grid-octagon-0.9"),)
    )
    words = moves(before, boxed, gear, METRIC)[0].words
    assert words[-2:] == ({each.slug: each for each in gear.faces}["octagon-0.9"].name, "fabric grid 60°")
    assert moves(boxed, before, gear, METRIC)[0].words[-2:] == ("no box", "no grid")
    slanting = replace(before, lamps=(replace(before.lamps[0], x_m=2.0, y_m=1.25),))
    assert {move.name: move.words for move in moves(before, slanting, gear, METRIC)}["Key"][0].endswith(" closer")
    alone = (replace(each, people=()) for each in (before, replace(before, lamps=(a_lamp(x_m=2.586),))))
    assert moves(*alone, gear, METRIC)[0].words == ("1.0 m aside",)
    tiny = replace(before, lamps=(replace(before.lamps[0], x_m=1.6, level=0.101),))
    assert moves(before, tiny, gear, METRIC) == ()


def test_how_far_the_key_turns(gear):
    one = lit_faces(lit_setup(gear))
    other = lit_faces(lit_setup(gear, lamps=(a_lamp(x_m=1.0, y_m=2.5, z_m=2.5),)))
    drift = drifts(one, other)[0]
    assert drift.around_deg == pytest.approx(45.0, abs=0.3)  # from bearing 225 to 270
    assert drift.up_deg == pytest.approx(26.6, abs=0.5)
    assert drifts((), other) == ()
    higher = lit_faces(lit_setup(gear, lamps=(a_lamp(x_m=1.0, y_m=2.5, z_m=2.9),)))
    assert drifts(other, higher)[0].up_deg == pytest.approx(35.0 - 26.6, abs=0.6)
    opened = a_setup(lamps=(a_lamp(doors_deg=(30.0, 90.0, 90.0, 90.0)),))
    assert moves(opened, a_setup(), gear, METRIC)[0].words == ("nothing cuts its beam",)
    assert moves(a_setup(), opened, gear, METRIC)[0].words == ("barn doors top 30°",)


def test_what_stands_is_numbered_apart_from_what_was_picked(gear):
    numbered = pass_kit(a_setup(frames=(a_frame(),)), gear, HouseRules()).entries
    assert [each.entry_id for each in numbered] == [-1 - at for at in range(len(numbered))]
    assert len(numbered) > 2
