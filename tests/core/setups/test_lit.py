"""What a lamp does at marks, held against the laws of docs/craft.md by hand."""

import math
from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.exposure.ratio import RatioSchool
from iron_bucket.core.figure import Origin
from iron_bucket.core.modifiers.kinds import ScrimSchool
from iron_bucket.core.places.place import HouseLamp
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.setups.evaluate.beams import axis_cd, beam_on_plan, edges_deg
from iron_bucket.core.setups.evaluate.cell import cell_of
from iron_bucket.core.setups.evaluate.faces import angle_name, lit_faces
from iron_bucket.core.setups.evaluate.field import COLUMNS, ROWS, FieldPlane, level_field_lx
from iron_bucket.core.setups.evaluate.ladder import RungKind, ladder_of
from iron_bucket.core.setups.plan.setup import Camera, FlagKind, PlacedFlag, Spot, WindowFilm
from iron_bucket.core.setups.scene.build_scene import (
    aimed,
    build_scene,
    frame_figure,
    frame_size_m,
    panel_of,
    scene_frame,
)
from iron_bucket.core.setups.scene.fixture import fixture_of
from iron_bucket.core.setups.sheet.load_summary import load_summary
from tests.core.setups.made import ANNA, BOX, NOON, RULES, WALL, a_frame, a_lamp, a_place, a_setup, a_target, lit_setup
from tests.tables import cases

PALE = Surroundings(a_place("white paint"))
HALF = ScrimSchool.HALF_AND_ONE


def level_of(found, mark: str) -> float:
    return float(found.total_lx[found.place_of(mark)])


def peak(gear, slug: str) -> float:
    return float({each.slug: each for each in gear.configurations}[slug].distribution.intensity_cd(0.0))


def test_a_cheek_gets_the_inverse_square_and_the_cosine(gear):
    found = lit_setup(gear)
    # The lamp stands 2.0 m from the middle of the head, at bearing 225 from it; the key cheek looks along 235 and lies
    # 0.1 m out.
    offset = {each.slug: each for each in gear.configurations}["day-led-300.reflector"].offset_m
    cheek = np.array([3.0, 2.5]) + 0.1 * np.array([math.sin(math.radians(235)), math.cos(math.radians(235))])
    source = np.array([1.586, 1.086]) - offset * np.array([math.sin(math.radians(45)), math.cos(math.radians(45))])
    ray = source - cheek
    cosine = (ray @ (cheek - [3.0, 2.5])) / 0.1 / np.linalg.norm(ray)
    expected = 0.1 * peak(gear, "day-led-300.reflector") * cosine / (ray @ ray)
    assert level_of(found, "anna.key") == pytest.approx(expected, rel=0.02)  # black walls still send a little
    assert found.key_and_shadow("anna") == ("right", "left")  # her own right lies to the left of the picture
    assert level_of(found, "anna.shadow") < 0.05 * expected
    assert level_of(found, "anna.back") < 3.0  # black cloth sends 3 % back
    with pytest.raises(KeyError):
        found.key_and_shadow("nobody")
    assert found.place_of("nobody.key") is None
    assert found.by_light_lx.sum(axis=0) == pytest.approx(found.total_lx)


def test_levels_and_switches_weigh_and_move_no_geometry(gear):
    full, dim = (level_of(lit_setup(gear, lamps=(a_lamp(level=level),)), "anna.key") for level in (1.0, 0.25))
    assert dim == pytest.approx(full / 4)
    assert level_of(lit_setup(gear, lamps=(a_lamp(is_on=False),)), "anna.key") == 0.0


@pytest.mark.parametrize(
    ("changes", "share"),
    [
        ({"sheets": ("nd-0.3",)}, 0.501),
        ({"sheets": ("nd-0.3", "half-blue")}, 0.501 * 0.55),
        ({"sheets": ("net-single",)}, 2**-0.5),  # half-and-one school
    ],
)
def test_what_a_lamp_wears_weighs_too(gear, changes, share):
    bare, dressed = fixture_of(a_lamp(), gear, HALF), fixture_of(a_lamp(**changes), gear, HALF)
    assert dressed.axis_cd == pytest.approx(bare.axis_cd * share)
    assert [link.label for link in dressed.links] == [each.name for each in dressed.sheets]
    assert fixture_of(a_lamp(**changes), gear, ScrimSchool.ONE_AND_TWO).axis_cd <= dressed.axis_cd


def test_a_box_is_a_face_of_its_lumens(gear):
    heads = {each.slug: each for each in gear.configurations}
    fixture = fixture_of(a_lamp(configuration="day-led-300.bare", face="octagon-0.9"), gear, HALF)
    assert fixture.axis_cd == pytest.approx(
        0.42 * heads["day-led-300.bare"].lumens / math.pi
    )  # docs/craft.md: eta Phi / pi
    assert fixture.size_m == (0.9, 0.9)
    assert fixture.origin is Origin.TYPICAL
    lantern = fixture_of(a_lamp(configuration="day-led-300.bare", face="lantern-0.5"), gear, HALF)
    assert lantern.axis_cd == pytest.approx(0.75 * heads["day-led-300.bare"].lumens / (4 * math.pi))
    gridded = fixture_of(
        a_lamp(configuration="day-led-300.bare", face="octagon-0.9", grid="grid-octagon-0.9"), gear, HALF
    )
    assert gridded.axis_cd == pytest.approx(fixture.axis_cd * 0.65)
    near = {}
    for name, changes in (("box", {}), ("grid", {"grid": "grid-octagon-0.9"})):
        lamp = a_lamp(configuration="day-led-300.bare", face="octagon-0.9", level=1.0, **changes)
        near[name] = lit_setup(
            gear,
            lamps=(lamp,),
            spots=(Spot(piece_id="aside", name="Aside", x_m=4.8, y_m=1.1, z_m=1.5, bearing_deg=270),),
        )
    # Disc on axis: E = I0 / (d2 + r2), here at the nose which looks 45 degrees away, 2 m less a head's radius off.
    assert level_of(near["box"], "anna.nose") == pytest.approx(
        fixture.axis_cd * math.cos(math.pi / 4) / (1.93**2 + 0.45**2), rel=0.06
    )
    assert level_of(near["grid"], "anna.nose") < level_of(near["box"], "anna.nose") * 0.65
    assert level_of(near["box"], "aside") > 10.0
    assert (
        level_of(near["grid"], "aside") < 0.3 * level_of(near["box"], "aside") * 0.65
    )  # beyond 30 degrees straight cells let nothing through


def test_a_honeycomb_on_a_reflector_cuts_the_beam(gear):
    plain, cut = (
        lit_setup(gear, lamps=(a_lamp(grid=grid, level=1.0, aims_at="", bearing_deg=bearing),))
        for grid, bearing in (("", 65), ("honeycomb-30", 65))
    )
    assert level_of(plain, "anna.key") > 300.0
    assert level_of(cut, "anna.key") < 2.0  # 20 degrees off its axis, half of 30 is the end
    assert cut.built.scene.lamps[0].intensity.intensity_cd(89.5) == 0.0
    lantern = lit_setup(
        gear, lamps=(a_lamp(configuration="day-led-300.bare", face="lantern-0.5", aims_at="", bearing_deg=225),)
    )
    assert level_of(lantern, "anna.key") > 10.0  # it shines backwards too


@pytest.mark.parametrize(
    ("lamp", "sentence"),
    [
        (a_lamp(configuration="gone"), "configuration is 'gone'"),
        (a_lamp(sheets=("gone",)), "sheet is 'gone'"),
        (a_lamp(face="octagon-0.9"), "a box for S-type, which day LED 300 takes"),
        (a_lamp(configuration="day-led-300.bare", face="large-box-1.5"), "a box for S-type"),
        (a_lamp(configuration="day-led-300.bare", grid="grid-octagon-0.9"), "a grid that goes on that box or head"),
        (
            a_lamp(configuration="day-led-300.bare", face="octagon-0.9", grid="honeycomb-30"),
            "a grid that goes on that box or head",
        ),
    ],
)
def test_what_does_not_go_on_a_head(gear, lamp, sentence):
    with pytest.raises(BadValue, match=sentence):
        fixture_of(lamp, gear, HALF)


@pytest.mark.parametrize(
    ("changes", "kelvin"),
    [
        ({}, 5600.0),
        ({"configuration": "bi-lens-60.mid", "cct_k": 3200.0}, 3200.0),
        ({"configuration": "bi-lens-60.mid", "cct_k": 9000.0}, 6000.0),  # as far as it goes
        ({"configuration": "bi-lens-60.mid"}, 5600.0),
        ({"sheets": ("full-orange",)}, 1e6 / (1e6 / 5600 + 159)),
        (
            {"configuration": "tung-650.flood", "level": 0.5},
            3200 * 0.5 ** (0.42 / 3.4),
        ),  # docs/craft.md, section 5: about 2937 K
    ],
)
def test_the_colour_that_leaves_a_lamp(gear, changes, kelvin):
    lamp = a_lamp(**{"level": 1.0} | changes)
    assert fixture_of(lamp, gear, HALF).cct_k(lamp) == pytest.approx(kelvin)


def test_lamps_follow_what_they_aim_at(gear):
    setup = a_setup(lamps=(a_lamp(z_m=2.5),))
    bearing, tilt = aimed(setup, setup.lamps[0])
    assert (bearing, tilt) == pytest.approx((45.0, -26.6), abs=0.1)
    for lamp in (
        a_lamp(aims_at="", bearing_deg=10.0, tilt_deg=-5.0),
        a_lamp(aims_at="gone", bearing_deg=10.0, tilt_deg=-5.0),
        a_lamp(aims_at="anna", x_m=3.0, y_m=2.5, bearing_deg=10.0, tilt_deg=-5.0),
    ):
        assert aimed(a_setup(lamps=(lamp,)), lamp) == pytest.approx((10.0, -5.0))


# ---- frames, boards, flags, bodies


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
    assert steps["by way of Frame"].endswith("sum of a lobe of ±4°, (n + 1) / 2π cosⁿα dΦ cosε / r²")


@pytest.mark.parametrize(
    ("kind", "share"),
    [(FlagKind.SOLID, 0.0), (FlagKind.BLACK, 0.0), (FlagKind.SINGLE_NET, 2**-0.5), (FlagKind.DOUBLE_NET, 0.5)],
)
def test_flags_really_cut(gear, kind, share):
    flag = PlacedFlag(piece_id="f", name="Flag", x_m=2.1, y_m=1.6, z_m=1.5, bearing_deg=45.0, kind=kind)
    open_, cut = lit_setup(gear), lit_setup(gear, flags=(flag,))
    direct = [float(each.response.direct_lx[0, each.place_of("anna.right")]) for each in (open_, cut)]
    assert direct[1] == pytest.approx(share * direct[0])


def test_black_beside_a_face_takes_the_room_away(gear):
    black = PlacedFlag(
        piece_id="f",
        name="Black",
        x_m=3.6,
        y_m=2.1,
        z_m=1.5,
        bearing_deg=305.0,
        width_m=1.2,
        height_m=1.8,
        kind=FlagKind.BLACK,
    )
    pale = lit_setup(gear, surroundings=PALE)
    less = lit_setup(gear, surroundings=PALE, flags=(black,))
    assert level_of(less, "anna.shadow") < 0.75 * level_of(pale, "anna.shadow")
    assert pale.off_walls_lx[pale.place_of("anna.shadow")] == pytest.approx(level_of(pale, "anna.shadow"), rel=0.05)


def test_people_stand_in_each_others_light(gear):
    between = replace(ANNA, piece_id="ben", name="Ben", x_m=2.2, y_m=1.7)
    alone, two = lit_setup(gear), lit_setup(gear, people=(ANNA, between))
    place = alone.place_of("anna.right")
    assert alone.response.direct_lx[0, place] > 100.0
    assert two.response.direct_lx[0, two.place_of("anna.right")] == 0.0


# ---- the ladder


def test_the_ladder_hangs_faces_by_incident_light_and_surfaces_by_what_they_reflect(gear):
    lamps = (a_lamp(), a_lamp(piece_id="wash", name="Wash", x_m=3.0, y_m=3.4, z_m=2.0, aims_at="wall", level=0.05))
    found = lit_setup(
        gear,
        lamps=lamps,
        targets=(
            a_target(stops=1.0),
            a_target(piece_id="u", mark="wall", stops=-9.0, tolerance=0.5),
            a_target(piece_id="v", mark="gone"),
        ),
    )
    ladder = ladder_of(found, RULES.receptor)
    key, wall = ladder.rung("anna.key"), ladder.rung("wall")
    assert key.stops == pytest.approx(math.log2(level_of(found, "anna.key") / 159.94), abs=0.001)
    assert wall.stops == pytest.approx(
        math.log2(2.0 * level_of(found, "wall") / 159.94), abs=0.001
    )  # 0.36 is twice middle grey
    assert [each.mark_id for each in ladder.rungs] == ["anna.key", "anna.shadow", "anna.back", "anna.top", "wall"]
    assert (key.kind, wall.kind) == (RungKind.FACE, RungKind.SURFACE)
    assert key.miss_stops == pytest.approx(key.stops - 1.0)
    assert wall.is_missed
    assert [each.mark for each in ladder.lost] == ["gone"]
    assert ladder.missed == tuple(each for each in ladder.rungs if each.is_missed)
    assert ladder.rung("anna.shadow").target is None
    assert not ladder.rung("anna.shadow").is_missed
    dark = ladder_of(lit_setup(gear, lamps=()), RULES.receptor)
    assert {each.stops for each in dark.rungs} == {-16.0}
    edge = a_target(stops=key.stops - 1 / 3 + 1e-9)
    assert not ladder_of(lit_setup(gear, lamps=lamps, targets=(edge,)), RULES.receptor).rung("anna.key").is_missed


def test_a_window_hangs_on_the_ladder_while_the_camera_sees_it(gear):
    found = lit_setup(gear, when=NOON)
    rung = ladder_of(found, RULES.receptor).rung("window")
    window = next(each.light for each in found.built.lights if each.light_id == "window")
    seen = (window.sky_cd_m2 + window.ground_cd_m2) / 2 * 0.8
    assert rung.stops == pytest.approx(math.log2(math.pi * seen / (0.18 * 159.94)), abs=0.001)
    assert rung.kind is RungKind.WINDOW
    filmed = lit_setup(gear, when=NOON, films=(WindowFilm(piece_id="f", opening_id="window", stops=2.0),))
    assert ladder_of(filmed, RULES.receptor).rung("window").stops == pytest.approx(rung.stops - 2.0)
    assert level_of(filmed, "anna.back") == pytest.approx(level_of(found, "anna.back") / 4, rel=0.05)
    for camera in (Camera(x_m=3.0, y_m=0.3, bearing_deg=180.0), Camera(x_m=3.0, y_m=7.0, bearing_deg=180.0)):
        assert ladder_of(lit_setup(gear, when=NOON, camera=camera), RULES.receptor).rung("window") is None


# ---- faces


@pytest.mark.parametrize(("angle", "word"), cases(__file__, "test_words_for_angles"))
def test_words_for_angles(angle, word):
    assert angle_name(angle) == word


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
    turned = lit_faces(lit_setup(gear, people=(replace(ANNA, bearing_deg=140.0),)))[0]
    assert turned.is_near_side  # nose to the right of the camera, key from the left
    assert not lit_faces(lit_setup(gear, people=(replace(ANNA, bearing_deg=215.0),)))[0].is_near_side


def test_windows_and_sun_as_keys(gear):
    day = lit_setup(gear, when=NOON, lamps=(), people=(replace(ANNA, bearing_deg=0.0),))
    face = lit_faces(day)[0]
    assert face.key_light == "Window"
    assert face.apparent_deg == pytest.approx(
        2 * math.degrees(math.atan(math.sqrt(1.6 * 1.4) / 2 / math.dist((3, 5, 1.6), (3, 2.5, 1.5))))
    )
    outside = lit_setup(
        gear,
        when=NOON,
        weather="clear",
        lamps=(),
        surroundings=Surroundings(a_place(rooms=(), circuits=(), sockets=())),
    )
    sunlit = lit_faces(outside)[0]
    assert sunlit.key_light == "sun"
    assert sunlit.apparent_deg == pytest.approx(0.53, abs=0.01)
    grey = lit_setup(gear, when=NOON, lamps=(), surroundings=Surroundings(a_place(rooms=(), circuits=(), sockets=())))
    assert lit_faces(grey)[0].key_light == "sky"
    assert lit_faces(grey)[0].apparent_deg > 80.0


# ---- drawn, told, weighed


def test_a_cell_unfolds_to_steps_that_add_up(gear):
    found = lit_setup(
        gear,
        frames=(a_frame(),),
        surroundings=PALE,
        lamps=(
            a_lamp(sheets=("nd-0.3",)),
            a_lamp(piece_id="b", name="Panel", configuration="panel-100.own-face", x_m=4.4),
        ),
    )
    for light, mark in (("key", "anna.key"), ("b", "anna.left"), ("key", "wall")):
        cell = cell_of(found, light, mark, RULES.units)
        assert sum(step.illuminance_lx or 0.0 for step in cell.steps) == pytest.approx(cell.total_lx, abs=0.01)
    words = " ".join(f"{step.label} {step.formula}" for step in cell_of(found, "key", "anna.key", RULES.units).steps)
    for part in ("ND 0.3 passes 0.5", "at 10 %", "by way of Frame", "catches", "off walls", "first bounce"):
        assert part in words
    panel = cell_of(found, "b", "anna.left", RULES.units).steps
    assert any("area law of a face" in step.formula for step in panel)
    straight = cell_of(lit_setup(gear), "key", "anna.key", RULES.units).steps[2]
    assert straight.formula.startswith("34,")
    assert "cos ε = 0.98" in straight.formula
    assert "looks away" in cell_of(lit_setup(gear), "key", "anna.back", RULES.units).steps[2].formula
    hidden = cell_of(found, "key", "anna.key", RULES.units).steps[2]
    assert "stands in the way" in hidden.formula
    assert cell_of(found, "gone", "anna.key", RULES.units) is None
    assert cell_of(found, "key", "gone", RULES.units) is None
    day = lit_setup(gear, when=NOON)
    assert "form factor" in cell_of(day, "window", "anna.back", RULES.units).steps[0].formula
    sunny = lit_setup(
        gear, when=NOON, weather="clear", surroundings=Surroundings(a_place(rooms=(), circuits=(), sockets=()))
    )
    assert "square to the sun" in cell_of(sunny, "sun", "anna.top", RULES.units).steps[0].formula
    assert (
        "off" in cell_of(lit_setup(gear, lamps=(a_lamp(is_on=False),)), "key", "anna.key", RULES.units).steps[1].formula
    )


def test_a_beam_is_drawn_from_the_distribution_and_ends_where_something_stands(gear):
    built = build_scene(a_setup(), BOX, gear, RULES)
    lamp = built.scene.lamps[0]
    half, tenth = edges_deg(lamp)
    assert half == pytest.approx(27.0, abs=0.5)  # its beam is 54 degrees
    assert tenth > half
    assert axis_cd(lamp) == pytest.approx(peak(gear, "day-led-300.reflector"))
    beam = beam_on_plan(lamp, 0.1, 640.0, built.scene)
    reach = math.sqrt(axis_cd(lamp) * 0.1 / 640.0)
    assert np.linalg.norm(beam.half_m[1] - beam.half_m[0]) == pytest.approx(reach)  # an edge that meets nothing
    middle = np.linalg.norm(beam.half_m[7] - beam.half_m[0])
    assert middle < 2.2  # Anna stands in the middle
    blind = tuple(replace(wall, holes=()) for wall in built.scene.walls)
    long = beam_on_plan(lamp, 1.0, 0.1, replace(built.scene, solids=(), walls=blind))
    assert (long.half_m[:, 0].max(), long.half_m[:, 1].max()) == pytest.approx((6.0, 5.0))  # the walls end it
    assert beam_on_plan(lamp, 1e-4, 1e5, built.scene).half_m[1] == pytest.approx(
        beam.half_m[0] + 0.4 * (beam.half_m[1] - beam.half_m[0]) / reach
    )
    # From outside through the pane, which is 1.6 m wide round x = 3: the middle goes on inside, the edge ends on the
    # wall.
    sun = build_scene(
        a_setup(lamps=(a_lamp(x_m=3.0, y_m=7.0, z_m=1.6, aims_at="", bearing_deg=180.0),), people=()), BOX, gear, RULES
    )
    through = beam_on_plan(sun.scene.lamps[0], 1.0, 0.1, sun.scene).half_m
    assert (through[7, 1], through[1, 1]) == (pytest.approx(0.0, abs=0.01), pytest.approx(5.0, abs=0.01))
    down = build_scene(a_setup(lamps=(a_lamp(aims_at="", tilt_deg=-90.0),)), BOX, gear, RULES).scene.lamps[0]
    ring = beam_on_plan(down, 1.0, 1.0, built.scene).half_m
    assert np.linalg.norm(ring[1:] - down.position_m[:2], axis=1) == pytest.approx(
        np.full(13, down.position_m[2] * math.tan(math.radians(edges_deg(down)[0]))), rel=1e-3
    )
    tilted = build_scene(
        a_setup(lamps=(a_lamp(aims_at="", bearing_deg=45.0, tilt_deg=-45.0),)), BOX, gear, RULES
    ).scene.lamps[0]
    floor = beam_on_plan(tilted, 1.0, 0.1, replace(built.scene, solids=())).half_m
    assert np.linalg.norm(floor[7] - floor[0]) == pytest.approx(
        tilted.position_m[2], abs=0.01
    )  # at 45 degrees as far as it is high
    face = build_scene(
        a_setup(lamps=(a_lamp(configuration="day-led-300.bare", face="octagon-0.9"),)), BOX, gear, RULES
    ).scene.lamps[0]
    assert edges_deg(face) == pytest.approx((60.0, 84.26), abs=0.01)
    cells = build_scene(
        a_setup(lamps=(a_lamp(configuration="day-led-300.bare", face="octagon-0.9", grid="grid-octagon-0.9"),)),
        BOX,
        gear,
        RULES,
    ).scene.lamps[0]
    assert edges_deg(cells) == pytest.approx((18.0, 30.0))


@pytest.mark.parametrize("plane", list(FieldPlane))
def test_the_light_over_a_plane_is_that_of_marks_on_it(gear, plane):
    normal = {FieldPlane.FLOOR: {"tilt_deg": 90.0, "z_m": 0.01}, FieldPlane.FACE: {"bearing_deg": 180.0, "z_m": 1.5}}[
        plane
    ]
    x_m, y_m = 3.0 + 6.0 / COLUMNS / 2, 3.8
    spot = Spot(**{"piece_id": "p", "name": "P", "x_m": x_m, "y_m": y_m} | normal)
    camera = Camera(x_m=x_m, y_m=0.3)
    lamps = (
        a_lamp(aims_at="", bearing_deg=40.0, z_m=2.5, tilt_deg=-20.0, level=1.0),
        a_lamp(
            piece_id="b",
            name="B",
            configuration="panel-100.own-face",
            x_m=4.5,
            y_m=2.5,
            z_m=2.6,
            aims_at="p",
            level=1.0,
        ),
    )
    frame = a_frame(x_m=5.2, y_m=2.0, z_m=2.2, bearing_deg=320.0)
    far = a_lamp(piece_id="c", name="C", x_m=5.9, y_m=1.2, z_m=2.2, aims_at="", bearing_deg=320.0, level=1.0)
    found = lit_setup(
        gear,
        lamps=(*lamps, far, a_lamp(piece_id="d", name="D", is_on=False)),
        frames=(frame,),
        spots=(spot,),
        people=(replace(ANNA, x_m=1.0, y_m=4.5),),
        camera=camera,
    )
    field = level_field_lx(found, plane, (0.0, 5.0, 6.0, 5.0))
    assert field.shape == (ROWS, COLUMNS)
    place = found.place_of("p")
    straight = float(found.built.levels @ (found.response.whole_lx - found.response.indirect_lx)[:, place])
    assert straight > 50.0
    row = round((5.0 - y_m) / 5.0 * ROWS - 0.5)
    assert field[row, COLUMNS // 2] == pytest.approx(straight, rel=0.06)  # the net under faces and frames is coarse
    assert field.min() >= 0.0


def test_what_a_set_up_weighs_draws_and_costs(gear):
    setup = a_setup(
        lamps=(a_lamp(configuration="day-led-300.bare", face="octagon-0.9", feed="socket"),),
        frames=(
            a_frame(frame="frame-1.8"),
            a_frame(piece_id="b", name="Board", frame="", cloth="", board="board-poly-2.4"),
        ),
    )
    found = load_summary(setup, gear, RULES)
    head, pieces = gear.head("day-led-300"), {each.slug: each for each in gear.items()}
    watts = float(head.draw.watts(0.1))
    assert found.amps == pytest.approx(watts / head.draw.power_factor / 230.0)
    cloth_m2 = 1.8 * 1.8
    expected = (
        head.total_kg
        + pieces["octagon-0.9"].weight_kg
        + pieces["frame-1.8"].weight_kg
        + cloth_m2 * pieces["cloth-full-white"].weight_kg
        + pieces["board-poly-2.4"].weight_kg
    )
    # 1.5 m high: head with octagon and frame, over 4 kg each, are too much for a light stand; the frame has one at
    # each end, the board a light one.
    stands = 3 * pieces["stand-medium"].weight_kg + pieces["stand-light"].weight_kg
    assert found.weight_kg == pytest.approx(expected + stands)
    assert found.day_price == pytest.approx(pieces["frame-1.8"].day_price)  # the rest is ours
    assert load_summary(a_setup(lamps=(a_lamp(is_on=False),)), gear, RULES).amps == 0.0
    assert load_summary(a_setup(lamps=(a_lamp(feed="battery-v-150"),)), gear, RULES).amps == 0.0


def test_house_lamps_may_be_switched_off(gear):

    globe = HouseLamp(lamp_id="globe", name="Globe", x_m=3, y_m=1, z_m=2.5, lumens=1000, is_bare=True)
    there = Surroundings(a_place(house_lamps=(globe,)))
    on, off = (lit_setup(gear, lamps=(), surroundings=there, house_off=names) for names in ((), ("globe",)))
    assert level_of(on, "anna.key") > 10.0
    assert level_of(off, "anna.key") == 0.0
    assert WALL.reflectance == 0.36
