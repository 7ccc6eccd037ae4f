"""A day on batteries: by hand, and in balance whatever happens."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.power.battery import Supply
from iron_bucket.core.power.battery_day import BatteryDay, BatteryLamp, Charger, UnitKind
from iron_bucket.core.power.burn_day import Happening, burnt, least_units
from tests.tables import refusals

test_what_is_no_day_is_refused = refusals(__file__)


def a_kind(count: int = 2, kind_id: str = "v", temperature_c: float = 20.0, **changes) -> UnitKind:
    supply = Supply(**({"capacity_wh": 100.0, "nominal_v": 14.4, "most_a": 10.0} | changes))
    return UnitKind(kind_id=kind_id, supply=supply, count=count, temperature_c=temperature_c)


def a_lamp(lamp_id: str, *watts: float, **changes) -> BatteryLamp:
    return BatteryLamp(**({"lamp_id": lamp_id, "kind_id": "v", "watts": watts} | changes))


def a_charger(**changes) -> Charger:
    return Charger(**({"charger_id": "c", "kind_ids": ("v",), "bays": 1, "bay_w": 60.0} | changes))


def told(found) -> list[tuple]:
    return [(each.minute, each.lamp_id, each.what, each.taken, each.put) for each in found.events]


def test_one_lamp_on_two_units_burns_both_and_goes_dark():
    """60 W from 100 Wh: a watt-hour a minute, 100 minutes from each."""
    found = burnt(BatteryDay(minutes=(240,), kinds=(a_kind(),), lamps=(a_lamp("key", 60.0),)))
    assert told(found) == [
        (0, "key", Happening.SWAP, (), (0,)),
        (100, "key", Happening.SWAP, (0,), (1,)),
        (200, "key", Happening.DARK, (), ()),
    ]
    assert (found.lasts, int(found.is_lit.sum())) == (False, 200)
    assert found.energy_wh[49] == pytest.approx([50.0, 100.0])
    assert (found.lamp_of[99].tolist(), found.lamp_of[100].tolist()) == ([0, -1], [-1, 0])
    # Half of that in the cells' losses and the reserve, a fifth in the cold: 100 x 0.8 x 0.5 x 0.8 = 32 minutes each.
    cold = a_kind(usable=0.8, efficiency=0.5, temperature_c=0.0)
    assert burnt(BatteryDay(minutes=(240,), kinds=(cold,), lamps=(a_lamp("key", 60.0),))).events[-1].minute == 64


def test_off_for_a_pass_saves_and_two_plates_share_and_must_both_be_filled():
    day = BatteryDay(minutes=(60, 30, 60), kinds=(a_kind(3),), lamps=(a_lamp("key", 120.0, 0.0, 120.0, plates=2),))
    found = burnt(day)
    assert told(found)[:2] == [(0, "key", Happening.SWAP, (), (0, 1)), (130, "key", Happening.SWAP, (0, 1), (2,))]
    assert told(found)[2:] == [(130, "key", Happening.DARK, (), ())]  # the third alone fills one plate of two
    assert burnt(replace(day, kinds=(a_kind(4),))).lasts


def test_of_several_units_that_alone_is_changed_which_is_empty():
    """Two watt-hours a minute from two of 100, 60, 50 and 40 Wh."""
    worn = replace(a_kind(4), healths=(1.0, 0.6, 0.5, 0.4))
    found = burnt(BatteryDay(minutes=(95,), kinds=(worn,), lamps=(a_lamp("key", 120.0, plates=2),)))
    assert told(found) == [(0, "key", Happening.SWAP, (), (0, 1)), (60, "key", Happening.SWAP, (1,), (2,))]


def test_a_bay_charges_what_came_off_first_slowly_from_four_fifths():
    """60 W into a unit: a watt-hour a minute up to 80 Wh, then half of one; 80 + 40 minutes from empty."""
    day = BatteryDay(minutes=(100, 130), kinds=(a_kind(1),), lamps=(a_lamp("key", 60.0, 0.0),), chargers=(a_charger(),))
    # What a lamp needs again stays on it and charges nothing; what it is done with does.
    again = burnt(replace(day, minutes=(100, 130, 1), lamps=(a_lamp("key", 60.0, 0.0, 60.0),)))
    assert again.energy_wh[100 + 129] == pytest.approx([0.0], abs=1e-9)
    assert burnt(day).energy_wh[[100, 179, 220], 0] == pytest.approx([1.0, 80.0, 100.0])
    two = burnt(replace(day, minutes=(100, 130), kinds=(a_kind(2),), lamps=(a_lamp("key", 60.0, 6.0),)))
    at = [each.minute for each in two.events if each.what is Happening.SWAP]
    assert at == [0, 100]
    assert two.energy_wh[100 + 79, 0] == pytest.approx(80.0)
    assert two.energy_wh[100 + 99, 0] == pytest.approx(90.0)
    assert two.energy_wh[100 + 119, 0] == pytest.approx(100.0)
    assert two.ledger.mains_wh == pytest.approx(100.0 / 0.9)
    assert two.ledger.lost_in_chargers_wh == pytest.approx(100.0 / 0.9 - 100.0)
    # What stands in a bay goes back on when the other is empty, and the lamp is lit again once enough is in it.
    on = burnt(replace(day, minutes=(240, 0), kinds=(a_kind(2),), lamps=(a_lamp("key", 60.0, 0.0),)))
    assert [each.minute for each in on.events if each.what is Happening.SWAP][:3] == [0, 100, 200]
    other = burnt(replace(day, chargers=(a_charger(kind_ids=("gold",)),), kinds=(a_kind(2),)))
    assert other.ledger.mains_wh == 0.0


def test_the_faintest_lamp_burns_too():
    found = burnt(BatteryDay(minutes=(2,), kinds=(a_kind(1, capacity_wh=0.01),), lamps=(a_lamp("pilot", 0.4),)))
    assert told(found) == [(0, "pilot", Happening.SWAP, (), (0,)), (1, "pilot", Happening.DARK, (), ())]


def test_too_much_asked_is_refused_the_fullest_goes_first_and_chargers_share_no_unit():
    day = BatteryDay(minutes=(10, 10), kinds=(a_kind(),), lamps=(a_lamp("hmi", 145.0, 144.0),))
    assert told(burnt(day)) == [
        (0, "hmi", Happening.REFUSES, (), ()),
        (10, "hmi", Happening.SWAP, (), (0,)),
        (10, "hmi", Happening.LIT, (), ()),
    ]
    assert burnt(replace(day, lamps=())).lasts
    day = BatteryDay(
        minutes=(50, 20, 30), kinds=(a_kind(3),), lamps=(a_lamp("a", 60.0, 0.0, 0.0), a_lamp("b", 0.0, 0.0, 60.0))
    )
    assert burnt(day).events[-1].put == (1,)  # not the one that has burnt already
    twice = (a_charger(bay_w=6.0, slow_from=1.0), a_charger(charger_id="d", bay_w=60.0, slow_from=1.0))
    used = replace(day, minutes=(100, 10, 0), lamps=(a_lamp("a", 60.0, 6.0, 0.0),), kinds=(a_kind(2),), chargers=twice)
    assert burnt(used).energy_wh[109, 0] == pytest.approx(10 * 0.1)  # in the first alone


@pytest.mark.parametrize("seed", range(200))
def test_energy_is_kept(seed):
    """What came from the mains and the batteries is what lamps, losses and batteries hold; nothing falls below 0."""
    chance = np.random.default_rng(seed)
    phases = int(chance.integers(1, 5))
    kinds = tuple(
        a_kind(
            int(chance.integers(0, 7)),
            kind_id=name,
            capacity_wh=float(chance.uniform(50, 300)),
            efficiency=float(chance.uniform(0.6, 1.0)),
            usable=float(chance.uniform(0.5, 1.0)),
            temperature_c=float(chance.uniform(-10, 30)),
        )
        for name in ("v", "gold")
    )
    lamps = tuple(
        a_lamp(
            f"l{at}",
            *(float(chance.choice([0.0, 20.0, 60.0, 150.0])) for _ in range(phases)),
            kind_id=str(chance.choice(["v", "gold"])),
            plates=int(chance.integers(1, 3)),
        )
        for at in range(int(chance.integers(0, 6)))
    )
    chargers = tuple(
        a_charger(charger_id=str(at), kind_ids=("v", "gold")[at:], bays=int(chance.integers(1, 4)), slow_share=0.3)
        for at in range(int(chance.integers(0, 3)))
    )
    minutes = tuple(int(each) for each in chance.integers(0, 90, phases))
    rates = tuple(float(each) for each in chance.choice([0.0, 0.3, 1.0], phases))
    chargers = tuple(replace(each, rates=rates, while_feeding=bool(seed % 2)) for each in chargers)
    kinds = (replace(kinds[0], healths=(0.4, 0.9)), kinds[1])
    found = burnt(BatteryDay(minutes=minutes, kinds=kinds, lamps=lamps, chargers=chargers))
    each = found.ledger
    came = each.stored_wh + each.mains_wh
    went = each.lamps_wh + each.lost_in_units_wh + each.lost_in_chargers_wh + each.left_wh
    assert came == pytest.approx(went, abs=1e-9)
    assert found.energy_wh.min(initial=0.0) >= -1e-8
    assert not (found.is_lit & found.is_dark).any()
    for lamp, dressed in enumerate(lamps):  # lit with all its plates filled, by units of its kind alone
        on = found.lamp_of == lamp
        assert (on.sum(axis=1)[found.is_lit[:, lamp]] == dressed.plates).all()
        assert {kinds[kind].kind_id for kind in found.unit_kind[on.any(axis=0)]} <= {dressed.kind_id}


@pytest.mark.parametrize("seed", range(6))
def test_the_least_that_lasts_lasts_and_one_less_does_not(seed):
    chance = np.random.default_rng(seed)
    lamps = tuple(a_lamp(f"l{at}", *(float(chance.choice([0.0, 30.0, 90.0])) for _ in range(3))) for at in range(3))
    gold = a_lamp("gold", 100.0, 0.0, 160.0, kind_id="gold", plates=2)
    kinds = (a_kind(0), a_kind(0, kind_id="gold"))
    day = BatteryDay(minutes=(60, 120, 45), kinds=kinds, lamps=(*lamps, gold), chargers=(a_charger(bays=2),))
    least = least_units(day, most=30)

    def lasts(counts):
        return burnt(replace(day, kinds=tuple(replace(each, count=counts[each.kind_id]) for each in kinds))).lasts

    assert lasts(least)
    assert not any(lasts(least | {name: count - 1}) for name, count in least.items() if count)
    assert least["gold"] == 4  # 100 Wh in the first phase and 120 in the last, from 200 in each pair
    assert least_units(day, most=1) is None
    one = BatteryDay(minutes=(60,), kinds=(a_kind(0),), lamps=(a_lamp("l", 30.0),), chargers=())
    assert [least_units(each) for each in (one, replace(one, lamps=()))] == [{one.kinds[0].kind_id: n} for n in (1, 0)]
