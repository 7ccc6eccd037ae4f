"""Dimmers for several targets at once: by hand, against a search of every level, and what it says of wishes that
fight.
"""

import numpy as np
import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.scene.solve import TELL_STOPS, SolvedLevels, solve_levels
from tests.tables import tabled

NAMES = ("face", "wall", "hair", "table")


def solved(unit_lx, wanted_lx, now=None, lowest=0.01) -> SolvedLevels:
    unit, wanted = np.array(unit_lx, dtype=float), np.array(wanted_lx, dtype=float)
    levels = np.full(len(unit), 0.5) if now is None else np.array(now, dtype=float)
    return solve_levels(unit, wanted, levels, np.full(len(unit), lowest), NAMES)


def test_one_lamp_meets_two_wishes_half_way_in_stops():
    """By hand: 1000 and 250 lx at full are wanted as 400 and 400; half way is 1/2.5 doubled once, 0.8 of full."""
    found = solved([[1000.0, 250.0]], [400.0, 400.0])
    assert found.levels == pytest.approx([0.8], rel=1e-3)
    assert found.miss_stops == pytest.approx([1.0, -1.0], abs=0.002)
    assert found.illuminance_lx == pytest.approx([800.0, 200.0], rel=1e-3)
    assert found.fights == (
        (0, 1),
    )  # the wall alone would still be 0.7 stop short: it fights nobody, the lamp is too weak
    assert (found.least_lx, found.most_lx) == (pytest.approx([10.0, 2.5]), pytest.approx([1000.0, 250.0]))


@pytest.mark.parametrize("seed", range(8))
def test_no_level_on_a_fine_grid_does_better(seed):
    random = np.random.default_rng(100 + seed)
    unit, wanted = random.uniform(1.0, 800.0, (2, 3)), random.uniform(5.0, 900.0, 3)
    found = solved(unit, wanted)
    grid = np.exp2(np.linspace(np.log2(0.01), 0.0, 300))
    each = grid[:, None, None] * unit[0] + grid[None, :, None] * unit[1]
    best = np.square(np.log2(each / wanted)).sum(axis=-1).min()
    assert np.square(found.miss_stops).sum() <= best + 1e-3
    assert (found.levels >= 0.01 - 1e-12).all()
    assert (found.levels <= 1.0).all()
    assert found.miss_stops == pytest.approx(np.log2(found.illuminance_lx / wanted))


def test_little_light_is_light_dimmers_move_least_and_a_lamp_that_is_off_stays_off():
    assert solved([[0.5]], [0.25]).levels == pytest.approx([0.5], rel=1e-3)
    # Two like lamps on one mark: from a quarter and a quarter to half the sum doubled, each by a stop.
    found = solved([[100.0], [100.0]], [100.0], now=[0.25, 0.25])
    assert found.levels == pytest.approx([0.5, 0.5], rel=1e-3)
    kept = solved([[100.0], [100.0]], [50.0], now=[0.25, 0.25])
    assert kept.levels == pytest.approx([0.25, 0.25], rel=1e-6)
    found = solved([[100.0, 0.0], [0.0, 100.0], [50.0, 50.0]], [60.0, 30.0], now=[1.0, 1.0, 0.0])
    assert found.levels == pytest.approx([0.6, 0.3, 0.0], rel=1e-3)
    assert found.most_lx == pytest.approx([100.0, 100.0])
    over = solved([[100.0]], [40.0], now=[3.0])  # a scene may say more than full; a dimmer goes no further
    assert over.levels == pytest.approx([0.4], rel=0.01)


def test_the_lowest_level_may_be_too_hot_and_full_too_weak():
    hot = solved([[1000.0]], [1.0])
    assert hot.levels == pytest.approx([0.01])
    assert hot.miss_stops == pytest.approx([np.log2(10.0)], abs=1e-6)
    assert hot.fights == ()  # nobody to fight with: the lamp is too strong
    weak = solved([[100.0]], [400.0])
    assert (weak.levels, weak.miss_stops) == (pytest.approx([1.0]), pytest.approx([-2.0], abs=1e-6))
    fixed = solved([[100.0]], [400.0], lowest=1.0)
    assert fixed.levels == pytest.approx([1.0])


def test_only_the_wish_that_is_in_the_way_is_named_and_a_small_miss_is_no_fight():
    """A lamp for face and wall, one for the hair alone: face and wall fight, the hair has no part in it."""
    found = solved([[800.0, 800.0, 0.0], [0.0, 0.0, 300.0]], [400.0, 100.0, 150.0])
    assert found.fights == ((0, 1), (1, 0))
    assert found.miss_stops == pytest.approx([-1.0, 1.0, 0.0], abs=0.01)
    small = 2.0 ** (2 * TELL_STOPS * 0.9)
    assert solved([[100.0, 100.0]], [50.0, 50.0 * small]).fights == ()
    assert solved([[100.0, 100.0]], [50.0, 50.0 * 2.0 ** (2 * TELL_STOPS * 1.1)]).fights == ((0, 1), (1, 0))


def test_who_fights_is_whose_going_halves_the_miss():
    """By hand, one lamp for 10, 20 and 80 lx: misses 4/3, 1/3 and -5/3 stops.

    Without the 80 they are 1/2 and -1/2; without the 10, 1 and -1.
    """
    found = solved([[100.0, 100.0, 100.0]], [10.0, 20.0, 80.0])
    assert found.miss_stops == pytest.approx([4 / 3, 1 / 3, -5 / 3], abs=0.01)
    assert found.fights == ((0, 2),)


@tabled
def test_what_cannot_be_solved(unit, wanted, now, lowest, sentence):
    with pytest.raises(BadValue, match=sentence):
        solved(unit, wanted, now, lowest)
