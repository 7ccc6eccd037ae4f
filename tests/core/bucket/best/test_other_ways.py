"""Levels settle near today's, what-ifs leave lamps out, and a target costs what a third of a stop less saves."""

import numpy as np
import pytest

from iron_bucket.core.bucket.best.optimum import best_for
from iron_bucket.core.bucket.best.problem import Choice, Figures, Goal, Measure, PassLight, Problem, Seat
from iron_bucket.core.bucket.best.settle import settled_levels
from iron_bucket.core.bucket.best.target_price import target_prices
from iron_bucket.core.bucket.best.what_ifs import WhatIf, narrowed
from iron_bucket.core.errors import NoAnswer
from tests.tables import tabled

ANY = np.array([np.inf])
MONEY = Goal(weights={Measure.MONEY: 1.0})


def choice(head: str, lux: float, **changes) -> Choice:
    made = {"name": head, "pieces": {(head, 1.0): 1}, "lowest": 0.1, "highest": 1.0, "idle_va": 0.0, "span_va": 230.0}
    return Choice(**(made | {"head": head, "lux": np.array([lux])} | changes))


def problem(*choices: Choice, low: float = 0.0, high=ANY, level: float = 0.5, **figures) -> Problem:
    seat = Seat(pass_id=1, chain=1, holder="key", choices=choices, level=level, name="Key in One")
    light = PassLight(pass_id=1, base_lx=np.array([20.0]), low_lx=np.array([low]), high_lx=np.array(high))
    made = {"weight_kg": 2.0, "case_share": 0.5, "ready": 0}
    return Problem(
        seats=(seat,),
        lights=(light,),
        times=((1,),),
        figures={each: Figures(**(made | {"price": figures.get(each[0], 0.0)})) for c in choices for each in c.pieces},
    )


@tabled
def test_levels_settle_as_near_to_today_as_they_may(low, high, now, is_kept, level):
    given = problem(choice("a", 100.0), low=low, high=[high], level=now)
    assert settled_levels(given, (0,), (0.5,), is_amps_kept=is_kept)[0] == pytest.approx(level, abs=1e-4)


def test_another_lamp_settles_at_the_light_of_todays():
    given = problem(choice("a", 100.0), choice("b", 400.0))
    assert settled_levels(given, (1,), (1.0,), is_amps_kept=False)[0] == pytest.approx(0.125, abs=1e-4)
    dark = problem(choice("a", 0.0))
    assert settled_levels(dark, (0,), (0.7,), is_amps_kept=False) == (0.7,)  # nothing to go by


LAMPS = (
    choice("led", 100.0, technology="LED day", is_on_battery=False, one_kg=9.0),
    choice("hot", 100.0, technology="tungsten", is_on_battery=False, one_kg=26.0),
    choice("cell", 100.0, technology="LED full colour", is_on_battery=True, one_kg=25.0),
)


@tabled
def test_a_what_if_leaves_out_what_it_does_not_want(what_if, heads):
    asked, goal = narrowed(problem(*LAMPS), MONEY, what_if, lift_kg=25.0, van_kg=800.0)
    assert [each.head for each in asked.seats[0].choices] == heads
    assert goal.may_hire == (what_if is not WhatIf.NO_HIRE)
    assert goal.caps == ({Measure.WEIGHT: 800.0} if what_if is WhatIf.ONE_VAN else {})
    if len(heads) == 1:
        others = problem(*(each for each in LAMPS if each.head not in heads))
        with pytest.raises(NoAnswer, match=rf"^{what_if.value.capitalize()}: no such lamp can replace Key in One\.$"):
            narrowed(others, MONEY, what_if, lift_kg=25.0, van_kg=None)


def test_a_van_caps_no_more_than_the_crew_does_and_has_to_be_there():
    tight = Goal(weights={Measure.MONEY: 1.0}, caps={Measure.WEIGHT: 90.0, Measure.AMPS: 3.0})
    _, goal = narrowed(problem(*LAMPS), tight, WhatIf.ONE_VAN, lift_kg=25.0, van_kg=800.0)
    assert goal.caps == {Measure.WEIGHT: 90.0, Measure.AMPS: 3.0}
    with pytest.raises(NoAnswer, match="no vehicle"):
        narrowed(problem(*LAMPS), MONEY, WhatIf.ONE_VAN, lift_kg=25.0, van_kg=None)


def test_a_third_of_a_stop_costs_the_dearer_lamp():
    # 200 lx are wanted; with the 20 there the cheap one gives 170: enough for 200 / 2 ** (1/3) = 158.7.
    given = problem(choice("cheap", 150.0), choice("dear", 300.0), low=200.0, cheap=20.0, dear=50.0)
    best = best_for(given, MONEY)
    assert given.seats[0].choices[best.chosen[0]].head == "dear"
    told = []
    found = list(target_prices(given, MONEY, best, {1: {0: "Wall"}}, lambda done, of: told.append((done, of))))
    assert [(each.pass_id, each.name, each.saved[Measure.MONEY]) for each in found] == [(1, "Wall", 30.0)]
    assert (found[0].is_free, told) == (False, [(0, 1)])
    free = problem(choice("cheap", 170.0), choice("dear", 300.0), low=180.0, level=0.9412, cheap=20.0, dear=50.0)
    (price,) = target_prices(free, MONEY, best_for(free, MONEY), {1: {0: "Wall"}})
    assert price.is_free
    assert Goal(weights={Measure.MONEY: 2.0}).with_ties_broken().weights == {
        Measure.MONEY: 2.0,
        Measure.WEIGHT: 1e-3,
        Measure.CASES: 1e-3,
        Measure.AMPS: 1e-3,
    }


def test_a_level_at_its_limit_with_room_on_one_side_of_todays_light():
    """Two lamps on one mark of 20 lx: together they give today's 120, however the first is held."""
    first, second = choice("a", 100.0, highest=0.2), choice("b", 200.0)
    pair = problem(first, low=0.0)
    seats = (pair.seats[0], Seat(pass_id=1, chain=1, holder="fill", choices=(second,), level=0.4))
    both = Problem(
        seats=seats, lights=pair.lights, times=pair.times, figures={**pair.figures, **problem(second).figures}
    )
    found = settled_levels(both, (0, 0), (0.2, 0.9), is_amps_kept=False)  # today: 0.5 of 100 and 0.4 of 200, and 20
    assert found[0] * 100.0 + found[1] * 200.0 == pytest.approx(130.0, abs=0.1)
    assert found[0] <= 0.2
