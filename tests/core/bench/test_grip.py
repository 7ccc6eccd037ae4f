"""What stands under heads, frames and boards."""

import numpy as np
import pytest

from iron_bucket.core.bench.bag import Bag
from iron_bucket.core.bench.grip import TYPICAL_LAMP_HEIGHT_M, grip_of_flat, grip_of_head, head_grip_figures
from tests.core.rigging.test_rigging import a_stand
from tests.made_up import a_board, a_frame, a_gear

GEAR = a_gear(
    stands=(
        a_stand(slug="heavy", payload_kg=40.0, weight_kg=9.0),
        a_stand(slug="light", payload_kg=5.0, weight_kg=2.0, day_price=3.0, highest_m=2.5),
        a_stand(slug="thick", spigot_mm=28.0, payload_kg=40.0, weight_kg=12.0),
        a_stand(slug="low", highest_m=TYPICAL_LAMP_HEIGHT_M - 0.1, weight_kg=0.5),
    ),
    bags=tuple(
        Bag(slug=slug, name=slug, maker="", weight_kg=kg, day_price=1.0, owned=owned)
        for slug, kg, owned in (("hired", 6.0, 0), ("ours", 10.0, 2), ("small", 12.0, 1))
    ),
)


def test_a_frame_has_two_stands_and_a_board_one_each_with_our_lightest_bag():
    for flat, slugs in ((a_frame(), ["light", "light", "ours", "ours"]), (a_board(), ["light", "ours"])):
        assert [each.slug for each in grip_of_flat(GEAR, flat)] == slugs
    assert [each.slug for each in grip_of_flat(GEAR, a_frame(weight_kg=11.0))] == ["thick", "thick", "ours", "ours"]
    assert grip_of_flat(GEAR, a_frame(), height_m=2.7) == ()
    assert [each.slug for each in grip_of_head(a_gear(stands=GEAR.stands), payload_kg=6.0, spigot_mm=16.0)] == ["heavy"]


@pytest.mark.parametrize("payload_kg", [0.0, 5.0, 5.01, 40.0, 41.0])
@pytest.mark.parametrize("spigot_mm", [16.0, 28.0, 35.0])
def test_figures_of_many_heads_are_those_of_each(payload_kg, spigot_mm):
    grip = grip_of_head(GEAR, payload_kg=payload_kg, spigot_mm=spigot_mm)
    weight_kg, price = head_grip_figures(GEAR, np.array([[payload_kg, 0.0]]), np.array([spigot_mm]))
    assert weight_kg[0, 0] == pytest.approx(sum(each.weight_kg for each in grip))
    assert price[0, 0] == pytest.approx(sum(each.price_to_pay for each in grip))
