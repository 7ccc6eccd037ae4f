"""When breakers open, which leads reach, and in what order lamps are struck."""

import math
from itertools import permutations

import numpy as np
import pytest

from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.power.lead_choice import Laid, Verdict, ampacity_a, lead_for
from iron_bucket.core.power.strike_order import Starter, strike_order
from iron_bucket.core.power.trip import BreakerCurve, trip
from tests.tables import table, tabled

STOCK = table(__file__, "STOCK")


@tabled
def test_a_breaker_opens_between_its_earliest_and_latest_second(times, curve, earliest_s, latest_s, words):
    found = trip(16.0 * times, 16.0, BreakerCurve(curve))
    if earliest_s is None:
        assert found is None
    else:
        assert words in found.words
        assert found.earliest_s == pytest.approx(earliest_s, rel=1e-3)
        assert found.latest_s == pytest.approx(latest_s or math.inf, rel=1e-3)
        assert found.is_instant == (latest_s == 0.1)


def test_more_opens_sooner():
    found = [trip(amps, 13.0) for amps in np.linspace(14.8, 90.0, 60)]
    for key in ("earliest_s", "latest_s"):
        seconds = [getattr(each, key) for each in found]
        assert seconds == sorted(seconds, reverse=True)
    assert all(each.earliest_s <= each.latest_s for each in found)


@tabled
def test_the_fewest_leads_that_reach_of_the_thinnest_that_do(way_m, amps, laid, area_mm2, lengths_m):
    found = lead_for(way_m, amps, 230.0, STOCK, Laid(laid))
    assert (found.area_mm2, found.lengths_m) == (area_mm2, lengths_m)
    assert found.bears_a >= amps
    assert found.run.length_m == sum(lengths_m)


def test_volts_decide_and_what_does_not_do_says_why():
    """2 x 35 m x 10 A x 1.724e-8 / 1.5e-6 are 8.05 V of 230: over 3 %, under 5; of 120 they are 6.7 %."""
    long = lead_for(33.0, 10.0, 230.0, STOCK)
    assert (long.verdict, long.run.drop_v) == (Verdict.WARN, pytest.approx(8.045, abs=0.01))
    assert lead_for(10.0, 10.0, 230.0, STOCK).verdict is Verdict.FINE
    assert lead_for(33.0, 10.0, 120.0, STOCK).area_mm2 == 2.5
    assert [ampacity_a(area) for area in (0.5, 1.5, 2.0, 50.0)] == [0.0, 16.0, 16.0, 125.0]
    assert ampacity_a(2.5, Laid.COILED) == 10.0
    thin = STOCK[:2]
    for arguments, sentence in (
        ((5.0, 17.0, 230.0, thin), "1.5 mm² bears 16 A free, 17.0 A are drawn"),
        ((56.0, 1.0, 230.0, thin), r"the leads of 1\.5 mm² do not reach 56"),
        ((50.0, 15.0, 120.0, thin), r"55.0 m of 1\.5 mm² lose 16 % of the volts"),
        ((5.0, 1.0, 230.0, ()), "no lead is in stock"),
    ):
        with pytest.raises(NoAnswer, match=sentence):
            lead_for(*arguments)


@pytest.mark.parametrize("seed", range(8))
def test_no_other_order_of_starts_peaks_lower(seed):
    chance = np.random.default_rng(seed)
    some = tuple(
        Starter(load_id=str(at), running_a=running, peak_a=running * chance.uniform(1.0, 8.0), warm_up_min=at % 3)
        for at, running in enumerate(chance.uniform(0.5, 12.0, 6))
    )

    def peak_a(order) -> float:
        before = np.cumsum([0.0, *(each.running_a for each in order)])
        return max(each.peak_a + start for each, start in zip(order, before, strict=False))

    found = strike_order(some)
    assert found.peak_a == pytest.approx(min(map(peak_a, permutations(some))))
    assert found.peak_a == pytest.approx(peak_a([each for each, _ in found.steps]))
    assert (found.running_a, found.ready_min) == (pytest.approx(sum(each.running_a for each in some)), 2)
    alike = [
        Starter(load_id=name, running_a=5.0, peak_a=9.0, warm_up_min=warm)
        for name, warm in zip("ab", (1, 3), strict=True)
    ]
    assert [each.load_id for each, _ in strike_order(tuple(alike)).steps] == ["b", "a"]  # what warms longer first
    assert (strike_order(()).peak_a, strike_order((), 3.0).peak_a, strike_order(()).ready_min) == (0.0, 3.0, 0.0)
