"""What can be placed, and changes as values."""

from dataclasses import replace

import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.plan.changes import Change, Operation, added, changed, next_id, set_look, set_piece
from iron_bucket.core.setups.plan.setup import Camera, PlacedFlag, WindowFilm
from tests.core.setups.made import (
    ANNA,
    WALL,
    a_lamp,
    a_setup,
    a_target,
)

METRIC = UnitSystem.METRIC


@pytest.mark.parametrize(
    ("made", "sentence"),
    [
        (lambda: a_lamp(name=""), "name is ''"),
        (lambda: a_lamp(x_m=501.0), "position is 501"),
        (lambda: a_lamp(z_m=-0.1), "height is -0.1"),
        (lambda: a_lamp(z_m=61.0), "height is 61"),
        (lambda: a_lamp(tilt_deg=91.0), "tilt is 91"),
        (lambda: a_lamp(bearing_deg=3601.0), "bearing is 3601"),
        (lambda: a_lamp(level=0.0), "level is 0.0"),
        (lambda: a_lamp(level=1.1), "level is 1.1"),
        (lambda: a_lamp(cct_k=500.0), "cct is 500"),
        (lambda: a_lamp(purpose="x" * 1001), "note is 1001 letters long"),
        (lambda: replace(WALL, reflectance=1.1), "reflectance is 1.1"),
        (lambda: PlacedFlag(piece_id="f", name="F", x_m=0, y_m=0, z_m=1, width_m=0.01), "width is 0.01"),
        (lambda: PlacedFlag(piece_id="f", name="F", x_m=0, y_m=0, z_m=1, height_m=21.0), "height is 21"),
        (lambda: a_target(stops=13.0), "stops is 13"),
        (lambda: a_target(tolerance=0.01), "tolerance is 0.01"),
        (lambda: WindowFilm(piece_id="f", opening_id="w", stops=9.0), "film is 9"),
        (lambda: Camera(z_m=-1.0), "camera height is -1"),
        (lambda: Camera(x_m=900.0), "camera is 900"),
        (lambda: Camera(focal_mm=2.0), "focal length is 2"),
        (lambda: Camera(tilt_deg=-91.0), "tilt is -91"),
        (lambda: a_setup(name=" "), "name is ' '"),
        (lambda: a_setup(note="x" * 1001), "note is 1001 letters"),
        (lambda: a_setup(lamps=(a_lamp(), a_lamp())), "id is 'key'; accepted: an id that is used once"),
    ],
)
def test_what_cannot_be_placed(made, sentence):
    with pytest.raises(BadValue, match=sentence):
        made()


def test_changes_are_values():
    setup = a_setup()
    after = changed(
        setup,
        (
            set_piece("lamps", "key", level=0.5),
            set_look(iso=400.0),
            Change(operation=Operation.SET, where="camera", to={"focal_mm": 65.0}),
            Change(operation=Operation.SET, where="setup", to={"note": "x"}),
            added("targets", a_target()),
        ),
    )
    assert (after.lamps[0].level, after.look.iso, after.camera.focal_mm, after.note) == (0.5, 400.0, 65.0, "x")
    assert after.targets == (a_target(),)
    assert setup == a_setup()
    assert changed(after, (Change(operation=Operation.REMOVE, where="lamps", piece_id="key"),)).lamps == ()
    with pytest.raises(BadValue, match="where is 'walls'"):
        changed(setup, (Change(operation=Operation.SET, where="walls"),))
    with pytest.raises(BadValue, match="piece is 'gone'; accepted: one of the lamps"):
        changed(setup, (set_piece("lamps", "gone", level=0.5),))
    assert setup.find("anna") == ("people", ANNA)
    assert setup.find("gone") is None
    assert setup.with_piece("key", level=0.2).lamps[0].level == 0.2
    with pytest.raises(KeyError):
        setup.with_piece("gone", level=0.2)
    assert next_id(a_setup(lamps=(a_lamp(piece_id="lamp-1"),)), "lamp") == "lamp-2"
