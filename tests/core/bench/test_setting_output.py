"""What a head of two whites gives at its settings: by readings, and by the parabola."""

from dataclasses import replace

import pytest

from iron_bucket.core.bench.head import Technology
from iron_bucket.core.bench.measured_configuration import measured_head
from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.bench.setting_output import has_two_whites, setting_points, setting_share
from iron_bucket.core.figure import Figure, Origin
from tests.made_up import a_head
from tests.tables import tabled

TWO = a_head(slug="two", technology=Technology.LED_BICOLOUR, lowest_cct_k=2500.0, highest_cct_k=10_000.0)
#: 100 to 400 mired; 250 in the middle is 4000 K.
ENDS = 0.75


def a_reading(set_k: float | None, lux: float, **changes) -> Reading:
    made = {"configuration_slug": "two.bare", "throw_m": 2.0, "illuminance_lx": lux, "set_cct_k": set_k}
    return Reading(**(made | changes))


@tabled
def test_a_parabola_over_mired_where_nobody_measured(cct_k, share):
    found = setting_share(TWO, cct_k, told_at_k=4000.0)
    assert (found.value, found.origin) == (pytest.approx(share), Origin.TYPICAL)
    daylight = 1.0 - 0.25 * ((2 * (1e6 / 5600.0 - 100.0) / 300.0) - 1.0) ** 2
    assert setting_share(TWO, cct_k).value == pytest.approx(share / daylight)


def test_what_has_one_white_gives_the_same_at_any_setting():
    for head in (a_head(), replace(TWO, highest_cct_k=2500.0), replace(TWO, technology=Technology.LED_COLOUR)):
        assert not has_two_whites(head)
        assert setting_share(head, 2500.0).value == 1.0
    assert has_two_whites(TWO)


def test_readings_at_two_settings_and_more_are_joined_by_lines_over_mired():
    readings = [
        a_reading(2500.0, 300.0),
        a_reading(10_000.0, 80.0, throw_m=4.0, ambient_lx=0.0),  # 320 at two metres
        a_reading(4000.0, 200.0, setting=0.5),  # 400 at full
        a_reading(4000.0, 5000.0, modifier_slug="silk"),
        a_reading(4000.0, 5000.0, aside_m=1.0),
        a_reading(None, 900.0),
    ]
    points = dict(setting_points(TWO, readings))
    assert points == {2500.0: pytest.approx(0.75), 4000.0: pytest.approx(1.0), 10_000.0: pytest.approx(0.8)}
    head = measured_head(TWO, tuple(readings))
    assert head.setting_points == tuple(points.items())
    found = setting_share(head, 1e6 / 325.0, told_at_k=4000.0)  # half way between 250 and 400 mired
    assert (found.value, found.origin) == (pytest.approx(0.875), Origin.MEASURED)
    assert setting_share(head, 2500.0, told_at_k=10_000.0).value == pytest.approx(0.75 / 0.8)
    two = replace(TWO, setting_points=((2500.0, 0.5), (5000.0, 1.0)))
    assert setting_share(two, 2500.0, told_at_k=5000.0) == Figure(value=0.5, origin=Origin.MEASURED)
    assert setting_share(two, 1e6 / 300.0, told_at_k=5000.0).value == pytest.approx(0.75)
    assert setting_points(TWO, readings[:1]) == ()
    assert measured_head(TWO, tuple(readings[:1])).setting_points == ()
    # Of two that turn each other round the means are alike, and both of them the best.
    rows = ((2500.0, 50.0, "a"), (4000.0, 100.0, "a"), (2500.0, 100.0, "b"), (4000.0, 50.0, "b"))
    turned = [a_reading(cct_k, level_lx, configuration_slug=name) for cct_k, level_lx, name in rows]
    assert dict(setting_points(TWO, turned)) == {2500.0: 1.0, 4000.0: 1.0}
    other = [
        a_reading(2500.0, 60.0, configuration_slug="two.lens"),
        a_reading(4000.0, 100.0, configuration_slug="two.lens"),
    ]
    both = dict(setting_points(TWO, [*readings, *other]))
    assert both[2500.0] == pytest.approx((0.75 + 0.6) / 2.0)
