"""Barn doors and what else cuts the beam of a placed lamp, where its light falls."""

import numpy as np
import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.setups.plan.setup import Spot
from iron_bucket.core.setups.scene.build_scene import build_scene
from tests.core.setups.made import OPEN_AIR, READS_FLAT, a_lamp, a_setup, beam_on_plan, lit_setup
from tests.tables import tabled

#: Six metres before a lamp at the origin that looks up the plan, to its left, its right, above and below its axis.
PLACES = {"left": (-3.6, 6.0), "right": (3.6, 6.0), "above": (0.0, 9.6), "below": (0.0, 2.4)}
OPEN = 90.0


def around(gear, configuration="day-led-300.reflector", **cut) -> dict[str, float]:
    lamp = a_lamp(configuration=configuration, x_m=0.0, y_m=0.0, z_m=6.0, aims_at="", bearing_deg=0.0, level=1.0, **cut)
    spots = tuple(
        Spot(piece_id=name, name=name, x_m=x_m, y_m=6.0, z_m=z_m, bearing_deg=180.0)
        for name, (x_m, z_m) in PLACES.items()
    )
    found = lit_setup(gear, lamps=(lamp,), people=(), spots=spots, surroundings=OPEN_AIR)
    return {name: float(found.total_lx[found.place_of(name)]) for name in PLACES}


@pytest.mark.parametrize("configuration", ["day-led-300.reflector", "panel-100.own-face"])
def test_each_leaf_cuts_its_own_side(gear, configuration):
    bare = around(gear, configuration)
    for at, side in enumerate(("above", "below", "left", "right")):
        doors = tuple(-10.0 if leaf == at else OPEN for leaf in range(4))
        found = around(gear, configuration, doors_deg=doors)
        assert found[side] < 0.25 * bare[side]
        opposite = {"above": "below", "below": "above", "left": "right", "right": "left"}[side]
        assert found[opposite] == pytest.approx(bare[opposite], rel=0.01)
    assert around(gear, configuration, doors_deg=(80.0,) * 4) == pytest.approx(bare, rel=0.02)


def test_gate_and_tube_reach_the_scene(gear):
    bare = around(gear)
    assert around(gear, half_scrims="double")["below"] == pytest.approx(0.5 * bare["below"], rel=0.05)
    assert around(gear, half_scrims="single")["above"] == pytest.approx(bare["above"], rel=0.05)
    assert max(around(gear, iris=0.1).values()) < 0.01 * min(bare.values())
    assert around(gear, snoot_m=1.0)["left"] == 0.0
    assert around(gear, shutters=(0.0, 0.0, 0.9, 0.0))["left"] < 0.01 * bare["left"]
    assert around(gear, slide="blinds") != pytest.approx(bare, rel=0.1)


def test_the_plan_shows_the_cut_beam(gear):
    doors = (OPEN, OPEN, -30.0, OPEN)
    lamp = a_lamp(x_m=0.0, y_m=0.0, z_m=2.0, aims_at="", bearing_deg=0.0, level=1.0, doors_deg=doors)
    bare, cut = (
        build_scene(a_setup(lamps=(each,), people=()), OPEN_AIR, gear, READS_FLAT).scene
        for each in (a_lamp(x_m=0.0, y_m=0.0, z_m=2.0, aims_at="", bearing_deg=0.0, level=1.0), lamp)
    )
    whole, drawn = (beam_on_plan(each.lamps[0], 1.0, 100.0, each).half_m for each in (bare, cut))
    assert drawn[:, 0].max() == pytest.approx(whole[:, 0].max(), rel=0.2)
    assert -0.6 * whole[:, 0].max() < drawn[:, 0].min() < 0.0
    assert np.argmax(drawn[1:, 0]) == 0  # from the right round to the left


@tabled
def test_what_goes_on_no_such_head_is_refused(gear, changes, sentence):
    with pytest.raises(BadValue, match=sentence):
        around(gear, **changes)
