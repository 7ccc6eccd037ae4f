"""Clocks by their cities."""

from zoneinfo import ZoneInfo, available_timezones

import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.web.shared.zones import cities, zone_of


def test_a_clock_is_found_by_its_city_however_it_is_written():
    names = [city for _, city in cities()]
    assert len(names) > 300
    for zone, city in cities()[::9]:
        ZoneInfo(zone)
        if names.count(city) == 1:
            assert zone_of(city.upper(), "Clock") == zone
        else:
            with pytest.raises(BadValue, match=zone):
                zone_of(city, "Clock")
    assert [zone_of(each, "Clock") for each in ("UTC", "Etc/GMT-1")] == ["UTC", "Etc/GMT-1"]
    assert not any(zone.startswith("Etc/") for zone, _ in cities())
    assert {zone for zone, _ in cities()} <= available_timezones()
    with pytest.raises(BadValue, match="Clock is 'atlantis'; accepted: a large city"):
        zone_of("atlantis", "Clock")
