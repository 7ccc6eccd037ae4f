"""Two faces held against each other, and a picture closed at the lens: by figures worked out by hand."""

from types import SimpleNamespace

import numpy as np
import pytest

from iron_bucket.core.colour.light_colour import LightColour, Origin
from iron_bucket.core.colour.seen import Seen
from iron_bucket.core.colour.white import xyz_from_uv
from iron_bucket.core.days import continuity
from iron_bucket.core.days.day_for_night import _closed, _practicals
from iron_bucket.core.days.holding import _colour
from iron_bucket.core.days.insurance import _wanted
from iron_bucket.core.setups.evaluate.ladder import RungKind
from tests.tables import tabled


def a_face(**changes) -> SimpleNamespace:
    """A key of 100 lx two stops over its shadow, from 270 degrees, 30 up, ten degrees wide."""
    made = {"key_lx": 100.0, "shadow_lx": 25.0, "bearing_deg": -90.0, "height_deg": 30.0, "apparent_deg": 10.0}
    return SimpleNamespace(
        person=SimpleNamespace(name="Anna"), **({"edge_m": 0.002, "key_light": "Key"} | made | changes)
    )


def shot_at(wanted_lx: float) -> SimpleNamespace:
    look = SimpleNamespace(wanted_lx=lambda receptor: wanted_lx)
    return SimpleNamespace(built=SimpleNamespace(setup=SimpleNamespace(look=look), receptor=None))


def told(new: SimpleNamespace, exposed_lx: float = 100.0, **was) -> dict[str, tuple[str, str, bool, str]]:
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(continuity, "_colour", lambda *_: iter(()))
        found = list(continuity._of(a_face(**was), new, shot_at(100.0), shot_at(exposed_lx)))
    return {each.what: (each.was, each.now, each.is_seen, each.closes) for each in found}


def test_what_differs_is_said_with_what_closes_it():
    other = {"key_lx": 200.0, "shadow_lx": 100.0, "bearing_deg": -60.0, "height_deg": 20.0, "apparent_deg": 5.0}
    assert told(a_face(edge_m=0.001, **other)) == {
        "level of the key": ("0.0 stops", "+1.0 stops", True, "1.0 stops less of Key"),
        "direction of the key": ("270°, 30° up", "300°, 20° up", True, "Key 30° back around, 10° up"),
        "contrast": ("2.0 stops", "1.0 stops", True, "less on the shadow side"),
        "softness": ("10°, edge 2 mm", "5°, edge 1 mm", True, "a source 2.0 times as large"),
    }
    # A stop brighter exposed: the same light lies a stop lower, and nothing else differs.
    lower = told(a_face(), 200.0)
    assert lower.pop("level of the key") == ("0.0 stops", "−1.0 stops", True, "1.0 stops more of Key")
    assert [seen for _, _, seen, _ in lower.values()] == [False, False, False]
    assert told(a_face(apparent_deg=0.0))["softness"][3] == "a source 100.0 times as large"  # a tenth of a degree
    assert told(a_face(), apparent_deg=0.2)["softness"][3] == "a source 1/50.0 as large"
    assert told(a_face(bearing_deg=-89.4, height_deg=30.6))["direction of the key"][3] == "Key 1° back around, 1° down"
    assert told(a_face(bearing_deg=200.0))["direction of the key"][3] == "Key 70° on around, 0° up"


@tabled
def test_what_a_cut_lets_be_seen(change, is_seen):
    found = told(a_face(**change))
    assert {what: found[what][2] for what in is_seen} == is_seen


@tabled
def test_a_picture_is_closed_by_whole_stops_of_nd_and_the_rest_at_the_lens(nd_stops, stops, closed, words):
    look = SimpleNamespace(nd_stops=nd_stops, t_stop=2.8)
    late = SimpleNamespace(built=SimpleNamespace(setup=SimpleNamespace(look=look)))
    assert _closed(late, stops) == (closed, words)


def a_colour(mired: float, duv: float) -> Seen:
    return Seen(mired=mired, duv=duv)


@tabled
def test_the_key_is_seen_against_the_white_of_its_own_shot(was, now, closes, monkeypatch):
    """Kept apart by its own mark: other marks have other colours, and each shot its own white."""
    shots = [SimpleNamespace(white=f"white {at}", key=a_colour(*each)) for at, each in enumerate((was, now))]
    whites = {shot.white: shot.key for shot in shots}
    marks = {"b.key": "other", "a.left": "key", "a.right": "other"}
    told = [SimpleNamespace(mark_id=name, colour=colour) for name, colour in marks.items()]
    monkeypatch.setattr(continuity, "mark_colours", lambda lit: told)
    monkeypatch.setattr(continuity, "seen_against", lambda colour, white: {"key": whites[white]}[colour])
    lits = [
        SimpleNamespace(built=SimpleNamespace(setup=SimpleNamespace(look=SimpleNamespace(white=shot.white))))
        for shot in shots
    ]
    face = SimpleNamespace(person=SimpleNamespace(piece_id="a"), key_side="left")
    found = [(each.closes, each.is_seen) for each in continuity._colour("Anna", face, face, *lits)]
    assert found == ([] if closes is None else [(closes, bool(closes))])
    assert list(continuity._colour("Anna", face, SimpleNamespace(person=face.person, key_side="none"), *lits)) == []


@tabled
def test_practicals_go_up_as_the_picture_is_closed(level, up, short):
    lamps = [
        SimpleNamespace(
            piece_id=f"{at}", name="Table", level=level, is_practical=is_practical, is_on=is_on, is_locked=shut
        )
        for at, (is_practical, is_on, shut) in enumerate([(1, 1, 0), (0, 1, 0), (1, 0, 0), (1, 1, 1)])
    ]
    late = SimpleNamespace(built=SimpleNamespace(setup=SimpleNamespace(lamps=lamps)))
    changes, steps, found = _practicals(late, up)
    full = min(level * 2.0**up, 1.0)
    assert [(each.piece_id, each.to) for each in changes] == [("0", {"level": round(full, 4)})]
    assert (len(steps), found) == (1, short)


def rung(mark: str, kind: RungKind, *, is_asked: bool = False) -> SimpleNamespace:
    return SimpleNamespace(mark_id=mark, kind=kind, target=object() if is_asked else None)


@tabled
def test_the_light_of_a_pass_is_first_that_on_a_face(rungs, wanted):
    assert _wanted(SimpleNamespace(rungs=rungs)) == wanted


def test_a_colour_holds_within_its_tolerance_and_where_there_is_light():
    white = LightColour.of_mired(1e6 / 5600.0, 0.002, Origin.TYPICAL)
    lit = SimpleNamespace(built=SimpleNamespace(setup=SimpleNamespace(look=SimpleNamespace(white=white))))
    target = SimpleNamespace(mark="face", mired=20.0, duv=0.003, tolerance=10.0)
    colours = [LightColour.of_mired(white.mired + each, 0.005, Origin.TYPICAL) for each in (20.0, 30.0, 9.0, 20.0)]
    xyz = 100.0 * np.stack([xyz_from_uv(each.uv) for each in colours])
    xyz[3] *= 1e-9
    found = _colour(lit, target, xyz)
    assert found.holds.tolist() == [True, True, False, False]
    assert found.miss(2) == "the colour of face is 11 mired off"
    assert found.miss(3) == "face has no colour"
