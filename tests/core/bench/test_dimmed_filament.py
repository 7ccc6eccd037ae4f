"""What a dimmer does to a filament, in words; figures by hand from the trade's exponents."""

from dataclasses import replace

import pytest

from iron_bucket.core.bench.dimmed_filament import filament_words


@pytest.mark.parametrize(
    ("slug", "level", "words"),
    [
        # 0.5^(1/3.4) = 0.8156; 3200 * 0.8156^0.42 = 2937; 650 * 0.8156^1.6 = 469; 0.8156^-13 = 14.2
        ("tung-650", 0.5, "82 % of the voltage: 2940 K, 469 W, its globe lasts 14.2 times as long"),
        ("tung-650", 0.1, "51 % of the voltage: 2410 K, 220 W, its globe lasts over 100 times as long"),
        ("tung-650", 1.0, ""),
        ("tung-650", 0.0, ""),
        ("day-led-300", 0.5, ""),
    ],
)
def test_a_filament_on_a_dimmer(gear, slug, level, words):
    assert filament_words(gear.head(slug), level) == words + ("; a dimmer rated above 650 W" if words else "")


def test_hours_of_the_globe_where_they_are_known(gear):
    head = replace(gear.head("tung-650"), globe_life_h=200.0)
    assert "lasts 14.2 × 200 h;" in filament_words(head, 0.5)
