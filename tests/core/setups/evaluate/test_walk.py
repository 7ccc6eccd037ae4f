"""A walk is the set-up with somebody at one place after the other."""

import math
from dataclasses import replace

import pytest

from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.setups.evaluate.ladder import ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import fresh_response
from iron_bucket.core.setups.evaluate.walk import next_position_name, walks
from iron_bucket.core.setups.plan.setup import Position
from tests.core.setups.made import ANNA, BOX, OPEN_AIR, RULES, a_lamp, a_place, a_setup, a_target, lit_setup


def a_position(name: str, x_m: float, y_m: float, **changes) -> Position:
    place = {"x_m": x_m, "y_m": y_m, "z_m": 1.5, "bearing_deg": 180.0}
    return Position(**({"piece_id": name, "name": f"Anna {name}", "person": "anna"} | place | changes))


def walk_of(gear, *positions, surroundings=OPEN_AIR, **changes):
    found = lit_setup(gear, positions=positions, surroundings=surroundings, **changes)
    return found, walks(found, gear, RULES, fresh_response)[0]


def there(gear, found, step, position, surroundings=OPEN_AIR):
    """The ladder with her where a step lies, looking as she does there."""
    anna = replace(ANNA, x_m=step.x_m, y_m=step.y_m, z_m=position.z_m, bearing_deg=position.bearing_deg)
    ladder = ladder_of(lit_setup(gear, replace(found.built.setup, people=(anna,)), surroundings), RULES.receptor)
    return [ladder.rung(mark).stops for mark in ("anna.key", "anna.shadow")]


def test_each_position_is_lit_as_if_she_stood_there(gear):
    ends = (a_position("B", 3.0, 3.7, z_m=1.7, bearing_deg=170.0), a_position("C", 4.0, 3.7))
    fill = a_lamp(piece_id="fill", name="Fill", x_m=1.8, y_m=2.0, level=0.3)
    off = a_lamp(piece_id="off", name="Off", is_on=False)
    for around in (OPEN_AIR, BOX):
        found, walk = walk_of(gear, *ends, surroundings=around, lamps=(a_lamp(), off, fill))
        assert [step.name for step in walk.positions] == ["A", "B", "C"]
        assert [step.along_m for step in walk.positions] == pytest.approx([0.0, 1.2, 2.2])
        for step, position in zip(walk.positions, (ANNA, *ends), strict=True):
            assert [step.key_stops, step.shadow_stops] == pytest.approx(there(gear, found, step, position, around))
            wanted_lx = found.built.setup.look.wanted_lx(RULES.receptor)
            assert math.log2(step.key_lx / wanted_lx) == pytest.approx(step.key_stops)
            assert [name for name, _ in step.key_by_light] == ["Fill", "Key"]  # the nearer is the brighter
    # In steps of no more than 0.4 m; on the way the light is that of a coarser look.
    assert [round(step.along_m, 3) for step in walk.steps] == pytest.approx(
        [0.0, 0.4, 0.8, 1.2, 1.533, 1.867, 2.2], abs=1e-3
    )
    found, walk = walk_of(gear, *ends)
    half = walk.steps[1]
    between = replace(ends[0], z_m=1.5 + 0.2 / 3, bearing_deg=180.0 - 10.0 / 3)
    assert (half.x_m, half.y_m) == pytest.approx((3.0, 2.9))
    assert [half.key_stops, half.shadow_stops] == pytest.approx(there(gear, found, half, between), abs=0.05)


def test_she_turns_evenly_on_the_way(gear):
    ends = a_position("B", 3.0, 3.3, bearing_deg=90.0)
    found, walk = walk_of(gear, ends)
    half = walk.steps[1]
    looking = replace(ends, bearing_deg=135.0)
    assert [half.key_stops, half.shadow_stops] == pytest.approx(there(gear, found, half, looking), abs=0.05)
    away = there(gear, found, half, replace(ends, bearing_deg=225.0))
    assert abs(away[0] - half.key_stops) > 0.15
    assert walk.tolerance == pytest.approx(1.0 / 3.0)


def test_what_comes_off_the_walls_is_between_that_at_both_ends(gear):
    """One position far from the other, in a white box with a lamp that looks away: all is off walls."""
    lamp = a_lamp(aims_at="", bearing_deg=270.0, level=1.0)
    pale = Surroundings(a_place("white paint"))
    _, walk = walk_of(gear, a_position("B", 3.0, 2.9), surroundings=pale, lamps=(lamp,))
    assert len(walk.steps) == 2  # 0.4 m is one step
    _, walk = walk_of(gear, a_position("B", 3.0, 3.3), surroundings=pale, lamps=(lamp,))
    first, middle, last = (2.0**step.shadow_stops for step in walk.steps)
    assert middle == pytest.approx((first + last) / 2.0, rel=0.02)
    assert first > 2.0**-14


def test_the_worst_is_told_with_where_it_lies(gear):
    """Towards the key by half its distance, and past it: brightest right before it."""
    lamp = a_lamp(x_m=3.0, y_m=0.0, z_m=1.5, aims_at="", bearing_deg=0.0, level=0.02)
    anna = replace(ANNA, y_m=4.0)
    near = a_position("B", 3.0, 2.0)
    _, walk = walk_of(gear, near, people=(anna,), lamps=(lamp,))
    assert walk.worst is walk.steps[-1]
    assert walk.wanted == walk.steps[0].key_stops
    assert walk.worst.key_stops - walk.wanted == pytest.approx(2.0 * math.log2(4.0 / 2.0), abs=0.1)
    assert not walk.holds
    assert walk.between(walk.worst) == ("B", "B")
    assert walk.between(walk.steps[1]) == ("A", "B")
    loose = a_target(stops=walk.wanted + 0.5, tolerance=2.0)
    assert walk_of(gear, near, people=(anna,), lamps=(lamp,), targets=(loose,))[1].holds
    tight = replace(loose, tolerance=0.4)
    strict = walk_of(gear, near, people=(anna,), lamps=(lamp,), targets=(tight,))[1]
    assert (strict.wanted, strict.holds, strict.worst.name) == (pytest.approx(walk.wanted + 0.5), False, "B")
    long = walk_of(gear, a_position("B", 3.0, 40.0), people=(anna,), lamps=(lamp,))[1]
    assert len(long.steps) == 9
    ends = (near, a_position("C", 1.0, 1.0))
    names = [next_position_name(a_setup(positions=ends[at:]), ANNA) for at in (0, 1, 2)]
    assert names == ["Anna D", "Anna B", "Anna B"]
    same = walk_of(gear, replace(near, name="Anna"), people=(anna,), lamps=(lamp,))[1]
    assert [step.name for step in same.positions] == ["A", "Anna"]  # a name of its own stays a position
    assert walks(lit_setup(gear, a_setup()), gear, RULES, fresh_response) == ()
