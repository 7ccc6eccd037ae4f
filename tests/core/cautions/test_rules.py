"""Each caution with the figure that triggers it."""

import pytest

from iron_bucket.core.cautions.rules import battery_cautions, circuit_cautions, lamp_cautions, not_counted
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.quantities.units import UnitSystem
from tests.made_up import a_battery, a_frame, a_head
from tests.tables import tabled


def codes(cautions):
    return [each.code for each in cautions]


@tabled
def test_a_caution_has_its_figure(head, parts, lux, expected, figure):
    found = lamp_cautions(head, parts, subject_lx=lux)
    assert codes(found) == expected
    assert all(each.title and each.action for each in found)
    assert figure in (found[-1].trigger if found else "")


def test_the_wind_of_the_sail_caution_by_hand():
    # 23 kg x 9.80665 x 0.45 m against 1/2 x 1.225 x 1.2 x A x v2 x h: a frame of 1 m2 at 1.5 m, v = 9.60 m/s; one of
    # 2 x 3 m whose middle is 1.5 + 0.3 m high, v = 3.58 m/s.
    for width_m, height_m, wind in ((1.0, 1.0, "1.0 m² tips"), (2.0, 3.0, "6.0 m² tips")):
        (sail,) = lamp_cautions(a_head(), (a_frame(width_m=width_m, height_m=height_m),))
        v = (
            23.0 * 9.80665 * 0.45 / (0.5 * 1.225 * 1.2 * width_m * height_m * (1.5 if height_m == 1.0 else 1.8))
        ) ** 0.5
        assert sail.trigger.startswith(wind)
        assert sail.trigger.endswith(f"at {v:.1f} m/s")
    (sail,) = lamp_cautions(a_head(), (a_frame(width_m=1.0, height_m=1.0),), units=UnitSystem.IMPERIAL)
    assert sail.trigger == "11 ft² tips a stand with one bag of 22.0 lb at 21 mph"  # 10.76 ft2, 21.47 mph


@pytest.mark.parametrize(
    ("wh", "words"), [(100.0, None), (101.0, "above 100 Wh"), (160.0, "above 100 Wh"), (161.0, "above 160 Wh")]
)
def test_batteries_in_the_air(wh, words):
    found = battery_cautions(a_battery(capacity_wh=wh), 2)
    assert (words in found[0].trigger) if words else found == ()
    assert wh <= 160.0 or found[0].action.startswith("Not as luggage")
    assert not 100.0 < wh <= 160.0 or found[0].action.startswith("By air only")


def test_more_than_one_circuit_and_what_is_not_counted():
    assert circuit_cautions(10.4, HouseRules()) == ()
    (over,) = circuit_cautions(10.5, HouseRules())
    assert over.trigger == "10.5 A in all, 10.4 A planned on a 13 A breaker"
    assert not_counted(()) == ()
    assert not_counted(("key: gone",))[0].title == "1 thing is not counted"
    (several,) = not_counted(("key: gone", "fill: gone"))
    assert (several.title, several.trigger) == ("2 things are not counted", "key: gone; fill: gone")
