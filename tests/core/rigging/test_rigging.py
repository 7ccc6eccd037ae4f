import pytest

from iron_bucket.core.bench.stand import Stand, lightest_stand
from iron_bucket.core.errors import BadValue
from iron_bucket.core.rigging.headroom import needed_height_m
from iron_bucket.core.rigging.tipping import Sail
from tests.tables import factory, refusals, table

A_SAIL = table(__file__, "A_SAIL")


def test_bags_make_up_what_is_missing_against_wind_with_some_safety():
    sail = Sail(**A_SAIL)
    missing_kg = sail.ballast_kg(5.0, 1.5)
    assert missing_kg == pytest.approx((66.15 * 1.5 - 88.25985) / (9.80665 * 0.45), rel=1e-4)
    assert Sail(**(A_SAIL | {"total_mass_kg": 20.0 + missing_kg})).ballast_kg(5.0, 1.5) == pytest.approx(0.0, abs=1e-9)
    with pytest.raises(BadValue, match="wind_m_s is -1"):
        Sail(**A_SAIL).wind_force_n(-1.0)
    with pytest.raises(BadValue, match="safety_factor is 0"):
        Sail(**A_SAIL).ballast_kg(5.0, 0.0)


@pytest.mark.parametrize("field", A_SAIL)
def test_a_sail_has_every_figure(field):
    with pytest.raises(BadValue, match=f"^{field} is 0"):
        Sail(**(A_SAIL | {field: 0.0}))


def test_the_frame_of_the_craft_text_under_its_ceiling():
    assert needed_height_m(2.4) > 2.44
    assert needed_height_m(1.8) < 2.44
    assert needed_height_m(0.4) == pytest.approx(1.5)  # a small face hangs from a seated face's height
    assert needed_height_m(3.0) == pytest.approx(3.15)  # a large one stands on the floor


a_stand = factory(__file__, "a_stand", Stand)


def test_the_lightest_stand_that_does_it():
    light, ours = a_stand(slug="light", weight_kg=1.0, payload_kg=4.0), a_stand(slug="ours", owned=1)
    stands = (
        a_stand(slug="hired"),
        ours,
        light,
        a_stand(slug="thick", weight_kg=0.5, spigot_mm=28.0),
        a_stand(slug="low", weight_kg=0.5, highest_m=1.1),
    )
    assert lightest_stand(stands, 4.0, 16.0, 1.9) is light
    assert lightest_stand(stands, 4.1, 16.0, 2.6) is ours
    assert lightest_stand(stands, 9.1, 16.0, 1.9) is None


test_what_is_refused = refusals(__file__)
