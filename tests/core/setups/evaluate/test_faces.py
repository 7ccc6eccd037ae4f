"""How a person is lit."""

import math
from dataclasses import replace

import pytest

from iron_bucket.core.exposure.ratio import RatioSchool
from iron_bucket.core.modifiers.two_stage import Head, light_panel
from iron_bucket.core.setups.evaluate.faces import lit_faces
from tests.core.setups.made import ANNA, NOON, OPEN_AIR, READS_FLAT, a_frame, a_lamp, lit_setup


def test_how_a_person_is_lit(gear):
    found = lit_setup(gear)
    face = lit_faces(found)[0]
    assert (face.key_light, face.key_side, face.angle_word) == ("Key", "right", "three-quarter")
    # The lamp lies 45 degrees to the left of the camera seen from her: clockwise from above, and level.
    assert face.angle_deg == pytest.approx(45.0, abs=0.2)
    assert face.bearing_deg == pytest.approx(225.0, abs=0.2)
    assert face.height_deg == pytest.approx(0.0, abs=0.2)
    offset = {each.slug: each for each in gear.configurations}["day-led-300.reflector"]
    size = math.sqrt(offset.face.width_m * offset.face.height_m)
    assert face.throw_m == pytest.approx(2.0 + offset.offset_m, abs=0.01)
    assert face.apparent_deg == pytest.approx(2 * math.degrees(math.atan(size / 2 / face.throw_m)), rel=1e-6)
    assert face.fall_off_stops == pytest.approx(2 * math.log2((face.throw_m + 1) / face.throw_m))
    assert face.edge_m == pytest.approx(size * 0.03 / face.throw_m)  # docs/craft.md: w = D b / a
    assert face.ratio.ratio(RatioSchool.SUM_TO_FILL) == pytest.approx(face.key_lx / face.shadow_lx)
    assert face.ratio.ratio(RatioSchool.KEY_TO_FILL) == pytest.approx(face.key_lx / face.shadow_lx - 1.0)
    assert lit_faces(lit_setup(gear, lamps=())) == ()
    side = a_lamp(x_m=0.5, y_m=2.5)  # a flat receptor on the far cheek sees nothing of it
    assert lit_faces(lit_setup(gear, lamps=(side,), surroundings=OPEN_AIR, rules=READS_FLAT))[0].ratio is None
    # From her the camera lies at 180, the key at 225: by where her nose points between, beyond or before them.
    for nose_deg, is_near in ((140.0, True), (180.0, True), (215.0, False), (250.0, True), (224.0, False)):
        turned = lit_faces(lit_setup(gear, people=(replace(ANNA, bearing_deg=nose_deg),)))[0]
        assert turned.is_near_side is is_near, nose_deg


def test_windows_and_sun_as_keys(gear):
    day = lit_setup(gear, when=NOON, lamps=(), people=(replace(ANNA, bearing_deg=0.0),))
    face = lit_faces(day)[0]
    assert face.key_light == "Window"
    away_m = math.dist((3, 5, 1.6), (3, 2.5, 1.5))
    assert face.apparent_deg == pytest.approx(2 * math.degrees(math.atan(math.sqrt(1.6 * 1.4) / 2 / away_m)))
    frost = a_frame(x_m=3.0, y_m=3.2, bearing_deg=0.0, cloth="cloth-light-frost")
    turned = (replace(ANNA, bearing_deg=0.0),)
    behind = lit_faces(lit_setup(gear, when=NOON, lamps=(), people=turned, frames=(frost,)))[0]
    assert (behind.key_light, behind.way) == ("Window", "Frame")
    outside = lit_setup(gear, when=NOON, weather="clear", lamps=(), surroundings=OPEN_AIR)
    sunlit = lit_faces(outside)[0]
    assert sunlit.key_light == "sun"
    assert sunlit.apparent_deg == pytest.approx(0.53, abs=0.01)
    grey = lit_setup(gear, when=NOON, lamps=(), surroundings=OPEN_AIR)
    assert lit_faces(grey)[0].key_light == "sky"
    assert lit_faces(grey)[0].apparent_deg == pytest.approx(90.0, abs=0.01)  # a half space, from above
    assert lit_faces(grey)[0].height_deg == pytest.approx(90.0, abs=1.0)


def test_an_evenly_lit_board_is_as_large_as_it_is(gear):
    """Twelve metres off its lamp, in the open, but for Anna's shadow on it; and its middle is what lights her."""
    board = a_frame(frame="", cloth="", board="board-poly-2.4", x_m=0.0, y_m=2.5, bearing_deg=90.0)
    far = a_lamp(
        x_m=12.0, y_m=4.0, z_m=1.5, aims_at="", bearing_deg=263.0, level=1.0, configuration="day-led-1200.bare"
    )
    found = lit_setup(
        gear, lamps=(far,), frames=(board,), surroundings=OPEN_AIR, people=(replace(ANNA, bearing_deg=250.0),)
    )
    face = lit_faces(found)[0]
    assert (face.way, face.throw_m) == ("Frame", pytest.approx(3.0))
    assert face.apparent_deg == pytest.approx(2.0 * math.degrees(math.atan(math.sqrt(1.2 * 2.4) / 2.0 / 3.0)), rel=0.07)
    # A spot from two metres lights its middle alone, as large as the two-stage integral has it; a part above the middle
    # is as large.
    near = replace(far, configuration="day-led-1200.narrow", x_m=2.0, y_m=2.5, bearing_deg=270.0, level=0.05)
    people = (replace(ANNA, bearing_deg=250.0),)
    found, higher = (
        lit_setup(gear, lamps=(replace(near, z_m=z_m),), frames=(board,), surroundings=OPEN_AIR, people=people)
        for z_m in (1.5, 2.0)
    )
    lamp = found.built.scene.lamps[0]
    head = Head(position_m=lamp.position_m, aim=lamp.aim, distribution=lamp.intensity)
    width_m, height_m = light_panel(head, found.built.scene.frames[0].panel).lit_size_m
    spot = lit_faces(found)[0]
    assert (spot.way, width_m < 1.2) == ("Frame", True)
    seen_deg = 2.0 * math.degrees(math.atan(math.sqrt(width_m * height_m) / 2.0 / 3.0))
    assert spot.apparent_deg == pytest.approx(seen_deg, rel=0.05)
    assert lit_faces(higher)[0].apparent_deg == pytest.approx(spot.apparent_deg, rel=0.05)


def test_frost_leaves_a_hot_centre_as_small_as_the_lamp_and_full_white_none(gear):
    """A metre behind Anna's light: most of what light frost passes still comes straight from the head."""
    lamp = a_lamp(configuration="day-led-300.hyper", x_m=1.0, y_m=0.5, level=1.0)
    frame = {"frame": "frame-1.2", "x_m": 2.0, "y_m": 1.5, "z_m": 1.5, "bearing_deg": 45.0}
    beside = a_frame(piece_id="beside", cloth="cloth-light-frost", x_m=1.4, y_m=2.2, z_m=1.5, bearing_deg=90.0)
    frost, white = (
        lit_faces(lit_setup(gear, lamps=(lamp,), frames=(a_frame(cloth=cloth, **frame), beside)))[0]
        for cloth in ("cloth-light-frost", "cloth-full-white")
    )
    near = frame | {"x_m": 2.7, "y_m": 2.2}  # half of it comes straight there, on the line from lamp to face
    half, whole = (
        lit_faces(lit_setup(gear, lamps=(lamp,), frames=(a_frame(cloth=cloth, **near),)))[0]
        for cloth in ("cloth-light-frost", "cloth-full-white")
    )
    assert (half.hot_centre, half.apparent_deg < 0.5 * whole.apparent_deg) == (pytest.approx(0.5, abs=0.05), True)
    assert white.hot_centre is None
    alone = lit_faces(lit_setup(gear, lamps=(lamp,), frames=(a_frame(cloth="cloth-light-frost", **frame),)))[0]
    assert frost.hot_centre == pytest.approx(alone.hot_centre, rel=3e-3)  # what stands beside is not looked through
    for off_m, is_hot in ((2.74, True), (2.77, False)):  # so near that what is scattered outdoes what comes straight
        frosted = a_frame(cloth="cloth-light-frost", **frame | {"x_m": off_m, "y_m": off_m - 0.5})
        bare = replace(lamp, configuration="day-led-300.bare")
        assert (lit_faces(lit_setup(gear, lamps=(bare,), frames=(frosted,)))[0].hot_centre is not None) is is_hot
    assert frost.hot_centre > 0.5
    assert frost.apparent_deg < 0.6 * white.apparent_deg
