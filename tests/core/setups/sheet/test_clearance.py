"""What is pointed out of a set-up, with the figure that shows it."""

from dataclasses import replace

import pytest

from iron_bucket.core.places.place import AmbientReading
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.plan.setup import Camera, PlacedFlag
from iron_bucket.core.setups.sheet.amps import circuit_amps, lamp_amps
from iron_bucket.core.setups.sheet.clearance import clearance
from tests.core.setups.made import BOX, NOON, OPEN_AIR, RULES, a_frame, a_lamp, a_place, lit_setup
from tests.tables import tabled

METRIC = UnitSystem.METRIC


def told(gear, surroundings=BOX, **changes) -> dict:
    return {each.code: each for each in clearance(lit_setup(gear, surroundings=surroundings, **changes), gear, RULES)}


def test_a_quiet_set_up_has_no_cautions_until_a_flag_is_in_the_picture(gear):
    assert told(gear, lamps=(a_lamp(x_m=1.0, y_m=0.6, feed="socket"),)) == {}
    seen, aside = (PlacedFlag(piece_id="f", name="Flag", x_m=x_m, y_m=2.3, z_m=1.5) for x_m in (3.0, 5.5))
    assert told(gear, lamps=(), flags=(seen,))["in-picture"].title == "Flag is in the picture"
    assert "in-picture" not in told(gear, lamps=(), flags=(aside,))


@tabled
def test_what_will_not_stand_reach_or_hide(gear, changes, code, trigger):
    assert trigger in told(gear, **changes)[code].trigger


def test_a_ceiling_or_wall_hides_and_open_air_has_none(gear):
    assert "ceiling" not in told(gear, lamps=(a_lamp(x_m=1.0, y_m=0.6, z_m=2.8),))
    outside = a_lamp(piece_id="o", x_m=9.0, y_m=0.6, z_m=5.0)
    assert "ceiling" not in told(gear, lamps=(outside,))
    assert "ceiling" in told(gear, lamps=(outside, a_lamp(x_m=1.0, y_m=0.6, z_m=2.9)))
    assert "in-picture" not in told(gear, lamps=(a_lamp(x_m=5.5, y_m=7.5),))  # behind the wall
    assert "legs" not in told(gear, lamps=(a_lamp(x_m=2.5, y_m=0.3, z_m=2.7),))
    assert (
        told(
            gear,
            lamps=(),
            flags=(PlacedFlag(piece_id="f", name="Flag", x_m=0.5, y_m=0.5, z_m=0.45, height_m=0.9, width_m=0.9),),
        )
        == {}
    )
    # A board of 2.4 m stands from 0.3 to 2.7 m, under a ceiling of three.
    high = a_frame(frame="", cloth="", board="board-poly-2.4", x_m=1.0, y_m=2.0, z_m=1.5, bearing_deg=90.0)
    assert told(gear, lamps=(), frames=(high,)) == {}
    # Up at the ceiling it touches that and no wall, and higher it does not fit under it.
    assert told(gear, lamps=(), frames=(replace(high, z_m=1.8),)) == {}
    assert set(told(gear, lamps=(), frames=(replace(high, z_m=2.0),))) == {"ceiling"}
    matt = a_frame(frame="", cloth="", board="board-poly-1.2", x_m=3.2, y_m=3.6, z_m=1.6, bearing_deg=180.0)
    assert "mirrored" not in told(gear, lamps=(a_lamp(x_m=3.4, y_m=0.6, z_m=1.8),), frames=(matt,))
    assert "mirrored" not in told(gear, when=NOON, lamps=(a_lamp(x_m=4.0, y_m=4.0, z_m=1.6),))  # beside the pane


@pytest.mark.parametrize(("side", "up"), [(1, 0), (-1, 0), (0, 1), (0, -1)])
def test_a_frame_is_in_the_picture_from_its_edge_on(gear, side, up):
    """Two metres off, 50 mm and 24.9 by 14 mm show half a metre either way, and 0.28 m up and down."""
    for off, is_seen in ((-0.02, True), (0.02, False)):
        x_m, z_m = 3.0 + side * (0.498 + 0.6 + off), 1.5 + up * (0.28 + 0.6 + off)
        frame = a_frame(x_m=x_m, y_m=2.3, z_m=z_m, bearing_deg=180.0)
        found = told(gear, lamps=(), frames=(frame,), camera=Camera(x_m=3.0, y_m=0.3, z_m=1.5, focal_mm=50.0))
        assert ("in-picture" in found) is is_seen


def test_what_is_pointed_out_is_said_in_the_units_of_the_house(gear):
    feet = replace(RULES, units=UnitSystem.IMPERIAL)
    found = {
        each.code: each for each in clearance(lit_setup(gear, lamps=(a_lamp(x_m=1.0, y_m=0.6, z_m=2.9),)), gear, feet)
    }
    assert found["ceiling"].trigger == "its top is at 10'2\", the ceiling at 9'10\""
    glare = clearance(
        lit_setup(gear, lamps=(a_lamp(level=1.0, x_m=2.4, y_m=1.9, configuration="day-led-1200.narrow"),)), gear, feet
    )
    assert next(each for each in glare if each.code == "glare").trigger.endswith(
        " fc at the eyes, from 929 fc people squint"
    )


def test_readings_that_contradict_each_other_are_pointed_out(gear):
    first = AmbientReading(
        reading_id="a", x_m=3.0, y_m=3.0, z_m=1.3, bearing_deg=0.0, tilt_deg=0.0, illuminance_lx=400.0, taken_at=NOON
    )
    both = Surroundings(a_place(readings=(first, replace(first, reading_id="b", illuminance_lx=800.0))))
    found = told(gear, both, when=NOON, lamps=())["readings"]
    assert found.trigger == "400 lx at 12:00 against 800 lx at 12:00: 1.0 stop apart"
    assert "readings" not in told(gear, both, lamps=())  # at night there is no daylight to be wrong about


def test_amps_on_a_circuit_of_the_house(gear):
    fed = {"configuration": "tung-1000.flood", "x_m": 1.0, "y_m": 0.6, "feed": "socket", "level": 1.0}
    lamps = tuple(a_lamp(piece_id=f"l{at}", name=f"L{at}", **fed) for at in range(2))
    found = lit_setup(gear, lamps=lamps)
    assert circuit_amps(found, gear, RULES) == {"Ring": pytest.approx(2000 / 230)}
    assert circuit_amps(lit_setup(gear, lamps=(replace(lamps[0], is_on=False),)), gear, RULES) == {"Ring": 0.0}
    # At the job's own voltage where it is fed from elsewhere; from a battery nothing.
    other = replace(lamps[0], feed=""), a_lamp(piece_id="b", name="B", feed="battery-v-150")
    elsewhere, rules = lit_setup(gear, lamps=other), replace(RULES, voltage_v=120.0, breaker_a=15.0)
    assert circuit_amps(elsewhere, gear, rules) == {}
    assert lamp_amps(elsewhere, gear, rules) == {"l0": pytest.approx(1000 / 120)}


def test_a_frame_is_a_sail_where_no_wall_stands_about_it(gear):
    there = {"frames": (a_frame(), a_frame(piece_id="b", name="Board", frame="", cloth="", board="board-poly-2.4"))}
    assert "sail" not in told(gear, BOX, **there)
    found = clearance(lit_setup(gear, surroundings=OPEN_AIR, **there), gear, RULES)
    sails = {each.title: each.trigger for each in found if each.code == "sail"}
    assert set(sails) == {"Frame is a sail", "Board is a sail"}
    assert sails["Board is a sail"].startswith("2.9 m² tips a stand")
