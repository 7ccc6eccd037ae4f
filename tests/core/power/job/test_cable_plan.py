"""Leads of a pass: which of the stock, what they lose, what lies in the way: by hand."""

from collections import Counter
from dataclasses import replace

import pytest

from iron_bucket.core.bench.cable import Cable
from iron_bucket.core.power.job.cable_plan import cable_plan
from iron_bucket.core.power.job.kit import JobPower, OtherLoad
from iron_bucket.core.power.lead_choice import Laid
from tests.core.power.job.made import HERE, TWO, a_board, a_kilowatt, around
from tests.core.setups.made import a_lamp


def a_cable(slug: str, length_m: float, owned: int = 9, **changes) -> Cable:
    made = {"slug": slug, "name": slug, "maker": "", "weight_kg": 1.0, "length_m": length_m, "area_mm2": 1.5}
    return Cable(**(made | {"owned": owned} | changes))


FIVE, TEN = a_cable("five", 5.0), a_cable("ten", 10.0)
FOUR = a_cable("four", 3.0, outlets=4)
SPOT = {"x_m": 0.2, "y_m": 4.2, "z_m": 1.0}  # 0.2 to the wall, 4.0 along it, 0.2 back: 4.4, and 1 m up


def plan(gear, *lamps, cables=(FIVE, TEN, FOUR), place=TWO, power=JobPower(), **more):  # noqa: B008
    ways = around(place)
    return cable_plan(a_board(gear, *lamps, place=place, power=power), ways.place, ways.lead_ways, cables, **more)


def test_the_lead_that_reaches_and_what_is_lost_on_it(gear):
    lamp = a_kilowatt(**SPOT)
    (run,) = plan(gear, lamp).runs
    assert (run.way.length_m, run.length_m, run.amps) == pytest.approx((4.4, 5.4, 1000 / 230))
    assert run.choice.lengths_m == (10.0,)  # one of ten is fewer than two of five
    lost = 2 * 10 * (1000 / 230) * 1.724e-8 / 1.5e-6
    assert (run.lost_v, run.volts) == pytest.approx((lost, 230 - lost))
    share = 1 - lost / 230
    assert 2**-run.lost_stops == pytest.approx(share**3.4)
    assert run.warmer_share == pytest.approx(share**0.42)
    (steady,) = plan(gear, a_lamp(feed="socket", level=1.0, **SPOT)).runs
    assert (steady.lost_stops, steady.warmer_share) == (0.0, 1.0)
    assert steady.lost_v > 0.0
    sagging = replace(TWO, circuits=(replace(TWO.circuits[0], sag_v=9.0, sag_at_a=9.0), TWO.circuits[1]))
    assert plan(gear, lamp, place=sagging).runs[0].lost_v == pytest.approx(lost + 1000 / 230)
    assert plan(gear, lamp, is_straight=True).runs[0].way.length_m == pytest.approx(4.0)


def test_the_longest_run_chooses_first_ours_before_hired(gear):
    """One of ten metres is ours: the kilowatt across the room has it, and with nothing to hire the other joins two."""
    near, far = a_kilowatt(1, **SPOT), a_kilowatt(2, x_m=5.8, y_m=0.2, z_m=1.0)
    one = replace(TEN, owned=1)
    found = plan(gear, near, far, cables=(FIVE, one, FOUR))
    assert found.pieces == Counter({"ten": 1, "five": 2, "four": 1})
    assert [run.load.name for run in found.runs] == ["K1", "K2"]
    # What counts is the whole way: lower down, 4.4 m and 6 m up the stand are more than 9 m and nothing.
    high, low = a_kilowatt(1, **(SPOT | {"z_m": 6.0})), a_kilowatt(2, x_m=5.8, y_m=0.2, z_m=0.0)
    eleven = replace(TEN, length_m=11.0, owned=1)
    assert plan(gear, low, high, cables=(FIVE, eleven, FOUR)).pieces == Counter({"ten": 1, "five": 2, "four": 1})
    hired = plan(gear, near, far, cables=(replace(FIVE, owned=0), replace(one, day_price=2.0), FOUR))
    assert (hired.pieces, hired.short) == (Counter({"ten": 2, "four": 1}), ())
    short = plan(gear, near, far, cables=(replace(FIVE, owned=1), one, FOUR))
    assert short.short == ("K1: No lead does: the leads of 1.5 mm² do not reach 5.4 m.",)
    assert [run.choice is None for run in short.runs] == [True, False]
    thin = plan(gear, a_kilowatt(1, configuration="tung-2000.flood", **SPOT), laid=Laid.COILED)
    assert thin.short == ("K1: No lead does: 1.5 mm² bears 6 A coiled, 8.7 A are drawn.",)


def test_multiways_and_adapters_at_an_outlet(gear):
    lamps = [a_kilowatt(at, configuration="tung-300.flood", **SPOT) for at in range(6)]
    counts = {many: plan(gear, *lamps[:many]).pieces["four"] for many in range(1, 7)}
    assert counts == {1: 0, 2: 1, 3: 1, 4: 1, 5: 2, 6: 2}
    assert plan(gear, *lamps[:2], cables=(FIVE, TEN)).short == (
        "Corner: 2 loads need a multiway, and none is on the bench",
    )
    weak = replace(FOUR, area_mm2=0.75)
    heavy = [a_kilowatt(at, **SPOT) for at in range(2)]
    assert plan(gear, *heavy, cables=(FIVE, TEN, weak)).short == (
        "Corner: 2 loads need a multiway, and none on the bench bears 8.7 A",
    )
    best = plan(
        gear,
        *lamps[:5],
        cables=(FIVE, TEN, FOUR, replace(FOUR, slug="six", outlets=6), replace(FOUR, slug="big", outlets=6, owned=0)),
    )
    assert best.pieces["six"] == 1
    assert plan(gear, *lamps, cables=(FIVE, TEN, replace(FOUR, slug="six", outlets=6))).pieces["six"] == 1
    blue = replace(TWO, sockets=(replace(TWO.sockets[0], outlet="32 A"), TWO.sockets[1]))
    adapter = a_cable("adapter", 1.0, plug="32 A", outlets=4)
    assert (adapter.is_adapter, adapter.is_multiway, FOUR.is_multiway, FIVE.is_multiway) == (True, False, True, False)
    fed = plan(gear, *lamps[:5], place=blue, cables=(FIVE, TEN, FOUR, adapter))
    assert (fed.pieces["adapter"], fed.pieces["four"]) == (1, 1)
    hired, gone = replace(adapter, slug="hired", owned=0), replace(adapter, slug="gone", is_retired=True)
    both = plan(gear, lamps[0], place=blue, cables=(FIVE, hired, gone, adapter))
    assert [both.pieces[slug] for slug in ("hired", "gone", "adapter")] == [0, 0, 1]
    assert plan(gear, lamps[0], place=blue).short == ("Corner: no adapter from 32 A to a house plug is on the bench",)


def test_walks_are_crossed(gear):
    run = plan(
        gear, a_kilowatt(1, **SPOT), walks={"Anna": ((-1.0, 2.0), (1.0, 2.0)), "Ben": ((3.0, 2.0), (4.0, 2.0))}
    ).runs[0]
    assert run.walks == ("Anna",)
    kettle = OtherLoad(piece_id="k", name="Kettle", place_id=HERE, watts=100.0, feed="store", x_m=5.8, y_m=4.8)
    beside = plan(gear, power=JobPower(loads=(kettle,))).runs[0]
    assert (beside.is_filament, beside.length_m) == (False, 0.0)
