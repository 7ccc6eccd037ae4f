"""Arrangements to begin with."""

import math
from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.kinds import Board, Frame
from iron_bucket.core.places.bearing import along_bearing, bearing_of, turn_between
from iron_bucket.core.places.place import HouseLamp, KitArea
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluate.faces import lit_faces
from iron_bucket.core.setups.evaluate.ladder import ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import lit
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.core.setups.suggest.preset_ground import preset_ground
from iron_bucket.core.setups.suggest.presets import Preset, preset_setup
from iron_bucket.core.typical import typical
from tests.core.setups.made import BOX, NIGHT, NOON, OPEN_AIR, RULES, a_place, lit_setup
from tests.made_up import panel_at

METRIC = UnitSystem.METRIC


@pytest.mark.parametrize("beginning", list(Preset))
def test_a_beginning_is_built_from_what_is_ours_and_can_be_lit(gear, beginning):
    globe = HouseLamp(lamp_id="globe", name="Globe", x_m=3, y_m=1, z_m=2.5, lumens=1000)
    exit_ = replace(globe, lamp_id="exit", must_stay=True)
    place = Surroundings(
        a_place(
            "white paint",
            house_lamps=(globe, exit_),
            kit_areas=(KitArea(area_id="k", name="Kit", x_m=0, y_m=0, width_m=1, depth_m=1),),
        )
    )
    setup = preset_setup(beginning, "New", place, gear.in_use(), RULES, Look(t_stop=4.0), NOON)
    found = lit(build_scene(setup, place, gear, RULES))
    for light in found.built.lights:
        if light.fixture:
            pieces = (light.fixture.head, light.fixture.face)
            assert all(piece is None or piece.is_owned for piece in pieces)
            assert not light.fixture.head.is_hot
            assert light.placed.z_m <= 3.0 - 0.35 + 1e-9
            assert light.lowest <= light.placed.level <= 1.0
    assert (setup.house_off, setup.when) == (("globe",), NOON)
    assert (setup.lamps == ()) == (beginning is Preset.EMPTY)
    assert place.room_at(setup.camera.x_m, setup.camera.y_m) == 0
    assert ladder_of(found, RULES.receptor).lost == ()
    assert (setup.name, setup.camera.focal_mm) == ("New", 50.0)


def narrow_share(each) -> float:
    """What is left of its peak 30 degrees off."""
    return float(each.distribution.intensity_cd(30.0) / each.distribution.intensity_cd(0.0))


@pytest.mark.parametrize("beginning", [each for each in Preset if each not in (Preset.EMPTY, Preset.BOOK)])
def test_a_beginning_stands_as_its_table_says(gear, beginning):
    """In the open, eight metres wide, where no wall brings anything nearer; the window's side is clockwise there."""
    table = typical("presets")[beginning]
    bench = gear.in_use()  # whose lightest board is a silver one
    silver = (replace(each, weight_kg=0.1) if each.lobe_deg < 60.0 else each for each in bench.boards)
    bench = replace(bench, boards=tuple(silver))
    setup = preset_setup(beginning, "N", OPEN_AIR, bench, RULES, Look(white_balance_k=5000.0), NOON)
    assert (setup.camera.x_m, setup.camera.y_m, setup.camera.bearing_deg) == pytest.approx((0.0, -4.4, 0.0), abs=0.01)
    assert (setup.spots[0].x_m, setup.spots[0].y_m) == pytest.approx((0.0, 3.2), abs=0.01)
    assert (setup.spots[0].name, setup.spots[0].z_m, setup.spots[0].reflectance) == ("Background", 1.4, 0.3)
    assert (setup.people[0].x_m, setup.people[0].y_m, setup.people[0].bearing_deg) == (0.0, 0.0, 205.0)
    for number, (lamp, row) in enumerate(zip(setup.lamps, table["lamps"], strict=True), 1):
        far = max(row.get("least_m", 0.0), 8.0 * row.get("share", 0.0))
        bearing = math.radians(180.0 + row["off_deg"])
        assert (lamp.x_m, lamp.y_m) == pytest.approx((far * math.sin(bearing), far * math.cos(bearing)), abs=0.01)
        assert (lamp.piece_id, lamp.name, lamp.z_m) == (f"lamp-{number}", row["name"], row["height_m"])
        assert (lamp.cct_k, lamp.aims_at) == (row.get("cct_k", 0.0), row.get("aims_at", "person-1"))
        assert (lamp.purpose, lamp.motivation) == (row["purpose"], row.get("motivation", ""))
        ours = {head.slug: head for head in bench.heads if head.is_owned and not head.is_hot}
        settings = [each for each in bench.configurations if each.head_slug in ours]
        boxes = [face for face in bench.faces if face.is_owned and face.fitting in {h.fitting for h in ours.values()}]
        largest = max(boxes, key=lambda face: face.width_m * face.height_m)
        assert lamp.face == (largest.slug if row["by"] == "soft" else "")
        match row["by"]:
            case "small":
                able = [min(settings, key=lambda each: (ours[each.head_slug].total_kg, each.slug))]
            case "soft":
                able = [each for each in settings if each.takes_box and ours[each.head_slug].fitting == largest.fitting]
            case "narrow":
                able = [each for each in settings if not each.is_lambertian and narrow_share(each) < 0.3]
        assert lamp.configuration == max(able, key=lambda each: each.lumens).slug
    rows = [(each.piece_id, each.mark, each.stops, each.tolerance) for each in setup.targets]
    asked = enumerate(table["targets"], 1)
    assert rows == [(f"target-{at}", mark, stops, *(rest or [1.0 / 3.0])) for at, (mark, stops, *rest) in asked]
    assert (setup.when, setup.look.white_balance_k) == (NOON, table.get("white_balance_k", 5000.0))  # the hour stands
    assert (beginning.hour, Preset.EMPTY.hour) == (table.get("hour"), None)
    assert bool(setup.frames) == ("board" in table)
    for board in setup.frames:
        matt = [each for each in bench.boards if each.is_owned and each.lobe_deg >= 60.0]
        assert board.board == min(matt, key=lambda each: (each.weight_kg, each.slug)).slug
        assert (board.x_m, board.y_m) == pytest.approx((-2.08 * 0.5**0.5, -2.08 * 0.5**0.5), abs=0.01)
        assert (board.z_m, board.tilt_deg, board.bearing_deg) == (
            1.2,
            0.0,
            pytest.approx(45.0, abs=0.2),
        )  # it looks at the middle


def test_a_beginning_is_scaled_to_the_room_and_needs_a_lamp(gear):
    small, outside = (
        preset_setup(Preset.WINDOW_TALK, "N", there, gear, RULES, Look(), NOON) for there in (BOX, OPEN_AIR)
    )
    assert [
        abs(each.camera.x_m - each.people[0].x_m) + abs(each.camera.y_m - each.people[0].y_m)
        for each in (small, outside)
    ] == pytest.approx([0.55 * 0.8 * 6.0, 0.55 * 8.0], abs=0.02)
    deep = replace(a_place().rooms[0], corners=((9, 0), (13, 0), (13, 6), (9, 6)), openings=())
    along = preset_setup(Preset.EMPTY, "N", Surroundings(a_place(rooms=(deep,))), gear, RULES, Look(), NOON)
    assert (along.people[0].x_m, along.people[0].y_m) == pytest.approx((11.0, 3.0 + 0.12 * 6.0))  # it looks up the room
    assert (along.camera.x_m, along.camera.bearing_deg) == (11.0, 0.0)
    assert [(each.piece_id, each.mark, each.stops) for each in along.targets] == [("target-1", "person-1.key", 0.0)]
    with pytest.raises(BadValue, match="a head of ours that suits this part"):
        preset_setup(
            Preset.WINDOW_TALK,
            "N",
            BOX,
            replace(gear, heads=tuple(replace(head, owned=0) for head in gear.heads)),
            RULES,
            Look(),
            NOON,
        )
    # From the face at (2.28, 2.5) through the middle of the pane at (3, 5, 1.6), two metres beyond it; the fill stands
    # across from it.
    morning = preset_setup(Preset.MORNING, "N", BOX, gear, RULES, Look(), NIGHT)
    sun, fill = morning.lamps
    away = 2.0 / math.dist((2.28, 2.5, 1.3), (3.0, 5.0, 1.6))
    assert (sun.x_m, sun.y_m, sun.z_m) == pytest.approx(
        (3.0 + 0.72 * away, 5.0 + 2.5 * away, 1.6 + 0.3 * away), abs=0.01
    )
    assert fill.y_m < 2.5
    assert lit_faces(lit_setup(gear, morning))[0].key_light == "Morning sun"
    # No window of its own that lies aside: a lamp in the room plays the sun, and stands off the wall.
    blind = replace(a_place(), rooms=(replace(a_place().rooms[0], openings=()),))
    sun = preset_setup(Preset.MORNING, "N", Surroundings(blind), gear, RULES, Look(), NOON).lamps[0]
    assert BOX.room_at(sun.x_m, sun.y_m) == 0
    assert (sun.x_m, sun.y_m) == pytest.approx(
        (2.28 + 2.4 * 0.95 * math.cos(math.radians(70)), 2.5 - 2.4 * 0.95 * math.sin(math.radians(70))), abs=0.02
    )
    night = preset_setup(Preset.NIGHT_TABLE, "N", BOX, gear, RULES, Look(), NOON)
    assert night.look.white_balance_k == 3200.0


def test_a_window_lets_a_sun_in_from_aside_alone(gear):
    """Aside is from 35 to 125 degrees off the line to the camera."""
    ground = preset_ground(Surroundings(a_place(rooms=())), Look(), gear)
    for off_deg, is_aside in ((34.0, False), (36.0, True), (-124.0, True), (126.0, False)):
        away = 4.0 * along_bearing(ground.towards_camera_deg + off_deg)
        window = panel_at(away + np.array([0.0, 0.0, 1.5]), (1, 0, 0), (0, 0, 1), 1.0, 1.0)
        assert (replace(ground, window=window).behind_window is not None) is is_aside


def test_a_book_light_is_lit_by_its_board_alone_and_lights_by_its_cloth(gear):
    """The lamp's own light never meets the face: it goes into the board, and from there through the cloth."""
    setup = preset_setup(Preset.BOOK, "New", OPEN_AIR, gear.in_use(), RULES, Look(t_stop=2.8), NIGHT)
    found = lit(build_scene(setup, OPEN_AIR, gear, RULES))
    key = found.place_of("person-1.key")
    cloth, board = ([each.piece_id for each in setup.frames].index(name) for name in ("cloth-1", "board-1"))
    by_lamp = found.response.via_lx[0, :, key]
    assert found.response.direct_lx[0, key] < 1e-3 * by_lamp[cloth]
    assert by_lamp[cloth] > 2.0 * by_lamp[board]
    assert found.response.share_caught[0, board] > 0.5
    assert lit_faces(found)[0].way == "Book light, cloth"
    # The board looks between the lamp and the cloth, the cloth at the face.
    away = [
        turn_between(setup.frames[1].bearing_deg, bearing_of(np.array([each.x_m, each.y_m, 0.0]) - middle))
        for middle in [np.array([setup.frames[1].x_m, setup.frames[1].y_m, 0.0])]
        for each in (setup.lamps[0], setup.frames[0])
    ]
    assert (away[0] + away[1], abs(away[0]) < 45.0) == (pytest.approx(0.0, abs=0.3), True)
    assert lit_faces(found)[0].apparent_deg > 35.0
    for kind in ("boards", "frames", "cloths"):  # not without all three of ours
        hired = replace(gear, **{kind: tuple(replace(each, owned=0) for each in getattr(gear, kind))})
        assert preset_setup(Preset.BOOK, "New", OPEN_AIR, hired, RULES, Look(t_stop=2.8), NIGHT).frames == ()


def test_a_book_light_stands_on_the_window_s_side(gear):
    """The camera looks along x; the far wall is to its left, the near one to its right."""
    aside = []
    for wall in (2, 0):
        place = a_place()
        window = replace(place.rooms[0].openings[0], wall=wall)
        there = Surroundings(replace(place, rooms=(replace(place.rooms[0], openings=(window,)),)))
        setup = preset_setup(Preset.BOOK, "N", there, gear.in_use(), RULES, Look(), NIGHT)
        aside.append([each.y_m - setup.people[0].y_m for each in (*setup.lamps, *setup.frames)])
        face, cloth = (np.array([each.x_m, each.y_m, 0.0]) for each in (setup.people[0], setup.frames[0]))
        turned = setup.frames[0].bearing_deg, setup.frames[0].tilt_deg
        assert turned == (pytest.approx(bearing_of(face - cloth), abs=0.1), 0.0)
    assert aside[0] == pytest.approx([-each for each in aside[1]], abs=0.01)
    assert aside[0][1] > 0.5


def test_a_book_light_has_the_pages_with_most_face(gear):
    """By area, not by how long or slender they are: of what is ours, and of frames no larger than a room lets turn."""
    slender_frame = replace(gear.by_slug(Frame, "frame-1.2"), slug="strip", width_m=1.3, height_m=0.3)
    slender_board = replace(gear.by_slug(Board, "board-poly-1.2"), slug="lath", width_m=2.4, height_m=0.2)
    bench = replace(gear, frames=(slender_frame, *gear.frames), boards=(slender_board, *gear.boards))
    setup = preset_setup(Preset.BOOK, "Book", BOX, bench, RULES, Look(t_stop=4.0), NOON)
    board, cloth = (next(each for each in setup.frames if getattr(each, kind)) for kind in ("board", "frame"))
    matt = [each for each in bench.boards if each.is_owned and each.lobe_deg >= 60.0]
    frames = [each for each in bench.frames if each.is_owned and max(each.width_m, each.height_m) <= 1.3]
    for slug, pieces in ((board.board, matt), (cloth.frame, frames)):
        chosen = next(each for each in pieces if each.slug == slug)
        assert chosen.width_m * chosen.height_m == max(each.width_m * each.height_m for each in pieces)
