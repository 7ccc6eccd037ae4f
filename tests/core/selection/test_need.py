from dataclasses import replace

import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.selection.need import BatteryFeed
from tests.made_up import a_battery, a_need
from tests.tables import tabled

FOUR = BatteryFeed(kind=a_battery(), count=4, burn_h=2.0)


@tabled
def test_needs_that_cannot_be(change, field):
    with pytest.raises(BadValue, match=f"^{field} is"):
        a_need(**change)


@pytest.mark.parametrize(
    ("change", "field"), [({"count": 0}, "count"), ({"count": 201}, "count"), ({"burn_h": 0.0}, "burn_h")]
)
def test_battery_wishes_that_cannot_be(change, field):
    with pytest.raises(BadValue, match=f"^{field} is"):
        replace(FOUR, **change)
