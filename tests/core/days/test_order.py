"""Orders of a day: by hand, against all orders, and against the bound."""

from dataclasses import replace
from itertools import pairwise, permutations

import numpy as np
import pytest

from iron_bucket.core.days import ordering
from iron_bucket.core.days.order import Cost, Day, DayRules, Shot, Weights
from iron_bucket.core.days.ordering import DaySchool, of_school, ordered
from iron_bucket.core.errors import BadValue
from tests.tables import table

WIDE = Shot(shot_id=1, place_id=1, rig_min=60, shoot_min=30, strike_min=0, held=((600, 660),))
TIGHT = Shot(shot_id=2, place_id=1, rig_min=10, shoot_min=20, strike_min=10, width=2)
LOCK = Shot(shot_id=3, place_id=2, rig_min=30, shoot_min=40, strike_min=15, held=((500, 520), (700, 800)))
RULES = table(__file__, "RULES")
#: Rows: from each of the three, then from nothing.
PIECES = np.array([[0, 2, 9], [3, 0, 9], [7, 7, 0], [5, 4, 6]], dtype=float)
DAY = Day(shots=(WIDE, TIGHT, LOCK), pieces=PIECES, rules=RULES)


def random_day(seed: int, count: int) -> Day:
    chance = np.random.default_rng(seed)
    shots = []
    for at in range(count):
        begins = np.sort(chance.integers(420, 1100, 4))
        held = tuple((int(a), int(b)) for a, b in begins.reshape(2, 2))
        shots.append(
            Shot(
                shot_id=10 + at,
                place_id=int(chance.integers(0, 3)),
                rig_min=int(chance.integers(5, 60)),
                shoot_min=int(chance.integers(20, 70)),
                strike_min=int(chance.integers(0, 20)),
                width=int(chance.integers(0, 3)),
                held=held if chance.random() < 0.7 else None,
                pinned_min=int(chance.integers(600, 1000)) if chance.random() < 0.15 else None,
                is_hero=bool(chance.random() < 0.2),
                overlap_min=int(chance.integers(0, 6)),
            )
        )
    pieces = chance.integers(0, 12, (count + 1, count)).astype(float)
    gaps = np.where(chance.random((count + 1, count)) < 0.2, 90, 0)
    return Day(shots=tuple(shots), pieces=pieces, gaps=gaps, rules=replace(RULES, break_after_min=300))


def test_a_day_by_hand():
    found = DAY.laid((0, 1, 2))
    wide, tight, lock = found.placed
    # Rigged from 8:00, shot at 9:00 or from 10:00 in its light: 30 min gained for 60 waited, 60 against 30: it waits.
    assert (wide.shoot_min, wide.waited_min, wide.missed_min, wide.end_min) == (600, 60, 0, 630)
    # 5 to turn round, 10 to rig; to strike 10; 40 to the lock, 30 to rig: ready at 755, of 40 min 45 hold.
    assert (tight.rig_min, tight.shoot_min, tight.end_min) == (635, 645, 675)
    assert (lock.rig_min, lock.shoot_min, lock.is_move, lock.missed_min) == (715, 745, True, 0)
    assert (lock.strike_min, lock.end_min) == (785, 800)
    assert [each.moved for each in found.placed] == [5, 2, 9]
    assert found.cost == Cost(
        overtime_min=80,
        missed_min=0,
        waited_min=60,
        late_min=0,
        moves=1,
        pieces=16,
        total=80 * 3.0 + 60 * 0.5 + 30 + 16,
    )
    assert found.ids == (1, 2, 3)
    # All in its light; carried 3, 2 and 6; one move; 215 min of work, 40 to move, 5 to turn round: 20 over.
    assert DAY.bound() == 3 + 2 + 6 + 30 + 20 * 3.0
    # Rigged at nine at the earliest, when its half hour is over.
    soon = Day(shots=(replace(WIDE, held=((480, 510),)),), pieces=np.zeros((2, 1)), rules=RULES)
    assert soon.bound() == 30 * 2.0
    other = DAY.laid((2, 0, 1))
    # 8:30 to 9:10: of 40 min ten hold, and noon is too far to wait for; the wide is ready at 10:25, five minutes late.
    assert [each.missed_min for each in other.placed] == [30, 30, 0]
    assert dict(other.cost.over(found.cost))["min of light missed"] == 60
    assert found.cost.over(found.cost) == ()
    names = ("overtime_min", "missed_min", "waited_min", "late_min", "moves", "pieces")
    one, two = (Cost(**dict(zip(names, counts, strict=True)), total=0.0) for counts in (range(1, 7), range(7, 1, -1)))
    assert [each for _, each in two.over(one)] == [6, 4, 2, -2, -4]


def test_what_is_fixed_what_is_late_and_when_people_rest():
    pinned = DAY.with_pins({2: 540})
    first, second, _ = pinned.laid((1, 0, 2)).placed
    assert (first.shoot_min, first.late_min, first.waited_min, first.rig_min) == (540, 0, 50, 530)
    late = pinned.laid((0, 1, 2)).placed[1]
    assert (late.shoot_min, late.late_min) == (645, 105)
    curfew = replace(DAY, rules=replace(RULES, curfew_min=770)).laid((0, 1, 2))
    assert [each.late_min for each in curfew.placed] == [0, 0, 15]
    assert (
        replace(DAY, rules=replace(RULES, curfew_min=700)).laid((0, 1, 2)).placed[2].late_min == 40
    )  # no more than all
    # 8:00 to 10:30 is 150; up to the end of the next shoot 185, over 180: half an hour before it.
    rests = replace(DAY, rules=replace(RULES, break_after_min=180)).laid((0, 1, 2)).placed
    assert [each.break_min for each in rests] == [0, 30, 0]
    assert rests[1].shoot_min == 675
    assert second.end_min > 0


def test_what_is_pre_lit_and_what_is_too_hot():
    # The tight is rigged in 10 minutes from 10:35 on: six of them while the wide is shot, the rest at its cut.
    ahead = replace(DAY, shots=(WIDE, replace(TIGHT, overlap_min=6), LOCK)).laid((0, 1, 2)).placed[1]
    assert (ahead.rig_min, ahead.shoot_min, ahead.held_up_min) == (629, 639, 0)
    # Not before the cut at 10:30, however much is pre-lit.
    assert replace(DAY, shots=(WIDE, replace(TIGHT, overlap_min=90), LOCK)).laid((0, 1, 2)).placed[1].shoot_min == 630
    gaps = np.zeros((4, 3))
    gaps[0, 1] = 25
    hot = replace(DAY, gaps=gaps).laid((0, 1, 2)).placed
    assert [(each.shoot_min, each.held_up_min) for each in hot[1:]] == [(655, 10), (755, 0)]
    assert replace(DAY, gaps=gaps).laid((0, 2, 1)).placed[2].held_up_min == 0


def test_light_that_is_missed_and_the_best_start():
    assert [WIDE.missed_from(each) for each in (570, 585, 600, 645, 660, 700)] == [30, 15, 0, 15, 30, 30]
    assert (WIDE.best_start(480), WIDE.best_start(610), WIDE.best_start(640), WIDE.best_start(700)) == (
        600,
        610,
        640,
        700,
    )
    assert LOCK.best_start(480) == 700
    short = replace(WIDE, held=((600, 620),))  # ten minutes short of it either way: the earlier
    assert (short.best_start(480), short.missed_from(590), short.best_start(595)) == (590, 10, 595)
    assert (TIGHT.missed_from(0), TIGHT.best_start(33), TIGHT.minutes) == (0, 33, 40)


@pytest.mark.parametrize("seed", range(6))
def test_every_line_of_a_cost_is_weighed(seed):
    chance = np.random.default_rng(seed)
    names = ("overtime", "missed", "waited", "late", "move", "piece")
    weights = Weights(**dict(zip(names, chance.uniform(0.3, 9.0, 6).tolist(), strict=True)))
    day = random_day(seed, 6)
    day = replace(day, rules=replace(day.rules, weights=weights, curfew_min=900))
    cost = day.laid(chance.permutation(6).tolist()).cost
    counts = (cost.overtime_min, cost.missed_min, cost.waited_min, cost.late_min, cost.moves, cost.pieces)
    told = sum(count * getattr(weights, name) for name, count in zip(names, counts, strict=True))
    assert cost.total == pytest.approx(told)
    none_late = day.laid(range(6)).late_for((), weights)
    assert none_late.cost.late_min == 0
    assert none_late.cost.total == pytest.approx(day.total(range(6)) - day.laid(range(6)).cost.late_min * weights.late)
    other = replace(DAY, rules=replace(RULES, weights=weights)).bound()
    assert other == pytest.approx(11 * weights.piece + weights.move + 20 * weights.overtime)


@pytest.mark.parametrize("seed", range(12))
def test_searching_finds_what_all_orders_hold_and_none_is_under_the_bound(seed, monkeypatch):
    day = random_day(seed, 6)
    every = [day.laid(order).cost.total for order in permutations(range(6))]
    exact = ordered(day)
    assert exact.order.cost.total == pytest.approx(min(every))
    assert (exact.is_proved, exact.gap) == (True, 0.0)
    monkeypatch.setattr(ordering, "ALL_ORDERS", 0)
    found = ordered(day)
    assert found.order.cost.total == pytest.approx(min(every))
    assert found.bound <= min(every) + 1e-9
    assert found.gap == pytest.approx(1.0 - found.bound / found.order.cost.total)
    assert day.bound() <= min(every) + 1e-9


@pytest.mark.parametrize("seed", range(6))
def test_the_two_schools_are_orders_of_the_same_day(seed):
    day = random_day(100 + seed, 6)
    best = ordered(day).order.cost.total
    for school in DaySchool:
        found = of_school(day, school)
        assert sorted(found.ids) == [each.shot_id for each in day.shots]
        assert found.cost.total >= best - 1e-9
    places = [(each.shot.place_id, each.shot.width) for each in of_school(day, DaySchool.PLACES).placed]
    runs = [place for at, (place, _) in enumerate(places) if not at or places[at - 1][0] != place]
    assert len(runs) == len(set(runs))
    assert all(a[1] <= b[1] for a, b in pairwise(places) if a[0] == b[0])


def test_heroes_stand_in_their_best_light():
    hero = replace(WIDE, is_hero=True, held=((720, 760),))
    day = Day(shots=(hero, TIGHT, LOCK), pieces=PIECES, rules=replace(RULES, weights=Weights(waited=5.0, missed=0.1)))
    found = of_school(day, DaySchool.HEROES)
    told = {each.shot.shot_id: each for each in found.placed}
    # Waiting counts ten times the light here: the cheapest shoots it at once, this school at noon all the same.
    assert (told[1].shoot_min, told[1].missed_min, found.cost.late_min) == (720, 0, 0)
    assert next(e for e in ordered(day).order.placed if e.shot.shot_id == 1).missed_min > 0
    fixed = replace(day, shots=(replace(hero, pinned_min=600), TIGHT, LOCK))
    at = {each.shot.shot_id: each for each in of_school(fixed, DaySchool.HEROES).placed}
    assert at[1].shoot_min == 600
    assert of_school(day, DaySchool.HEROES).cost.total >= ordered(day).order.cost.total
    assert told[1].missed_min <= {e.shot.shot_id: e for e in ordered(day).order.placed}[1].missed_min


def test_an_empty_day_and_bounds():
    empty = Day(shots=(), pieces=np.zeros((1, 0)), rules=RULES)
    assert (ordered(empty).order.placed, empty.bound()) == ((), 0.0)
    for wrong in ({"begins_min": -1}, {"ends_min": 2161}, {"move_min": 601}, {"break_after_min": 59}):
        with pytest.raises(BadValue):
            DayRules(**wrong)
