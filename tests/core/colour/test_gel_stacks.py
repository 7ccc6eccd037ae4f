"""Stacks of gels against every pair looked at one by one."""

import math
from itertools import combinations_with_replacement

import numpy as np
import pytest

from iron_bucket.core.colour.gel_stacks import Gel, GelStacks, off_mired, ranked, typical_gels
from iron_bucket.core.errors import BadValue
from tests.tables import tabled


def random_gels(seed: int, count: int = 7) -> list[Gel]:
    chance = np.random.default_rng(seed)
    return [
        Gel(
            name=f"g{at}",
            transmittance=float(chance.uniform(0.2, 1.0)),
            shift_mired=float(chance.uniform(-150.0, 150.0)),
            duv=float(chance.uniform(-0.02, 0.02)),
        )
        for at in range(count)
    ]


def every_stack(gels, wanted, duv):
    for count in range(3):
        for chosen in combinations_with_replacement(gels, count):
            mired = sum(gel.shift_mired for gel in chosen) - wanted
            tint = sum(gel.duv for gel in chosen) + duv
            loss = -sum(math.log2(gel.transmittance) for gel in chosen)
            yield math.hypot(mired, tint / 2e-4), loss, count, chosen


@pytest.mark.parametrize("seed", range(12))
def test_within_the_tolerance_by_light_lost_then_by_how_near(seed):
    gels, chance = random_gels(seed), np.random.default_rng(100 + seed)
    wanted, duv = float(chance.uniform(-200, 200)), float(chance.uniform(-0.02, 0.02))
    every = list(every_stack(gels, wanted, duv))
    tolerance = float(chance.choice([5.0, 60.0, 120.0]))
    fits = sorted(each[1] for each in every if each[0] <= tolerance)
    near = sorted(each[0] for each in every if each[0] > tolerance)
    found = ranked(GelStacks.of(gels), wanted, duv, tolerance_mired=tolerance, most=len(every))
    assert len(found) == len(every) == 1 + 7 + 28
    assert [each.loss_stops for each in found[: len(fits)]] == pytest.approx(fits, abs=1e-4)
    assert [each.off for each in found[len(fits) :]] == pytest.approx(near, abs=1e-4)
    for each in found:
        assert each.shift_mired - each.residual_mired == pytest.approx(wanted)
        assert each.residual_duv == pytest.approx(duv + sum(gel.duv for gel in each.gels))
        assert each.off == off_mired(each.residual_mired, each.residual_duv)
    assert len(ranked(GelStacks.of(gels), wanted, duv, tolerance_mired=tolerance)) == 10


def test_a_light_that_is_right_wants_no_gel_and_of_equals_fewer_sheets_are_better():
    found = ranked(GelStacks.of(typical_gels()), 0.0, 0.0, tolerance_mired=10.0)
    assert (found[0].gels, found[0].loss_stops) == ((), 0.0)
    half = Gel(name="half", transmittance=0.5, shift_mired=50.0)
    whole = Gel(name="whole", transmittance=0.25, shift_mired=100.0)
    assert [gel.name for gel in ranked(GelStacks.of([half, whole]), 100.0, 0.0, tolerance_mired=1.0)[0].gels] == [
        "whole"
    ]
    assert len(GelStacks.of([half, whole], 0).sheets) == 1
    assert GelStacks.of([half], 3).shift_mired.tolist() == [0.0, 50.0, 100.0, 150.0]
    edge = ranked(GelStacks.of([half]), 40.0, 0.0, tolerance_mired=10.0)
    assert edge[0].gels == (half,)  # a mired on the edge is within
    for refused in (lambda: GelStacks.of([half], 4), lambda: Gel(name="x", transmittance=0.0, shift_mired=0.0)):
        with pytest.raises(BadValue):
            refused()
    with pytest.raises(BadValue):
        ranked(GelStacks.of([half]), 40.0, 0.0, tolerance_mired=-1.0)


def test_what_is_green_is_given_magenta_and_the_other_way_round():
    gels = [
        Gel(name=name, transmittance=0.8, shift_mired=0.0, duv=duv) for name, duv in (("plus", 0.01), ("minus", -0.01))
    ]
    for duv, name in ((0.01, "minus"), (-0.01, "plus")):
        assert [gel.name for gel in ranked(GelStacks.of(gels), 0.0, duv, tolerance_mired=5.0)[0].gels] == [name]


def test_the_gels_of_the_trade():
    by = {gel.name: gel for gel in typical_gels()}
    assert (by["full blue"].shift_mired, by["full blue"].transmittance) == (-137.0, 0.34)
    assert (by["half minus green"].duv, by["half minus green"].transmittance) == (-0.01, 0.7)
    assert len(by) == 13


@tabled
def test_sheets_that_take_each_other_back_are_known(shifts, against):
    gels = [Gel(name="g", transmittance=0.5, shift_mired=mired, duv=duv) for mired, duv in shifts]
    stacks = ranked(GelStacks.of(gels, 3), 0.0, 0.0, tolerance_mired=1.0, most=1000)
    whole = next(each for each in stacks if each.gels == tuple(gels))
    assert whole.works_against_itself is against
