import math
from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.setups.plan.camera_view import depth_m, field_of_view_deg, in_view, picture_corners_m
from iron_bucket.core.setups.plan.look import Look, grey_luminance_cd_m2, held_window, luminance_stops, surface_stops
from iron_bucket.core.setups.plan.setup import Camera, Spot
from iron_bucket.core.setups.plan.throws import throws_m
from tests.core.setups.made import a_frame, a_lamp, a_setup
from tests.tables import tabled


def test_the_level_that_a_look_wants():
    # docs/craft.md, section 4: T2.8, 1/48 s, ISO 800, C 340 gives 159.9 lx.
    look = Look(t_stop=2.8, iso=800.0)
    assert look.wanted_lx(Receptor.DOME) == pytest.approx(159.9, abs=0.1)
    assert Look(nd_stops=1.0, filter_stops=1.0).wanted_lx(Receptor.DOME) == pytest.approx(4 * 159.94, rel=1e-3)
    assert look.t_stop_at(look.wanted_lx(Receptor.DOME), Receptor.DOME) == pytest.approx(2.8)
    assert Look(nd_stops=2.0).t_stop_at(159.94, Receptor.DOME) == pytest.approx(1.4, rel=1e-3)
    assert Look(filter_stops=2.0).t_stop_at(159.94, Receptor.DOME) == pytest.approx(1.4, rel=1e-3)


@tabled
def test_where_a_surface_sits(reflectance, level, stops):
    assert surface_stops(reflectance, level, 100.0) == pytest.approx(stops)
    if level:
        assert luminance_stops(reflectance * level / math.pi, 100.0) == pytest.approx(stops)
    assert luminance_stops(0.0, 100.0) == pytest.approx(math.log2(1e-9 / 18.0))


def test_holding_a_window():
    # By hand, craft text section 4: middle grey under 20 000 lx is 0.18 * 20000 / pi cd/m2; through 0.8 it lies
    # log2(0.8 * 20000 / E) over.
    look = Look()
    wanted = look.wanted_lx(Receptor.DOME)
    found = held_window(luminance_cd_m2=grey_luminance_cd_m2(20_000.0), passes=0.8, look=look, receptor=Receptor.DOME)
    assert found.stops == pytest.approx(math.log2(16_000 / wanted))
    assert not found.holds
    assert found.key_lx == pytest.approx(16_000 / 2**6)
    assert found.film_stops == found.lens_stops == pytest.approx(found.stops - 6.0)
    assert found.outside_lx == pytest.approx(wanted * 2**6 / 0.8)
    range_stops = held_window(
        luminance_cd_m2=grey_luminance_cd_m2(9_000.0), passes=0.8, look=look, receptor=Receptor.DOME
    )
    assert range_stops.holds
    assert range_stops.film_stops == 0.0


@tabled
def test_what_a_camera_holds_at_an_iso(iso, range_stops):
    # Between its rows evenly by stops of ISO: 1600 is half way from 800 to 3200. Beyond them nobody knows better than
    # the last.
    look = Look(iso=iso, by_iso=((3200.0, 6.0, 6.0), (800.0, 5.0, 8.0)))
    assert (look.clip_stops, look.floor_stops) == pytest.approx(range_stops)
    plain = Look(iso=iso, above=4.0, below=3.0)
    assert (plain.clip_stops, plain.floor_stops) == (4.0, 3.0)
    bright = grey_luminance_cd_m2(60_000.0)
    window = held_window(luminance_cd_m2=bright, passes=1.0, look=look, receptor=Receptor.DOME)
    assert window.film_stops == pytest.approx(window.stops - range_stops[0])


def test_the_field_of_view_and_what_is_in_it():
    camera, look = Camera(focal_mm=20.0, z_m=1.5), Look(sensor_width_mm=40.0, sensor_height_mm=20.0)
    assert field_of_view_deg(camera, look) == pytest.approx((90.0, 53.13), abs=0.01)
    # Looking up the plan from 1.5 m: as far aside as ahead is the edge; up and down half of that.
    points = np.array(
        [[1.9, 2, 1.5], [2.1, 2, 1.5], [0, 2, 2.4], [0, 2, 2.6], [0, -2, 1.5], [-1.9, 2, 0.6]], dtype=float
    )
    assert in_view(camera, look, points).tolist() == [True, False, True, False, False, True]
    tilted = Camera(focal_mm=20.0, z_m=1.5, tilt_deg=30.0)
    assert in_view(tilted, look, points[[2, 3]]).tolist() == [True, True]
    assert depth_m(tilted, np.array([5.0, 0.0, 3.5])) == pytest.approx(1.0)  # 2 m up, along a half
    low, high = picture_corners_m(tilted, look, 2.0)[[0, 2]]  # 2 m out along the tilt; half of it 2 m wide, 1 m high
    along, above = np.array([0.0, 0.75**0.5, 0.5]), np.array([0.0, -0.5, 0.75**0.5])
    assert high == pytest.approx(np.array([2.0, 0.0, 1.5]) + 2.0 * along + above)
    assert low == pytest.approx(np.array([-2.0, 0.0, 1.5]) + 2.0 * along - above)
    turned = Camera(focal_mm=20.0, z_m=1.5, bearing_deg=90.0)
    assert in_view(turned, look, np.array([[2, 0, 1.5], [0, 2, 1.5]], dtype=float)).tolist() == [True, False]


def test_a_throw_goes_to_what_is_aimed_at_and_the_picture_runs_from_the_lower_left():
    spot = Spot(piece_id="s", name="S", x_m=1.586, y_m=3.086, z_m=1.5)
    setup = a_setup(lamps=(a_lamp(), a_lamp(piece_id="b", name="B", aims_at="s")), spots=(spot,), frames=(a_frame(),))
    found = throws_m(setup)
    assert (found["key"], found["b"]) == (pytest.approx(2.0, abs=1e-3), pytest.approx(2.0))
    assert found["frame"] == pytest.approx(math.dist((2.1, 1.6), (3.0, 2.5)))  # it aims at nothing
    assert set(throws_m(replace(setup, people=()))) == {"b"}
    # 24 mm wide and 12 high before a lens of 24 mm: at 2 m the picture is 2 m by 1 m.
    look = Look(sensor_width_mm=24.0, sensor_height_mm=12.0)
    camera = Camera(x_m=1.0, y_m=1.0, z_m=1.5, bearing_deg=90.0, focal_mm=24.0)
    corners = [(3.0, 2.0, 1.0), (3.0, 0.0, 1.0), (3.0, 0.0, 2.0), (3.0, 2.0, 2.0)]
    assert picture_corners_m(camera, look, 2.0) == pytest.approx(np.array(corners))
