"""The colour that a light is drawn in, against the camera's white balance."""

from iron_bucket.core.colour.seen import seen_rgb
from tests.tables import tabled


@tabled
def test_light_is_drawn_by_its_mireds_against_the_white_balance(mired, colour):
    white_k = 1e6 / 180.0
    assert seen_rgb(light_k=1e6 / (180.0 + mired), white_balance_k=white_k) == colour
