"""Lamps fed from batteries: the level they really burn at, and what their batteries cannot do."""

from dataclasses import replace

import pytest

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bucket.pass_kit import pass_kit
from iron_bucket.core.cautions.rules import lamp_cautions
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluation import Evaluation
from tests.core.setups.made import RULES, a_lamp, a_place, a_setup, lit_setup, load_of
from tests.tables import tabled

LED = "day-led-300.bare"  # 352 W; two V-lock plates, from which it gives up to six tenths


def told(gear, **changes) -> dict[str, str]:
    # The bench has none so weak for that head.
    weak = tuple(replace(each, most_a=7.0) if each.slug == "battery-v-98" else each for each in gear.batteries)
    gear = replace(gear, batteries=weak)
    found = lit_setup(gear, lamps=(a_lamp(**{"configuration": LED} | changes),))
    codes = ("no-plate", "battery-current", "battery-limit")
    cautions = Evaluation(lit=found, gear=gear, rules=RULES).cautions
    return {each.code: each.trigger for each in cautions if each.code in codes}


def test_what_to_mind_with_a_lamp_begins_with_its_name(gear):
    found = lit_setup(gear, lamps=(a_lamp(configuration="tung-1000.flood"),))
    fixture = found.built.lights[0].fixture
    expected = {f"Key: {each.title[0].lower()}{each.title[1:]}" for each in lamp_cautions(fixture.head, fixture.parts)}
    assert expected
    assert expected <= {each.title for each in Evaluation(lit=found, gear=gear, rules=RULES).cautions}


@pytest.mark.parametrize(
    ("temperature_c", "left"), [(None, ""), (16.0, ""), (0.0, "80 %"), (-35.0, "50 %"), (14.5, "94")]
)
def test_in_the_cold_it_is_dark_sooner(gear, temperature_c, left):
    """352 W head at 0.3: W = idle + (full - idle) 0.3 from two V-lock of 290 Wh, nine tenths of them through 0.95."""
    there = Surroundings(a_place(temperature_c=temperature_c))
    lamp = a_lamp(configuration=LED, level=0.3, feed="battery-v-290")
    found = lit_setup(gear, lamps=(lamp,), surroundings=there)
    cold = [each for each in Evaluation(lit=found, gear=gear, rules=RULES).cautions if each.code == "cold"]
    assert bool(cold) == bool(left)
    if left:
        draw, supply = found.built.lights[0].fixture.head.draw, gear.by_slug(BatteryKind, "battery-v-290").supply(2)
        whole_h = supply.capacity_wh * 2 * supply.usable * supply.efficiency / float(draw.watts(0.3))
        share = max(1.0 - 0.01 * (20.0 - temperature_c), 0.5)
        assert f"at {display.temperature(temperature_c)} {left}" in cold[0].trigger
        assert str(display.hours(whole_h * share)) in cold[0].trigger
        abroad = Evaluation(lit=found, gear=gear, rules=replace(RULES, units=UnitSystem.IMPERIAL)).cautions
        assert f"at {display.temperature(temperature_c, UnitSystem.IMPERIAL)} {left}" in "".join(
            each.trigger for each in abroad
        )


@tabled
def test_what_batteries_cannot_do_is_said_with_its_figure(gear, changes, expected):
    found = told(gear, **changes)
    assert found.keys() == expected.keys()
    for code, words in expected.items():
        assert words in found[code]


def test_what_is_off_or_hot_and_off_is_not_told(gear):
    hot = a_lamp(configuration="hmi-1200.flood", piece_id="hot", name="Hot")
    dark = a_lamp(configuration=LED, level=0.9, feed="battery-v-290", is_on=False, piece_id="dark", name="Dark")
    for is_on in (True, False):
        found = lit_setup(
            gear, lamps=(replace(hot, is_on=is_on), dark), surroundings=Surroundings(a_place(temperature_c=-9.0))
        )
        said = [each.title for each in Evaluation(lit=found, gear=gear, rules=RULES).cautions]
        assert any(title.startswith("Hot: ") for title in said) == is_on
        assert not any("Dark" in title for title in said)


def test_a_lamp_on_batteries_burns_no_brighter_than_they_let_it(gear):
    """In the level, in what it draws, and in what is carried: two plates, two batteries."""
    mains, fed = (
        lit_setup(gear, lamps=(a_lamp(configuration=LED, level=0.9, feed=feed),)) for feed in ("", "battery-v-290")
    )
    key = mains.built.mark_index("anna.nose")
    assert fed.by_light_lx[0, key] == pytest.approx(mains.by_light_lx[0, key] * 0.6 / 0.9)
    light = fed.built.lights[0]
    assert light.fixture.watts(light.placed) == pytest.approx(light.fixture.head.draw.watts(0.6))
    counts = {each.item.slug: each.quantity for each in pass_kit(fed.built.setup, gear, HouseRules()).entries}
    assert counts["battery-v-290"] == 2
    plain = a_setup(
        lamps=(a_lamp(configuration="hmi-575.flood", feed="battery-v-290"),)
    )  # without a plate: told elsewhere
    counts = {each.item.slug: each.quantity for each in pass_kit(plain, gear, HouseRules()).entries}
    assert counts["battery-v-290"] == 1
    assert load_of(fed.built.setup, gear).amps == 0.0
