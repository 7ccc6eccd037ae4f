"""The best kit against every choice that there is, on small cases."""

from dataclasses import replace
from itertools import product

import numpy as np
import pytest
from scipy.optimize import linprog

from iron_bucket.core.bucket.best import optimum, windows
from iron_bucket.core.bucket.best.bound import least_cost
from iron_bucket.core.bucket.best.optimum import best_for
from iron_bucket.core.bucket.best.problem import (
    Choice,
    Figures,
    Goal,
    Measure,
    PassLight,
    Problem,
    Seat,
    counted,
    light_of,
    measured,
)
from iron_bucket.core.errors import BadValue, NoAnswer

HEADS = tuple("abcdef")


def a_choice(chance, head: str, marks: int) -> Choice:
    return Choice(
        name=head,
        head=head,
        pieces={(head, 1.0): 1, (str(chance.choice(["light", "heavy"])), 1.0): int(chance.integers(1, 3))},
        lowest=float(chance.uniform(0.05, 0.3)),
        highest=float(chance.uniform(0.5, 1.0)),
        idle_va=float(chance.uniform(0, 20)),
        span_va=float(chance.uniform(50, 600)),
        lux=chance.uniform(0.0, 900.0, marks),
    )


def a_problem(seed: int) -> Problem:
    """Three set-ups of one or two lamps, six heads, two of the set-ups out together, two of one chain."""
    chance = np.random.default_rng(seed)
    seats, lights = [], []
    for number in (1, 2, 3):
        for holder in "xy"[: int(chance.integers(1, 3))]:
            picked = chance.choice(HEADS, 3, replace=False)
            seats.append(
                Seat(
                    pass_id=number,
                    chain=min(number, 2),
                    holder=holder,
                    choices=tuple(a_choice(chance, str(head), 3) for head in picked),
                    level=0.3,
                )
            )
        low = chance.uniform(0.0, 250.0, 3) * chance.integers(0, 2, 3)
        high = np.where(chance.random(3) < 0.5, low + chance.uniform(200.0, 900.0, 3), np.inf)
        lights.append(PassLight(pass_id=number, base_lx=chance.uniform(0.0, 50.0, 3), low_lx=low, high_lx=high))
    figures = {
        (name, 1.0): Figures(
            weight_kg=float(chance.uniform(1, 15)),
            price=float(chance.integers(0, 60)),
            case_share=float(chance.uniform(0.05, 0.6)),
            ready=int(chance.integers(0, 3)),
        )
        for name in (*HEADS, "light", "heavy")
    }
    fixed = {1: {("light", 1.0): 1}, 3: {("heavy", 1.0): 2}}
    return Problem(seats=tuple(seats), lights=tuple(lights), times=((1,), (2, 3)), figures=figures, fixed=fixed)


def levels_that_hold(problem: Problem, chosen, amps_count: float):
    """Levels that hold every target, drawing least; None where none do."""
    picked = [seat.choices[at] for seat, at in zip(problem.seats, chosen, strict=True)]
    rows, ends = [], []
    for light in problem.lights:
        of_pass = np.array(
            [
                choice.lux if seat.pass_id == light.pass_id else np.zeros(3)
                for seat, choice in zip(problem.seats, picked, strict=True)
            ]
        )
        for mark in range(3):
            rows += [-of_pass[:, mark], of_pass[:, mark]]
            ends += [light.base_lx[mark] - light.low_lx[mark], light.high_lx[mark] - light.base_lx[mark]]
    keep = np.isfinite(ends)
    # One column more: the amps of the time that draws most.
    matrix = np.hstack([np.array(rows)[keep], np.zeros((int(keep.sum()), 1))])
    drawn, idle = [], []
    for together in problem.times:
        is_on = np.array([seat.pass_id in together for seat in problem.seats])
        drawn.append([*(np.array([choice.span_va for choice in picked]) * is_on / 230.0), -1.0])
        idle.append(-sum(choice.idle_va for choice, on in zip(picked, is_on, strict=True) if on) / 230.0)
    bounds = [(choice.lowest, choice.highest) for choice in picked] + [(0.0, None)]
    found = linprog(
        [*np.zeros(len(picked)), amps_count or 1e-9],
        A_ub=np.vstack([matrix, drawn]),
        b_ub=[*np.array(ends)[keep], *idle],
        bounds=bounds,
    )
    return found.x[:-1].tolist() if found.success else None


WEIGHTS = (
    {Measure.MONEY: 1.0, Measure.WEIGHT: 0.01},
    {Measure.WEIGHT: 1.0},
    {Measure.CASES: 1.0, Measure.AMPS: 0.2},
    {Measure.AMPS: 1.0, Measure.MONEY: 0.05},
)


@pytest.mark.parametrize("seed", range(5))
@pytest.mark.parametrize("weights", WEIGHTS, ids=lambda weights: next(iter(weights)).value)
def test_no_choice_is_better(seed, weights):
    problem = a_problem(seed)
    today = measured(problem, [0] * len(problem.seats), [seat.level for seat in problem.seats])

    def cost(measures) -> float:
        return sum(weight * measures[name] / max(today[name], 1e-6) for name, weight in weights.items())

    # Cheapest first by what needs no levels; once that alone costs more than the best found, nothing better follows.
    every = []
    for chosen in product(*(range(len(seat.choices)) for seat in problem.seats)):
        lowest = [seat.choices[at].lowest for seat, at in zip(problem.seats, chosen, strict=True)]
        every.append((cost(measured(problem, list(chosen), lowest)), chosen))
    costs = []
    for least, chosen in sorted(every):
        if costs and least >= min(costs):
            break
        levels = levels_that_hold(problem, chosen, weights.get(Measure.AMPS, 0.0))
        if levels is not None:
            costs.append(cost(measured(problem, list(chosen), levels)))
    goal = Goal(weights=weights)
    if not costs:
        with pytest.raises(NoAnswer, match="No choice of lamps holds every target"):
            best_for(problem, goal)
        return
    best = best_for(problem, goal, gap=0.0)
    assert cost(best.measures) == pytest.approx(min(costs), rel=1e-5, abs=1e-6)
    assert best.today == today
    assert best.gap <= 1e-6
    for light in problem.lights:
        found = light_of(problem, list(best.chosen), list(best.levels))[light.pass_id]
        assert (found >= light.low_lx - 1e-2).all()
        assert (found <= light.high_lx + 1e-2).all()


@pytest.mark.parametrize("seed", range(1, 5))
def test_a_large_job_by_parts_is_nearly_as_good_and_holds_every_target(seed, monkeypatch):
    problem, goal = a_problem(seed), Goal(weights={Measure.WEIGHT: 1.0, Measure.AMPS: 0.2})
    whole = best_for(problem, goal, gap=0.0)
    monkeypatch.setattr(optimum, "_WHOLE", 0)
    monkeypatch.setattr(windows, "_SEATS", 2)
    parts = best_for(problem, goal, gap=0.0)
    for light in problem.lights:
        found = light_of(problem, list(parts.chosen), list(parts.levels))[light.pass_id]
        assert (found >= light.low_lx - 1e-2).all()
        assert (found <= light.high_lx + 1e-2).all()
    assert (
        whole.measures[Measure.WEIGHT] * 0.999
        <= parts.measures[Measure.WEIGHT]
        <= 1.25 * whole.measures[Measure.WEIGHT]
    )
    assert whole.gap == pytest.approx(0.0, abs=1e-6)
    goal_of = sum(weight * parts.measures[name] / whole.today[name] for name, weight in goal.weights.items())
    least = sum(weight * whole.measures[name] / whole.today[name] for name, weight in goal.weights.items())
    assert 1.0 - least / goal_of - 1e-6 <= parts.gap < 0.75
    bound = least_cost(problem, goal, parts.today, 5.0)
    assert parts.gap == pytest.approx(1.0 - bound / goal_of, abs=1e-6)


def test_what_a_part_does_not_choose_is_there_and_draws_all_the_same():
    lights = (DARK, PassLight(pass_id=2, base_lx=np.zeros(1), low_lx=np.array([50.0]), high_lx=np.array([np.inf])))
    seats = [a_seat(plain("ours"), plain("dear"), pass_id=number, chain=number) for number in (1, 2)]
    problem = a_small(*seats, lights=lights, times=((1, 2),), drawn_va={1: 460.0})
    asked = []

    def solve(part, seconds):
        asked.append(
            (part.seats[0].pass_id, dict(part.fixed.get(1, {})), dict(part.fixed.get(2, {})), dict(part.drawn_va))
        )
        assert seconds > 0.0
        return (0,), (0.5,)

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(windows, "_SEATS", 1)
        assert windows.in_windows(problem, solve, 5.0) == ((0, 0), (0.5, 0.5))
    ours = {("ours", 1.0): 1}
    assert asked == [
        (1, {}, {}, {1: 460.0}),
        (2, ours, {}, {1: 575.0}),
        (1, {}, ours, {1: 460.0, 2: 115.0}),
        (2, ours, {}, {1: 575.0}),
    ]
    drawn = best_for(problem, Goal(weights={Measure.AMPS: 1.0}))
    assert drawn.measures[Measure.AMPS] == pytest.approx(2.0 + 2 * 0.5, abs=1e-3)
    grouped = a_small(*(replace(seat, group="one") for seat in seats), lights=lights, times=((1,), (2,)))
    assert len(set(best_for(grouped, Goal(weights={Measure.CASES: 1.0})).chosen)) == 1


def a_seat(*choices: Choice, pass_id: int = 1, chain: int = 1, holder: str = "x", **changes) -> Seat:
    return Seat(pass_id=pass_id, chain=chain, holder=holder, choices=choices, **changes)


def plain(head: str, **changes) -> Choice:
    made = {
        "pieces": {(head, 1.0): 1},
        "lowest": 0.1,
        "highest": 1.0,
        "idle_va": 0.0,
        "span_va": 230.0,
        "lux": np.array([100.0]),
    }
    return Choice(**({"name": head, "head": head} | made | changes))


DEAR = Figures(weight_kg=2.0, price=30.0, case_share=0.5, ready=0)
OURS = Figures(weight_kg=8.0, price=20.0, case_share=0.5, ready=1)
FIGURES = {("dear", 1.0): DEAR, ("ours", 1.0): OURS}
DARK = PassLight(pass_id=1, base_lx=np.zeros(1), low_lx=np.array([50.0]), high_lx=np.array([np.inf]))


def a_small(*seats: Seat, lights=(DARK,), times=((1,),), **changes) -> Problem:
    return Problem(seats=seats, lights=lights, times=times, figures=FIGURES, **changes)


def heads_of(best, problem) -> list[str]:
    return [seat.choices[at].head for seat, at in zip(problem.seats, best.chosen, strict=True)]


def test_ours_first_then_what_is_light_within_the_caps():
    problem = a_small(a_seat(plain("dear"), plain("ours")))
    money, weight = Goal(weights={Measure.MONEY: 1.0}), Goal(weights={Measure.WEIGHT: 1.0})
    assert heads_of(best_for(problem, money), problem) == ["ours"]
    assert heads_of(best_for(problem, weight), problem) == ["dear"]
    capped = Goal(weights={Measure.MONEY: 1.0}, caps={Measure.WEIGHT: 5.0})
    best = best_for(problem, capped)
    assert (heads_of(best, problem), best.measures[Measure.WEIGHT]) == (["dear"], 2.0)
    own = Goal(weights={Measure.WEIGHT: 1.0}, may_hire=False)
    assert heads_of(best_for(problem, own), problem) == ["ours"]
    with pytest.raises(NoAnswer, match="within the caps"):
        best_for(problem, Goal(weights={Measure.MONEY: 1.0}, caps={Measure.WEIGHT: 5.0}, may_hire=False))
    amps = best_for(problem, Goal(weights={Measure.AMPS: 1.0}))
    assert (amps.levels[0], amps.measures[Measure.AMPS]) == (pytest.approx(0.5, abs=1e-4), pytest.approx(0.5, abs=1e-3))


def test_a_lamp_of_a_chain_is_there_once_and_others_add_up():
    lights = (DARK, PassLight(pass_id=2, base_lx=np.zeros(1), low_lx=np.zeros(1), high_lx=np.array([np.inf])))
    both = [a_seat(plain("ours"), pass_id=number, chain=1) for number in (1, 2)]
    together = {"lights": lights, "times": ((1, 2),)}
    assert counted(a_small(*both, **together), [0, 0]) == {("ours", 1.0): 1}
    apart = [a_seat(plain("ours"), pass_id=number, chain=number) for number in (1, 2)]
    assert counted(a_small(*apart, **together), [0, 0]) == {("ours", 1.0): 2}
    assert counted(a_small(*apart, lights=lights, times=((1,), (2,))), [0, 0]) == {("ours", 1.0): 1}
    for seats, price in ((both, 0.0), (apart, 20.0)):
        found = best_for(a_small(*seats, **together), Goal(weights={Measure.MONEY: 1.0}))
        assert found.measures[Measure.MONEY] == price
    fixed = a_small(both[0], fixed={1: {("ours", 1.0): 2}})
    assert best_for(fixed, Goal(weights={Measure.MONEY: 1.0})).measures[Measure.MONEY] == 40.0


def test_what_makes_no_sense_is_refused():
    with pytest.raises(BadValue, match="one lamp at least"):
        a_small(a_seat())
    with pytest.raises(BadValue, match="a figure for each mark"):
        a_small(a_seat(plain("ours", lux=np.zeros(2))))
    with pytest.raises(BadValue, match="all 0"):
        Goal(weights={Measure.MONEY: 0.0})
    for bad in ({"weights": {Measure.MONEY: -1.0}}, {"weights": {Measure.MONEY: 1.0}, "caps": {Measure.AMPS: -1.0}}):
        with pytest.raises(BadValue, match="is -1"):
            Goal(**bad)


def test_no_more_is_hired_than_the_house_has():
    dear = replace(DEAR, for_hire=1)
    lights = (DARK, PassLight(pass_id=2, base_lx=np.zeros(1), low_lx=np.zeros(1), high_lx=np.array([np.inf])))
    seats = tuple(a_seat(plain("dear"), plain("ours"), pass_id=number, chain=number) for number in (1, 2))
    made = {"seats": seats, "lights": lights, "times": ((1, 2),)}
    weight = Goal(weights={Measure.WEIGHT: 1.0})
    plenty = Problem(**made, figures=FIGURES)
    assert heads_of(best_for(plenty, weight), plenty) == ["dear", "dear"]
    scarce = Problem(**made, figures={**FIGURES, ("dear", 1.0): dear})
    assert sorted(heads_of(best_for(scarce, weight), scarce)) == ["dear", "ours"]


def test_caps_may_be_met_to_the_gram_and_what_is_there_anyway_weighs_nothing_more():
    problem, money = a_small(a_seat(plain("dear"), plain("ours"))), {Measure.MONEY: 1.0}
    assert heads_of(best_for(problem, Goal(weights=money, caps={Measure.WEIGHT: 2.0})), problem) == ["dear"]
    weight = Goal(weights={Measure.WEIGHT: 1.0})
    there = a_small(a_seat(plain("dear"), plain("ours")), anyway={("ours", 1.0): 3})
    assert heads_of(best_for(there, weight), there) == ["ours"]
    # What is capped is drawn no more than that, however bright it is today.
    bright = a_small(a_seat(plain("ours"), level=0.9))
    for caps, drawn_a in (({}, 0.9), ({Measure.AMPS: 0.6}, 0.6)):
        found = best_for(bright, Goal(weights=money, caps=caps)).measures[Measure.AMPS]
        assert found <= drawn_a + 1e-6
        assert bool(caps) or found == pytest.approx(0.9)
    # Two of ours are needed beside the seat, one is ready: without hire a third is out of the question.
    third = a_small(a_seat(plain("ours")), fixed={1: {("ours", 1.0): 2}})
    with pytest.raises(NoAnswer):
        best_for(third, Goal(weights=money, may_hire=False))
    assert best_for(third, Goal(weights=money)).measures[Measure.MONEY] == 40.0


def test_seats_of_a_group_get_one_lamp_even_where_one_of_them_could_do_with_less():
    bright = PassLight(pass_id=2, base_lx=np.zeros(1), low_lx=np.array([150.0]), high_lx=np.array([np.inf]))
    made = {"lights": (DARK, bright), "times": ((1,), (2,))}
    small, large = plain("ours"), plain("dear", lux=np.array([200.0]), span_va=460.0)
    seats = [a_seat(small, large, pass_id=number, chain=number) for number in (1, 2)]
    money = Goal(weights={Measure.MONEY: 1.0})
    apart = a_small(*seats, **made)
    assert heads_of(best_for(apart, money), apart)[1] == "dear"
    one = a_small(*(replace(seat, group="one") for seat in seats), **made)
    assert heads_of(best_for(one, money), one) == ["dear", "dear"]
