"""What of a pass the next one waits for, by hand."""

import pytest

from iron_bucket.core.days.running import batteries_of, running
from iron_bucket.core.power.job.battery_hours import Stock
from iron_bucket.core.power.job.kit import ChargerKit, JobPower
from iron_bucket.core.power.job.pass_loads import pass_loads
from iron_bucket.core.power.job.shooting_day import shooting_days
from tests.core.power.job.made import RULES, a_kilowatt, a_pass, a_time
from tests.core.setups.made import a_lamp, lit_setup


def test_heads_that_burn_and_watt_hours_that_a_pass_takes(gear):
    fed = a_lamp(piece_id="b", name="On battery", feed="battery-v-98", level=0.5)
    one, off = a_pass(1, a_kilowatt(), fed), a_kilowatt(2, is_on=False)
    (day,) = shooting_days((one,), JobPower(times=(a_time(1, 40, 60, lit_share=0.5),)))
    loads = pass_loads(one.setup, 1, one.place_id, JobPower(), gear, RULES.scrim_school).loads
    lit = lit_setup(gear, one.setup, lamps=(*one.setup.lamps, off))
    found = running(day.passes[0], lit.built.lights, loads)
    assert [(head.slug, head.is_hot) for head in found.heads] == [("tung-1000", True), (found.heads[1].slug, False)]
    # Half of 40 minutes of rig and half of the hour: fifty minutes lit.
    watts = next(load.watts for load in loads if load.load_id == "b")
    assert found.needs_wh == {"battery-v-98": pytest.approx(watts * 50.0 / 60.0)}


def test_what_batteries_hold_and_what_is_put_back(gear):
    kind = next(each for each in gear.batteries if each.slug == "battery-v-98")
    kits = [
        ChargerKit(piece_id=f"c{at}", name="C", place_id=1, kinds=(slug,), bays=2, bay_w=40.0, feed=feed)
        for at, (slug, feed) in enumerate((("battery-v-98", "socket"), ("battery-v-98", ""), ("other", "socket")))
    ]
    found = batteries_of({"battery-v-98": Stock(count=3, healths=(0.5,)), "gone": Stock(count=1)}, kits, gear)
    assert set(found) == {"battery-v-98"}
    assert found["battery-v-98"].holds_wh == pytest.approx(2.5 * kind.supply(1).energy_wh)
    assert found["battery-v-98"].charge_w == 80.0
