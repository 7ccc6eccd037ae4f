"""What lies on walls, against the inverse square by hand and against marks on the wall."""

import math
from dataclasses import replace

import pytest

from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.setups.evaluate.spill import brightest_spill, level_on_wall_lx
from iron_bucket.core.setups.plan.setup import Spot
from iron_bucket.core.setups.sheet.clearance import clearance
from tests.core.setups.made import BOX, NOON, RULES, a_frame, a_lamp, a_place, a_setup, lit_setup
from tests.tables import table

PALE = Surroundings(a_place("white paint"))
#: A reflector a metre off the left wall, square to it, out of Anna's way.
SIDE = a_lamp(x_m=1.0, y_m=4.0, z_m=1.5, aims_at="", bearing_deg=270.0, level=1.0)


def test_the_brightest_patch_is_where_the_lamp_points(gear):
    found = lit_setup(gear, surroundings=PALE, lamps=(SIDE,))
    spill = brightest_spill(found, Receptor.DOME)[0]
    assert (spill.light, spill.surface) == ("Key", "wall 4")
    assert (spill.x_m, spill.y_m, spill.z_m) == pytest.approx((0.0, 4.0, 1.5), abs=0.4)
    fixture = found.built.lights[0].fixture
    on_axis = fixture.axis_cd / (1.0 + fixture.configuration.offset_m) ** 2
    assert 0.5 * on_axis < spill.illuminance_lx < on_axis  # the mean of a patch some decimetres wide
    assert spill.stops == pytest.approx(math.log2(0.8 * spill.illuminance_lx / (0.18 * 159.94)), abs=0.01)
    assert brightest_spill(lit_setup(gear, surroundings=PALE, lamps=()), Receptor.DOME) == ()
    assert (
        brightest_spill(lit_setup(gear, surroundings=PALE, lamps=(), when=NOON), Receptor.DOME) == ()
    )  # the window is not ours
    down = brightest_spill(lit_setup(gear, surroundings=PALE, lamps=(replace(SIDE, tilt_deg=-90.0),)), Receptor.DOME)[0]
    up = brightest_spill(lit_setup(gear, surroundings=PALE, lamps=(replace(SIDE, tilt_deg=90.0),)), Receptor.DOME)[0]
    assert (down.surface, up.surface) == ("the floor", "the ceiling")
    # Into the corner: more falls on a black floor, more comes off the pale wall.
    dark = Surroundings(replace(a_place(), rooms=(replace(a_place("white paint").rooms[0], floor="black cloth"),)))
    into = replace(SIDE, z_m=1.2, tilt_deg=-65.0)
    assert brightest_spill(lit_setup(gear, surroundings=dark, lamps=(into,)), Receptor.DOME)[0].surface == "wall 4"


def test_a_hot_spot_is_pointed_out_with_its_figure(gear):
    hot = {each.code: each for each in clearance(lit_setup(gear, surroundings=PALE, lamps=(SIDE,)), gear, RULES)}[
        "hot-spot"
    ]
    assert hot.title == "Hot spot of Key on wall 4"
    assert "stops over middle grey" in hot.trigger
    dim = lit_setup(gear, surroundings=PALE, lamps=(replace(SIDE, level=0.004),))
    assert "hot-spot" not in {each.code for each in clearance(dim, gear, RULES)}
    assert brightest_spill(dim, Receptor.DOME)[0].stops < 2.5
    far = replace(SIDE, x_m=5.0, level=0.0001)
    faint = brightest_spill(lit_setup(gear, surroundings=PALE, lamps=(far,)), Receptor.DOME)
    assert 0.0 < faint[0].illuminance_lx < 1.0
    booth = replace(a_place().rooms[0], corners=((0, 0), (1.5, 0), (1.5, 5), (0, 5)), openings=())
    slim = lit_setup(gear, surroundings=Surroundings(a_place(rooms=(booth,), sockets=())), people=(), lamps=(SIDE,))
    shapes = [level_on_wall_lx(slim, 0, wall).shape for wall in (0, 1)]  # the longer side of each in 96 places
    assert shapes == [(96, 48), (58, 96)]


def test_the_light_over_a_wall_is_that_of_marks_on_it(gear):
    spot = Spot(piece_id="p", name="P", x_m=1.5 + 6.0 / 96 / 2, y_m=5.0, z_m=1.5 + 3.0 / 48 / 2, bearing_deg=180.0)
    lamps = table(__file__, "lamps")
    frame = a_frame(x_m=1.6, y_m=2.5, bearing_deg=0.0)
    found = lit_setup(gear, a_setup(lamps=lamps, frames=(frame,), spots=(spot,), people=()))
    field = level_on_wall_lx(found, 0, 2)
    assert field.shape == (48, 96)
    place = found.place_of("p")
    straight = float(found.built.levels @ (found.response.whole_lx - found.response.indirect_lx)[:, place])
    # Seen from inside, the wall's left end is its second corner, x = 0, and its first row is right under the ceiling.
    low = replace(found.built.setup, spots=(replace(spot, z_m=3.0 / 48 / 2),))
    foot = lit_setup(gear, low)
    at = foot.place_of("p")
    floor_lx = float(foot.built.levels @ (foot.response.whole_lx - foot.response.indirect_lx)[:, at])
    aimed = level_on_wall_lx(foot, 0, 2)
    assert aimed[47, 24] == pytest.approx(floor_lx, rel=0.05)
    assert aimed[0, 24] != pytest.approx(floor_lx, rel=0.2)
    assert field[23, 24] == pytest.approx(straight, rel=0.05)
    # Square before the middle of the wall: left and right, above and below are alike.
    square = lit_setup(gear, lamps=(replace(SIDE, x_m=3.0, y_m=4.2, bearing_deg=0.0),), people=(), spots=())
    even = level_on_wall_lx(square, 0, 2)
    assert even == pytest.approx(even[::-1, ::-1], rel=1e-6)
    assert even[20, 30] == pytest.approx(even[20, -31], rel=1e-6)


@pytest.mark.parametrize(("width", "height", "shape"), [(1, 3, (96, 32)), (1, 30, (240, 8)), (40, 2, (8, 96))])
def test_a_wall_is_looked_at_evenly_and_at_eight_places_each_way_at_least(gear, width, height, shape):
    corners = ((0, 0), (width, 0), (width, 5), (0, 5))
    room = replace(BOX.place.rooms[0], corners=corners, height_m=height, openings=())
    there = Surroundings(a_place(rooms=(room,), sockets=(), circuits=()))
    assert level_on_wall_lx(lit_setup(gear, lamps=(), surroundings=there), 0, 0).shape == shape
