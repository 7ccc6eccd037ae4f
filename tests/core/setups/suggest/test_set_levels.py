"""Levels for all targets at once."""

import math
from dataclasses import replace

import pytest

from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluate.ladder import ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import lit
from iron_bucket.core.setups.plan.changes import changed
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.core.setups.suggest.set_levels import solved_setup
from tests.core.setups.made import BOX, NOON, OPEN_AIR, READS_FLAT, RULES, a_lamp, a_target, lit_setup
from tests.tables import table

METRIC = UnitSystem.METRIC


def test_dimmers_are_solved_for_all_targets(gear):
    lamps = table(__file__, "lamps")
    targets = table(__file__, "targets of test_dimmers_are_solved_for_all_targets")
    found = lit_setup(gear, lamps=lamps, targets=targets, look=Look(t_stop=5.6))
    solved = solved_setup(found, Receptor.DOME)
    setup = changed(found.built.setup, solved.changes)
    ladder = ladder_of(lit(build_scene(setup, BOX, gear, RULES)), RULES.receptor)
    assert ladder.missed == ()
    assert (solved.misses, solved.switched_off) == ((), ())
    assert solved_setup(lit(build_scene(setup, BOX, gear, RULES)), Receptor.DOME).changes == ()  # it stands as it is
    locked = replace(found.built.setup, lamps=(replace(lamps[0], is_locked=True), *lamps[1:]))
    assert {
        each.piece_id for each in solved_setup(lit(build_scene(locked, BOX, gear, RULES)), Receptor.DOME).changes
    } == {"b", "w"}


def test_targets_that_fight_are_named_and_day_stays_as_it_is(gear):
    targets = table(__file__, "targets")
    found = lit_setup(gear, targets=targets, when=NOON)
    solved = solved_setup(found, Receptor.DOME)
    told = {each.name: each for each in solved.misses}
    assert told["Anna key side"].because == "because of Anna shadow side"
    assert told["Anna key side"].miss_stops * told["Anna shadow side"].miss_stops < 0.0  # one over, one under
    assert {each.piece_id for each in solved.changes} <= {"key"}
    back = a_target(piece_id="u", mark="anna.back", stops=0.0)
    partly = solved_setup(lit_setup(gear, targets=(a_target(stops=-1.0), back), surroundings=OPEN_AIR), Receptor.DOME)
    assert (partly.beyond, [each.piece_id for each in partly.changes]) == (("Anna back edge",), ["key"])
    with pytest.raises(NoAnswer, match="no lamp that is on reaches Anna back edge"):
        solved_setup(lit_setup(gear, targets=(back,), surroundings=OPEN_AIR), Receptor.DOME)
    with pytest.raises(NoAnswer, match="no target is set"):
        solved_setup(lit_setup(gear), Receptor.DOME)
    with pytest.raises(NoAnswer, match="no lamp of ours is on"):
        solved_setup(lit_setup(gear, lamps=(a_lamp(is_on=False),), targets=(a_target(),)), Receptor.DOME)


def test_lamps_that_burn_well_above_their_lowest_stay_on_and_locked_ones_are_counted(gear):
    lamps = (a_lamp(level=0.1), a_lamp(piece_id="b", name="B", x_m=1.4, y_m=1.3, level=0.1))
    found = lit_setup(gear, lamps=lamps, targets=(a_target(stops=2.5),))
    assert solved_setup(found, Receptor.DOME).switched_off == ()
    locked = (replace(lamps[0], is_locked=True), lamps[1])
    now = ladder_of(lit_setup(gear, lamps=locked), RULES.receptor).rung("anna.key").stops
    found = lit_setup(gear, lamps=locked, targets=(a_target(stops=now + 0.4, tolerance=0.1),))
    (change,) = solved_setup(found, Receptor.DOME).changes
    after = ladder_of(lit_setup(gear, changed(found.built.setup, (change,))), RULES.receptor)
    assert (change.piece_id, after.missed) == ("b", ())


def test_a_lamp_at_its_lowest_stays_on_where_nothing_else_reaches_its_target(gear):
    lamps = (a_lamp(level=0.2), a_lamp(piece_id="b", name="B", x_m=4.9, y_m=3.6, level=0.02))
    dim = {"lamps": lamps, "surroundings": OPEN_AIR}
    now = ladder_of(lit_setup(gear, **dim, rules=READS_FLAT), READS_FLAT.receptor)
    lowest = lit_setup(gear, **dim).built.lights[1].lowest
    stops = now.rung("anna.shadow").stops + math.log2(1.2 * lowest / 0.02)
    targets = (a_target(stops=0.0), a_target(piece_id="u", mark="anna.shadow", stops=stops))
    found = lit_setup(gear, **dim, rules=READS_FLAT, targets=targets)
    assert solved_setup(found, READS_FLAT.receptor).switched_off == ()


def test_a_lamp_that_nothing_needs_is_switched_off_and_a_miss_says_what_is_in_the_way(gear):
    """A second lamp on the same cheek cannot go low enough beside a target that the first one meets alone."""
    lamps = (a_lamp(level=0.2), a_lamp(piece_id="b", name="B", x_m=4.4, level=0.5))
    dim = (a_target(stops=-0.6),)
    found = lit_setup(gear, lamps=lamps, targets=dim, look=Look(t_stop=2.8))
    solved = solved_setup(found, Receptor.DOME)
    assert len(solved.switched_off) == 1
    (off,) = [each for each in solved.changes if each.to == {"is_on": False}]
    assert off.piece_id in ("key", "b")
    kept = solved_setup(found, Receptor.DOME, may_switch_off=False)
    assert (kept.switched_off, [each for each in kept.changes if "is_on" in each.to]) == ((), [])
    after = lit(build_scene(changed(found.built.setup, solved.changes), BOX, gear, RULES))
    assert ladder_of(after, RULES.receptor).rung("anna.key").miss_stops == pytest.approx(0.0, abs=0.01)
    for stops, over, because in (
        (9.0, False, "with every lamp that is on at full"),
        (-9.0, True, "by what cannot be dimmed further"),
        (-7.0, True, "by what cannot be dimmed further"),
    ):
        one = lit_setup(gear, lamps=lamps[:1], targets=(a_target(stops=stops),))
        (miss,) = solved_setup(one, Receptor.DOME).misses
        assert (miss.name, miss.miss_stops > 0.0, miss.because) == ("Anna key side", over, because)
