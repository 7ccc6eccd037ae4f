"""A day laid out, its neighbours and its bound, against the same said slowly: minute by minute, order by order."""

from itertools import combinations, permutations

import numpy as np
import pytest

from iron_bucket.core.days.lay_out import best_nearby
from iron_bucket.core.days.order import Day, Shot
from tests.core.days.test_order import random_day


def missed(shot: Shot) -> np.ndarray:
    """Minutes without its light, for every minute at which it may be begun."""
    lit = np.zeros(6000, dtype=bool)
    for a, b in shot.held or [(0, len(lit))]:
        lit[a:b] = True
    return np.convolve(~lit, np.ones(shot.shoot_min, dtype=int))[shot.shoot_min - 1 :]


def laid_slowly(day: Day, order: tuple[int, ...]) -> list[dict[str, int]]:
    rules, weights, told, before = day.rules, day.rules.weights, [], len(order)
    now = rested = rules.begins_min
    for at in order:
        shot, is_first = day.shots[at], not told
        is_move = not is_first and day.shots[before].place_id != shot.place_id
        if not is_first:
            now += rules.move_min if is_move else rules.turn_round_min
        is_late = not is_first and now + shot.rig_min + shot.shoot_min - rested > rules.break_after_min
        pause = rules.break_min if is_late else 0
        now += pause
        rested = now if is_late else rested
        ready, held_up = now + shot.rig_min, 0
        if not is_first:
            cut = told[-1]["strike_min"]
            ready = max(ready - shot.overlap_min, cut)
            held_up = max(cut + int(day.gaps[before, at]) - ready, 0)
            ready += held_up
        start, late, dark = ready, 0, missed(shot)
        if shot.pinned_min is not None:
            start = max(ready, shot.pinned_min)
            late = start - shot.pinned_min
        else:
            best = ready + int(dark[ready : ready + 1200].argmin())
            gained = dark[ready] - dark[best]
            start = best if gained * weights.missed > (best - ready) * weights.waited else ready
        if rules.curfew_min is not None:
            late += sum(minute >= rules.curfew_min for minute in range(start, start + shot.shoot_min))
        now, row = start + shot.shoot_min + shot.strike_min, {"rig_min": start - shot.rig_min, "shoot_min": start}
        row |= {"strike_min": start + shot.shoot_min, "end_min": now, "missed_min": int(dark[start])}
        row |= {"waited_min": start - ready, "late_min": late, "moved": int(day.pieces[before, at])}
        told.append(row | {"is_move": is_move, "break_min": pause, "held_up_min": held_up})
        before = at
    return told


def cost_slowly(day: Day, order: tuple[int, ...]) -> float:
    rows, weights = laid_slowly(day, order), day.rules.weights
    over = max(max(row["end_min"] for row in rows) - day.rules.ends_min, 0)
    each = {"missed_min": weights.missed, "waited_min": weights.waited, "late_min": weights.late}
    each |= {"is_move": weights.move, "moved": weights.piece}
    return over * weights.overtime + sum(row[name] * weight for row in rows for name, weight in each.items())


def neighbours(order: tuple[int, ...]):
    """One shot, or two that follow one another, somewhere else; or two that have changed places."""
    for length in (1, 2):
        for at in range(len(order) - length + 1):
            block, rest = order[at : at + length], order[:at] + order[at + length :]
            yield from (rest[:to] + block + rest[to:] for to in range(len(rest) + 1))
    for one, other in combinations(range(len(order)), 2):
        swapped = list(order)
        swapped[one], swapped[other] = order[other], order[one]
        yield tuple(swapped)


@pytest.mark.parametrize("seed", range(12))
def test_a_day_is_laid_out_as_it_is_said_slowly(seed):
    day = random_day(seed, 6)
    for order in list(permutations(range(6)))[seed::97]:
        found = day.laid(order)
        rows = laid_slowly(day, order)
        assert [{name: getattr(each, name) for name in rows[0]} for each in found.placed] == rows
        assert found.cost.total == pytest.approx(cost_slowly(day, order))


@pytest.mark.parametrize("seed", range(8))
def test_the_best_neighbour_is_the_cheapest_of_all(seed):
    day = random_day(seed, 5)
    for order in list(permutations(range(5)))[seed::23]:
        least, best = best_nearby(np.array(order, dtype=np.int64), *day.kernel)
        costs = {each: cost_slowly(day, each) for each in neighbours(order)}
        assert least == pytest.approx(min(costs.values()))
        assert costs[tuple(best.tolist())] == pytest.approx(least)
