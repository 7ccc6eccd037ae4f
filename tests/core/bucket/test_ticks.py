"""Ticks: once each, in any order, whoever sends them."""

from datetime import datetime
from uuid import UUID

import numpy as np
import pytest

from iron_bucket.core.bucket.ticks import Stage, Tally, Tick, Trouble, tallied, thing_of
from iron_bucket.core.errors import BadValue


def a_tick(number: int, **changes) -> Tick:
    made = {
        "tick_id": str(UUID(int=number)),
        "thing": "lamp",
        "stage": Stage.PULLED,
        "made_at": datetime(2026, 6, 1, 9, 0),
    }
    return Tick(**(made | changes))


def tally_of(*ticks: Tick, needed: int = 2) -> Tally:
    return tallied(ticks, {"lamp": needed})["lamp"]


def test_a_tick_that_is_sent_twice_counts_once_and_two_who_tick_the_last_tick_one():
    assert tally_of().at(Stage.PULLED) == 0
    assert tally_of(a_tick(1), a_tick(1)).at(Stage.PULLED) == 1
    both = tally_of(a_tick(1), a_tick(2), a_tick(3))
    assert (both.at(Stage.PULLED), both.over(Stage.PULLED), both.is_done(Stage.PULLED)) == (2, 1, True)
    assert (both.missing(Stage.PULLED), both.missing(Stage.LOADED), both.is_done(Stage.LOADED)) == (0, 2, False)
    back = tally_of(a_tick(1, count=2), a_tick(2, count=-1))
    assert (back.at(Stage.PULLED), back.missing(Stage.PULLED)) == (1, 1)
    assert tally_of(a_tick(1, count=-3)).at(Stage.PULLED) == 0
    gone = tallied([a_tick(1, thing="other")], {"lamp": 1})["other"]
    assert (gone.needed, gone.at(Stage.PULLED), gone.over(Stage.PULLED)) == (0, 0, 1)


def test_what_comes_back_otherwise():
    back = {"stage": Stage.RETURNED}
    found = tally_of(
        a_tick(1, **back),
        a_tick(2, **back, trouble=Trouble.DAMAGED, note="cracked"),
        a_tick(3, **back, trouble=Trouble.MISSING),
        a_tick(4, **back, trouble=Trouble.USED_UP),
        needed=5,
    )
    assert (found.at(Stage.RETURNED), found.gone, found.damaged, found.notes) == (2, 2, 1, ("cracked",))
    assert (found.missing(Stage.RETURNED), found.is_done(Stage.RETURNED)) == (1, False)
    assert tally_of(a_tick(1, **back), a_tick(2, **back, trouble=Trouble.MISSING)).is_done(Stage.RETURNED)
    taken_back = tally_of(
        a_tick(1, **back, trouble=Trouble.MISSING), a_tick(2, **back, trouble=Trouble.MISSING, count=-1)
    )
    assert (taken_back.gone, taken_back.damaged) == (0, 0)


@pytest.mark.parametrize("seed", range(5))
def test_the_order_in_which_ticks_come_in_does_not_matter(seed):
    chance = np.random.default_rng(seed)
    stages, troubles = list(Stage), list(Trouble)
    ticks = [
        a_tick(
            int(chance.integers(1, 20)),
            thing=str(chance.choice(["lamp", "bag"])),
            stage=Stage.RETURNED if (trouble := troubles[chance.integers(4)]) else stages[chance.integers(5)],
            trouble=trouble,
            count=int(chance.choice([-1, 1, 2])),
        )
        for _ in range(30)
    ]
    first = {tick.tick_id: tick for tick in reversed(ticks)}  # of those with one id the first
    mixed = [list(first.values())[at] for at in chance.permutation(len(first))]
    one, other = (tallied(each, {"lamp": 5}) for each in (ticks, mixed))
    assert {thing: (each.counts, each.troubles) for thing, each in one.items()} == {
        thing: (each.counts, each.troubles) for thing, each in other.items()
    }


def test_things_and_refusals():
    assert [thing_of("a"), thing_of("a", 1.44), thing_of("a", unit="no-1")] == ["a", "a~1.44", "a#no-1"]
    for changes, field in (
        ({"tick_id": "1"}, "tick id"),
        ({"thing": " "}, "thing"),
        ({"count": 1000}, "count"),
        ({"trouble": Trouble.DAMAGED}, "trouble"),
        ({"note": "x" * 201}, "note"),
    ):
        with pytest.raises(BadValue, match=f"^{field} is"):
            a_tick(1, **changes)


def test_nothing_is_over_or_gone_before_anything_is_said():
    tally = tally_of(a_tick(1))
    assert (tally.over(Stage.PULLED), tally.gone, tally.damaged, tally.missing(Stage.PULLED)) == (0, 0, 0, 1)
