"""All ways together: reference scenes, and laws."""

import json
from dataclasses import fields, is_dataclass, replace
from operator import itemgetter

import numpy as np
import pytest
from scipy.spatial.transform import Rotation

from iron_bucket.core.daylight.sky_luminance import SkyLuminance
from iron_bucket.core.scene.fineness import SET
from iron_bucket.core.scene.mark_levels import scattered_lx, unit_response
from iron_bucket.core.scene.scene import LitShape, Scene, Solid
from iron_bucket.core.scene.skylight import Window
from iron_bucket.core.scene.standing import mark_points
from iron_bucket.formats.scene_json import read_scene
from iron_bucket.formats.scene_levels_json import levels_json
from tests.conftest import GOLDEN
from tests.core.scene.made import LIGHTER, ROOM, X, Y, Z, a_face, a_frame, a_lamp, a_mark, a_panel, at, found


def test_another_cloth_in_the_way_lets_through_what_goes_straight():
    second = a_frame(
        frame_id="G", panel=a_panel((0, 0, 1), width_m=6.0, height_m=6.0), transmittance=0.5, straight_share=0.5
    )
    alone, both = found(frames=(a_frame(),)), found(frames=(a_frame(), second))
    assert both.via_lx[0, 0, 0] == pytest.approx(0.25 * alone.via_lx[0, 0, 0])
    assert both.share_caught[0, 0] == alone.share_caught[0, 0]


def test_light_adds_up_and_levels_weigh_it():
    lamps = (a_lamp(), a_lamp(lamp_id="B", position_m=at(1, 0, -2), level=0.5))
    response = found(lamps=lamps, frames=(a_frame(),), marks=(a_mark(), a_mark((0.5, 0.2, 1.5), name="n")))
    one, two = (
        found(lamps=(lamp,), frames=(a_frame(),), marks=(a_mark(), a_mark((0.5, 0.2, 1.5), name="n"))) for lamp in lamps
    )
    three = found(
        lamps=lamps, frames=(a_frame(), a_frame(frame_id="G", panel=a_panel((0.4, 0, 1.0)))), marks=(a_mark(),)
    )
    assert three.total_lx(at(1.0, 0.0)) == pytest.approx(three.direct_lx[0] + three.via_lx[0].sum(axis=0))
    assert response.total_lx(at(1.0, 0.5)) == pytest.approx(one.total_lx(at(1.0)) + 0.5 * two.total_lx(at(1.0)))


def test_what_is_scattered_to_many_places_is_what_marks_get_of_it():
    frames = (a_frame(), a_frame(frame_id="G", panel=a_panel((0.6, 0, 1.0), X, Z)))
    marks = (a_mark(), a_mark((1.5, 0.2, 2.5), name="n"), a_mark((-1.0, 0.9, 2.1), X, name="o"))
    scene = Scene(lamps=(a_lamp(), a_lamp(lamp_id="B", position_m=at(1, 0, -2))), frames=frames, marks=marks)
    told = unit_response(scene, fineness=LIGHTER).via_lx.sum(axis=1)
    assert scattered_lx(scene, mark_points(marks), fineness=LIGHTER) == pytest.approx(told, rel=0.02)


TURN, BY = Rotation.from_rotvec([0.3, -0.8, 0.5]).as_matrix(), at(7.0, -3.0, 11.0)


def carried(piece):
    """All of it somewhere else, and turned."""
    if isinstance(piece, tuple):
        return tuple(carried(each) for each in piece)
    if not is_dataclass(piece):
        return piece
    parts = {each.name: carried(getattr(piece, each.name)) for each in fields(piece) if each.init}
    turned = {name: TURN @ part for name, part in parts.items() if isinstance(part, np.ndarray)}
    moved = {name: way + BY for name, way in turned.items() if name in ("position_m", "centre_m")}
    return replace(piece, **parts | turned | moved)


def test_a_set_that_is_carried_and_turned_as_a_whole_is_lit_as_before():
    faces = (a_face(), replace(a_face(LitShape.DISC, 0.8, 0.8), cutoff_deg=60.0))
    lamps = (a_lamp(), *(a_lamp(lamp_id=f"{at}", intensity=None, face=face) for at, face in enumerate(faces)))
    boards = {"transmittance": None, "reflectance": 0.8}
    frames = (
        a_frame(straight_share=0.3, lobe_deg=35.0),
        a_frame(frame_id="G", panel=a_panel((1.5, 0, 1.0), Y, Z), lobe_deg=15.0, **boards),
        a_frame(frame_id="H", panel=a_panel((-1.5, 0, 1.0), Z, Y), is_mirror=True, lobe_deg=4.0, **boards),
    )
    flag = Solid(solid_id="S", panel=a_panel((0.8, 0, -1.0)), transmittance=0.2, reflectance=0.1)
    marks = (a_mark(), a_mark((1.0, 0.3, 1.5), -X, name="n"), replace(a_mark((0.2, 1.0, 1.0), name="o"), is_dome=True))
    here = Scene(lamps=lamps, frames=frames, solids=(flag,), marks=marks)
    levels, moved = (unit_response(each, fineness=SET).whole_lx for each in (here, carried(here)))
    assert (levels > 1.0).all()
    assert moved == pytest.approx(levels, rel=1e-3)


def test_a_mark_on_the_wall_is_inside_a_dark_face_shares_nothing_and_none_give_empty_tables():
    assert found(
        lamps=(a_lamp(position_m=at(5, 4, 2.6), aim=-X),), rooms=(ROOM,), marks=(a_mark((0, 0, 0), Z),)
    ).direct_lx.shape == (1, 1)
    dark = found(lamps=(a_lamp(intensity=None, face=a_face(luminance=0.0)),), frames=(a_frame(),))
    assert dark.share_caught.tolist() == [[0.0]]
    assert dark.total_lx(at(1.0)).tolist() == [0.0]
    empty = found(lamps=(), frames=(a_frame(),))
    assert (empty.direct_lx.shape, empty.via_lx.shape, empty.share_caught.shape) == ((0, 1), (0, 1, 1), (0, 1))
    assert found(lamps=(), rooms=(ROOM,), marks=(a_mark((1, 1, 1)),)).indirect_lx.shape == (0, 1)
    unread = found(marks=(), frames=(a_frame(),), rooms=())
    assert (unread.direct_lx.shape, unread.via_lx.shape) == ((1, 0), (1, 1, 0))


@pytest.mark.parametrize("case", json.loads((GOLDEN / "optics2.json").read_text())["cases"], ids=itemgetter("id"))
def test_reference_scenes(case):
    scene = read_scene(json.dumps(case["scene"]), read_file=None)
    told = {each["id"]: each for each in levels_json(scene, unit_response(scene))["marks"]}
    for mark, expected in case["expected"].items():
        near = {key: pytest.approx(lx, rel=case["rel_tol"], abs=case["abs_tol_lx"]) for key, lx in expected.items()}
        assert {key: told[mark][key] for key in expected} == near


def test_on_a_set_walls_get_from_cloths_and_windows_what_the_reference_says():
    """What is broad and smooth is looked at more coarsely there."""
    sky = SkyLuminance(kind="uniform", horizontal_lx=9000.0, ground_reflectance=0.2)
    pane = Window(lamp_id="W", panel=a_panel((0.0, 2.0, 1.5), Y, Z, 1.0, 1.0), passes=0.8, sky=sky)
    cloth = a_frame(panel=a_panel((2.0, 2.0, 1.3), Y, Z))
    frost = replace(a_frame(frame_id="G", panel=a_panel((3.5, 1.0, 1.3), X, Z)), straight_share=0.2, lobe_deg=8.0)
    lamps = (
        a_lamp(position_m=at(1.0, 2.0, 1.3), aim=X),
        a_lamp(position_m=at(3.5, 0.3, 1.3), aim=Y, lamp_id="B"),
        pane,
    )
    marks = (a_mark((4.0, 3.0, 1.0), -X), a_mark((2.5, 3.0, 0.5), Z, "n"))
    parts = {"lamps": lamps, "frames": (cloth, frost), "marks": marks, "rooms": (ROOM,)}
    on_set, reference = found(SET, **parts), found(LIGHTER, **parts)
    assert on_set.indirect_lx == pytest.approx(reference.indirect_lx, rel=0.06)
    assert on_set.walls_lx.min() >= 0.0
