"""Frames, boards, flags and bodies as they stand in a scene."""

import math
from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.bench.head import HeadClass
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.kinds import ScrimSchool
from iron_bucket.core.modifiers.measured_pass import MeasuredPass
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.setups.evaluate.cell import cell_of
from iron_bucket.core.setups.evaluate.faces import lit_faces
from iron_bucket.core.setups.plan.setup import PlacedFlag, Spot, WindowFilm
from iron_bucket.core.setups.scene.build_scene import build_scene, frame_figure, frame_size_m, panel_of, scene_frame
from iron_bucket.core.setups.scene.fixture import fixture_of
from tests.core.setups.made import (
    ANNA,
    BOX,
    NOON,
    OPEN_AIR,
    READS_FLAT,
    RULES,
    a_frame,
    a_lamp,
    a_place,
    a_setup,
    lit_setup,
)
from tests.tables import table, tabled

PALE = Surroundings(a_place("white paint"))
HALF = ScrimSchool.HALF_AND_ONE


def level_of(found, mark: str) -> float:
    return float(found.total_lx[found.place_of(mark)])


def test_a_frame_stands_as_it_is_bought(gear):
    frame = a_frame(tilt_deg=30.0)
    assert frame_size_m(frame, gear) == (1.2, 1.2)
    assert frame_figure(frame, gear).value == pytest.approx(scene_frame(frame, gear).transmittance)
    board = replace(frame, frame="", cloth="", board="board-poly-2.4")
    assert frame_size_m(board, gear) == (1.2, 2.4)
    assert scene_frame(board, gear).reflectance == pytest.approx(0.85)
    panel = panel_of(frame, 1.2, 1.2)
    assert panel.normal == pytest.approx((0.6124, 0.6124, 0.5), abs=1e-4)  # it looks along its bearing, tilted up
    assert panel.side_x @ [0, 0, 1] == 0.0
    with pytest.raises(BadValue, match="one that comes 6 m wide; it ends at 3.6 m"):
        scene_frame(a_frame(frame="frame-6"), gear)
    with pytest.raises(BadValue, match="cloth is 'gone'"):
        scene_frame(a_frame(cloth="gone"), gear)
    with pytest.raises(BadValue, match="a frame with its cloth, or a board"):
        a_frame(board="board-poly-2.4")


def test_a_cloth_softens_and_costs_more_than_its_figure(gear):
    open_, through = lit_setup(gear), lit_setup(gear, frames=(a_frame(),))
    assert level_of(through, "anna.key") < 0.4 * level_of(
        open_, "anna.key"
    )  # full white passes 0.4, and the frame is not filled
    assert level_of(through, "anna.key") > 0.05 * level_of(open_, "anna.key")
    before, after = lit_faces(open_)[0], lit_faces(through)[0]
    assert after.apparent_deg > 4 * before.apparent_deg
    assert (before.way, after.way) == ("", "Frame")
    assert after.throw_m == pytest.approx(math.dist((2.1, 1.6, 1.5), (3.0, 2.5, 1.5)))


def test_a_mirror_shows_the_lamp_itself(gear):
    # Off a mirror at (1, 2.5), 2 m from Anna, the lamp stands as far behind the glass as before it; it looks as small
    # as it is.
    mirror = a_frame(frame="", cloth="", board="board-mirror", x_m=1.0, y_m=2.5, bearing_deg=135.0)
    lamp = a_lamp(x_m=1.0, y_m=0.5, aims_at="", bearing_deg=0.0, configuration="day-led-300.hyper")
    found = lit_setup(gear, people=(replace(ANNA, bearing_deg=225.0),), lamps=(lamp,), frames=(mirror,))
    face, fixture = lit_faces(found)[0], fixture_of(lamp, gear, HALF)
    assert face.way == "Frame"
    assert face.throw_m == pytest.approx(4.0, abs=0.2)  # and the head's source lies a hand behind its front
    assert face.bearing_deg == pytest.approx(270.0, abs=0.5)
    size = math.sqrt(fixture.size_m[0] * fixture.size_m[1])
    assert face.apparent_deg == pytest.approx(2 * math.degrees(math.atan(size / 2 / face.throw_m)), rel=1e-6)
    steps = {step.label: step.formula for step in cell_of(found, "key", "anna.key", RULES.units).steps}
    assert steps["by way of Frame"].endswith("its image, as far as the glass shows it")


def test_a_flat_thing_has_its_right_on_the_right_of_who_looks_at_it():
    """It looks north: who stands before it has west on the right."""
    panel = panel_of(PlacedFlag(piece_id="f", name="F", x_m=1, y_m=2, z_m=3, bearing_deg=0.0), 1.0, 1.0)
    assert (panel.side_x, panel.side_y) == (pytest.approx([-1.0, 0.0, 0.0]), pytest.approx([0.0, 0.0, 1.0]))
    assert panel.normal == pytest.approx([0.0, 1.0, 0.0])


@tabled
def test_flags_really_cut(gear, kind, share):
    flag = PlacedFlag(piece_id="f", name="Flag", x_m=2.1, y_m=1.6, z_m=1.5, bearing_deg=45.0, kind=kind)
    open_, cut = lit_setup(gear), lit_setup(gear, flags=(flag,))
    direct = [float(each.response.direct_lx[0, each.place_of("anna.right")]) for each in (open_, cut)]
    assert direct[1] == pytest.approx(share * direct[0])


def test_black_takes_the_room_away_who_lies_has_a_body_and_more_than_all_is_all(gear):
    black = table(__file__, "black")
    pale = lit_setup(gear, surroundings=PALE)
    less = lit_setup(gear, surroundings=PALE, flags=(black,))
    assert level_of(less, "anna.shadow") < 0.75 * level_of(pale, "anna.shadow")
    assert pale.off_walls_lx[pale.place_of("anna.shadow")] == pytest.approx(level_of(pale, "anna.shadow"), rel=0.05)
    more = MeasuredPass(modifier_slug="cloth-full-white", head_class=HeadClass.LED, passes=1.2, count=1)
    assert frame_figure(a_frame(), replace(gear, measured=(more,))).value == 1.0
    lying = build_scene(a_setup(people=(replace(ANNA, z_m=0.2),)), BOX, gear, RULES)
    assert {each.panel.height_m for each in lying.scene.solids if ".body" in each.solid_id} == {0.2}
    between = replace(ANNA, piece_id="ben", name="Ben", x_m=2.2, y_m=1.7)
    alone, two = lit_setup(gear), lit_setup(gear, people=(ANNA, between))
    place = alone.place_of("anna.right")
    assert alone.response.direct_lx[0, place] > 100.0
    assert two.response.direct_lx[0, two.place_of("anna.right")] == 0.0


def test_outdoors_a_house_hides_its_part_of_the_sky(gear):
    """Close before the middle of a wall six metres wide the wall hides nearly half of what the nose looks away from."""
    open_ground = Surroundings(a_place(rooms=(), circuits=(), sockets=(), ground="black cloth"))
    house = Surroundings(a_place(ground="black cloth"))
    before = replace(ANNA, x_m=3.0, y_m=-0.6, z_m=1.5, bearing_deg=180.0)
    given = {"when": NOON, "lamps": (), "spots": ()}
    free, hidden = (lit_setup(gear, people=(before,), surroundings=each, **given) for each in (open_ground, house))
    assert level_of(hidden, "anna.nose") == pytest.approx(level_of(free, "anna.nose"), rel=0.01)
    assert 0.4 < level_of(hidden, "anna.top") / level_of(free, "anna.top") < 0.75
    assert level_of(hidden, "anna.back") < 0.3 * level_of(free, "anna.back")
    inside = lit_setup(gear, people=(replace(before, y_m=2.0),), surroundings=house, **given)
    assert "sky" not in [each.light_id for each in inside.built.lights]
    both = lit_setup(gear, people=(before, replace(ANNA, piece_id="ben", name="Ben")), surroundings=house, **given)
    sky = next(at for at, each in enumerate(both.built.lights) if each.light_id == "sky")
    assert both.by_light_lx[sky, both.place_of("ben.top")] == 0.0


def test_film_dims_all_that_comes_through_its_pane(gear):
    """At noon the sun stands 62 degrees high in the pane's wall: it falls through the pane's middle to the floor."""
    south = Surroundings(a_place(north_deg=180.0))
    spot = Spot(piece_id="p", name="P", x_m=3.0, y_m=4.146, z_m=0.0, tilt_deg=90.0)
    outside = a_lamp(x_m=3.0, y_m=8.0, z_m=1.6, aims_at="", bearing_deg=180.0, level=1.0)
    given = {
        "when": NOON,
        "weather": "clear",
        "lamps": (outside,),
        "people": (replace(ANNA, y_m=3.0),),
        "spots": (spot,),
    }
    film = WindowFilm(piece_id="f", opening_id="window", stops=2.0)
    bare, filmed = (lit_setup(gear, surroundings=south, films=films, **given) for films in ((), (film,)))
    for light, mark in (("sun", "p"), ("key", "anna.back"), ("window", "anna.back")):
        at = next(at for at, each in enumerate(bare.built.lights) if each.light_id == light)
        levels = [float(found.by_light_lx[at, found.place_of(mark)]) for found in (bare, filmed)]
        assert levels[1] == pytest.approx(levels[0] / 4.0, rel=0.02), light
        assert levels[0] > 50.0


def test_a_person_as_marks_and_as_what_stands_in_the_light(gear):
    """Anna's face is at (3, 2.5), 1.5 m up, and looks down the plan; her cheeks look 55 degrees aside."""
    built = build_scene(a_setup(lamps=()), BOX, gear, RULES)
    sine, cosine = math.sin(math.radians(55.0)), math.cos(math.radians(55.0))
    up, flat = math.sin(math.radians(20.0)), math.cos(math.radians(20.0))
    looks = {"nose": (0, -1, 0), "left": (sine, -cosine, 0), "right": (-sine, -cosine, 0), "back": (0, flat, up)}
    for side, normal in (looks | {"top": (0, 0, 1)}).items():
        mark = built.marks[built.mark_index(f"anna.{side}")].mark
        off_m = {"top": 0.13, "back": 0.11}.get(side, 0.1)
        assert mark.is_dome
        assert mark.normal == pytest.approx(normal, abs=1e-9)
        assert mark.position_m == pytest.approx(np.array([3.0, 2.5, 1.5]) + off_m * np.array(normal))
    wall = built.marks[built.mark_index("wall")]
    assert (wall.mark.position_m[1], wall.reflectance) == (pytest.approx(4.99), 0.36)
    body, head = built.scene.solids[:2], [each.panel for each in built.scene.solids[2:]]
    boards = [(each.panel.centre_m[2], each.panel.width_m, each.panel.height_m) for each in body]
    assert np.array(boards) == pytest.approx(np.array([(0.6, 0.42, 1.2)] * 2))
    assert body[0].panel.side_x @ body[1].panel.side_x == pytest.approx(0.0, abs=1e-9)
    # The sides of her head are a millimetre behind the meters, and close all round at its corners.
    corners = [(each.centre_m + end * each.width_m / 2.0 * each.side_x)[:2] for each in head for end in (-1.0, 1.0)]
    assert np.array(corners[1::2]) == pytest.approx(np.roll(corners[::2], -1, axis=0))
    away = sorted((built.marks[at].mark.position_m - each.centre_m) @ each.normal for at in (0, 1, 2) for each in head)
    assert [abs(each) for each in away if abs(each) < 0.002] == pytest.approx([0.001] * 3)
    assert {(each.height_m, each.centre_m[2]) for each in head} == {(0.24, 1.5)}
    assert [each.panel.side_y.tolist() for each in built.scene.solids] == [[0.0, 0.0, 1.0]] * 8
    low = build_scene(a_setup(lamps=(), people=(replace(ANNA, z_m=0.3),)), BOX, gear, RULES)
    assert low.scene.solids[0].panel.height_m == 0.2  # who lies on the floor still is somebody
    day = build_scene(a_setup(when=NOON, lamps=(a_lamp(is_on=False),)), BOX, gear, RULES)
    assert [(each.level, each.lowest) for each in day.lights] == [(0.0, 0.01), (1.0, 1.0)]


def test_a_dome_on_a_face_sees_what_the_head_leaves(gear):
    """One lamp goes round her nose: (1 + cos) / 2 up to her cheek's plane, and nothing from behind it."""
    for off_deg, by_dome in ((0.0, 1.0), (60.0, 0.75), (89.0, 0.51), (95.0, 0.0), (150.0, 0.0)):
        turn = math.radians(off_deg)
        lamp = a_lamp(x_m=3.0 + 9.0 * math.sin(turn), y_m=2.4 - 9.0 * math.cos(turn), level=1.0)
        given = {"lamps": (lamp,), "surroundings": OPEN_AIR}
        dome, flat = (level_of(lit_setup(gear, rules=each, **given), "anna.nose") for each in (RULES, READS_FLAT))
        straight = a_lamp(x_m=3.0, y_m=2.4 - 9.0, level=1.0)
        full = level_of(lit_setup(gear, lamps=(straight,), surroundings=OPEN_AIR), "anna.nose")
        assert dome / full == pytest.approx(by_dome, abs=0.01)
        assert flat / full == pytest.approx(max(math.cos(turn), 0.0), abs=0.01)


def test_a_head_is_a_closed_ring_of_sides_close_behind_its_meters(gear):
    built = build_scene(a_setup(), BOX, gear, RULES)
    sides = [each.panel for each in built.scene.solids if each.solid_id.startswith("anna.head.")]
    middle = np.array([ANNA.x_m, ANNA.y_m, ANNA.z_m])
    off_m = [abs(each.normal @ (each.centre_m - middle)) for each in sides]
    assert off_m == pytest.approx([0.099] * 6)
    ends = [each.centre_m + each.side_x * each.width_m / 2.0 for each in sides]
    starts = [each.centre_m - each.side_x * each.width_m / 2.0 for each in sides]
    for end, start in zip(ends, [*starts[1:], starts[0]], strict=True):
        assert end == pytest.approx(start, abs=1e-9)
    around = math.tau * np.mean([np.linalg.norm(each.centre_m - middle) for each in sides])
    assert sum(each.width_m for each in sides) == pytest.approx(around, rel=0.2)  # once round, and not to and fro


def test_each_leaf_hangs_on_its_edge_of_the_face_and_a_little_before_it(gear):
    lamp = a_lamp(configuration="panel-100.own-face", aims_at="", bearing_deg=90.0, doors_deg=(0.0,) * 4)
    built = build_scene(a_setup(lamps=(lamp,)), BOX, gear, RULES)
    source = built.scene.lamps[0]
    leaves = [each.panel for each in built.scene.solids if ".leaf." in each.solid_id]
    half = [source.face.height_m / 2.0] * 2 + [source.face.width_m / 2.0] * 2
    off = [each.centre_m - source.position_m for each in leaves]
    assert [np.linalg.norm(each - (each @ source.aim) * source.aim) for each in off] == pytest.approx(half)
    ahead = [each @ source.aim - leaf.height_m / 2.0 for each, leaf in zip(off, leaves, strict=True)]
    assert ahead == pytest.approx([ahead[0]] * 4)
    assert 0.0 < ahead[0] < 0.05
