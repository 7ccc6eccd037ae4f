"""What can be placed, and changes as values."""

import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.plan.changes import Change, Operation, added, changed, next_id, set_look, set_piece
from tests.core.setups.made import ANNA, a_lamp, a_setup, a_target

METRIC = UnitSystem.METRIC


def test_changes_are_values():
    setup = a_setup()
    camera, note = (
        Change(operation=Operation.SET, where=where, to=to)
        for where, to in (("camera", {"focal_mm": 65.0}), ("setup", {"note": "x"}))
    )
    several = (set_piece("lamps", "key", level=0.5), set_look(iso=400.0), camera, note, added("targets", a_target()))
    after = changed(setup, several)
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
