"""Rooms, openings and daylight of a scene file: what is refused, each with the value as it was written."""

import json

import pytest

from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.scene_json import read_scene
from tests.tables import tabled

PANE = {"wall": 1, "along_m": [1, 2], "height_m": [1, 2], "transmittance": 0.8, "diffuse_share": 0.25}
ROOM = {
    "corners_m": [[0, 0], [4, 0], [4, 3], [0, 3]],
    "height_m": 2.5,
    "reflectances": {"walls": [0.5] * 4, "floor": 0.2, "ceiling": 0.8},
}


def a_scene(pane=(), room=(), **changes):
    whole = {"lamps": [], "marks": [], "room": ROOM | {"openings": [PANE | dict(pane)]} | dict(room)} | changes
    return read_scene(json.dumps(whole), read_file=None)


def test_an_opening_lies_along_its_wall_from_its_first_corner():
    scene = a_scene(sky={"kind": "uniform", "horizontal_lx": 1000}, sun={"towards": [2, 0, 1], "normal_lx": 5000})
    window = next(each for each in scene.lamps if each.lamp_id == "opening 1")
    assert window.panel.centre_m.tolist() == pytest.approx([4.0, 1.5, 1.5])
    assert window.panel.normal.tolist() == pytest.approx([-1.0, 0.0, 0.0])  # into the room
    assert window.passes == pytest.approx(0.6)
    outside_lx = 500.0 + 5000.0 * 2.0 / 5.0**0.5
    assert window.glow_cd_m2 == pytest.approx(0.2 * outside_lx / 3.14159, rel=0.01)
    assert [each.lamp_id for each in scene.lamps] == ["sun", "sky", "opening 1"]


def test_a_mark_is_read_flat_unless_it_says_by_a_dome():
    mark = {"id": "m", "position_m": [1, 1, 1], "normal": [0, 0, 1]}
    scene = a_scene(marks=[mark, mark | {"id": "n", "receptor": "dome"}])
    assert [each.is_dome for each in scene.marks] == [False, True]


@tabled
def test_what_is_refused(changes, sentence):
    with pytest.raises(FormatError, match=sentence):
        a_scene(**changes)
