"""The colour that a light is drawn in, against the camera's white balance."""

import pytest

from iron_bucket.core.colour.seen import seen_rgb, seen_shift_mired
from tests.tables import tabled


@tabled
def test_light_is_drawn_by_its_mireds_against_the_white_balance(mired, colour):
    white_k = 1e6 / 180.0
    assert seen_rgb(light_k=1e6 / (180.0 + mired), white_balance_k=white_k) == colour


def test_warm_is_positive():
    assert seen_shift_mired(light_k=3200.0, white_balance_k=5600.0) == pytest.approx(133.9, abs=0.05)
