"""What a dimmer does to a filament, in words; figures by hand from the trade's exponents."""

from dataclasses import replace

from iron_bucket.core.bench.dimmed_filament import filament_words
from tests.tables import tabled


@tabled
def test_a_filament_on_a_dimmer(gear, slug, level, words):
    assert filament_words(gear.head(slug), level) == words + ("; a dimmer rated above 650 W" if words else "")


def test_hours_of_the_globe_where_they_are_known(gear):
    head = replace(gear.head("tung-650"), globe_life_h=200.0)
    assert "lasts 14.2 × 200 h;" in filament_words(head, 0.5)
