from dataclasses import replace

import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.selection.need import BatteryFeed
from tests.made_up import a_battery, a_need

FOUR = BatteryFeed(kind=a_battery(), count=4, burn_h=2.0)


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"illuminance_lx": 0.0}, "illuminance_lx"),
        ({"throw_m": 0.1}, "throw_m"),
        ({"throw_m": 201.0}, "throw_m"),
        ({"width_m": 0.01}, "width_m"),
        ({"evenness_stops": 0.0}, "evenness_stops"),
        ({"evenness_stops": 7.0}, "evenness_stops"),
        ({"least_apparent_deg": 0.0}, "least_apparent_deg"),
        ({"least_apparent_deg": 171.0}, "least_apparent_deg"),
        ({"cct_k": 900.0}, "cct_k"),
        ({"tolerance_mired": 0.5}, "tolerance_mired"),
        ({"ceiling_m": 0.1}, "ceiling_m"),
        ({"most_weight_kg": 0.0}, "most_weight_kg"),
        ({"most_day_price": -1.0}, "most_day_price"),
        ({"most_noise_db": -1.0}, "most_noise_db"),
        ({"illuminance_lx": 2e6}, "illuminance_lx"),
        ({"width_m": 101.0}, "width_m"),
        ({"tolerance_mired": 501.0}, "tolerance_mired"),
        ({"ceiling_m": 101.0}, "ceiling_m"),
        ({"most_weight_kg": 5001.0}, "most_weight_kg"),
    ],
)
def test_needs_that_cannot_be(change, field):
    with pytest.raises(BadValue, match=f"^{field} is"):
        a_need(**change)


@pytest.mark.parametrize(
    ("change", "field"), [({"count": 0}, "count"), ({"count": 201}, "count"), ({"burn_h": 0.0}, "burn_h")]
)
def test_battery_wishes_that_cannot_be(change, field):
    with pytest.raises(BadValue, match=f"^{field} is"):
        replace(FOUR, **change)
