"""Two faces held against each other, and a picture closed at the lens: by figures worked out by hand."""

from types import SimpleNamespace

import pytest

from iron_bucket.core.days import continuity
from iron_bucket.core.days.day_for_night import _closed


def a_face(**changes) -> SimpleNamespace:
    """A key of 100 lx two stops over its shadow, from 270 degrees, 30 up, ten degrees wide."""
    made = {"key_lx": 100.0, "shadow_lx": 25.0, "bearing_deg": -90.0, "height_deg": 30.0, "apparent_deg": 10.0}
    return SimpleNamespace(
        person=SimpleNamespace(name="Anna"), **({"edge_m": 0.002, "key_light": "Key"} | made | changes)
    )


def shot_at(wanted_lx: float) -> SimpleNamespace:
    look = SimpleNamespace(wanted_lx=lambda receptor: wanted_lx)
    return SimpleNamespace(built=SimpleNamespace(setup=SimpleNamespace(look=look), receptor=None))


def told(new: SimpleNamespace, exposed_lx: float = 100.0) -> dict[str, tuple[str, str, bool, str]]:
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(continuity, "_colour", lambda *_: iter(()))
        found = list(continuity._of(a_face(), new, shot_at(100.0), shot_at(exposed_lx)))
    return {each.what: (each.was, each.now, each.is_seen, each.closes) for each in found}


def test_what_differs_is_said_with_what_closes_it():
    other = {"key_lx": 200.0, "shadow_lx": 100.0, "bearing_deg": 300.0, "height_deg": 20.0, "apparent_deg": 5.0}
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
    assert told(a_face(bearing_deg=200.0))["direction of the key"][3] == "Key 70° on around, 0° up"


@pytest.mark.parametrize(
    ("change", "is_seen"),
    [
        ({"key_lx": 100.0 * 2.0 ** (1.0 / 3.0), "shadow_lx": 25.0 * 2.0 ** (1.0 / 3.0)}, {"level of the key": False}),
        ({"key_lx": 127.0, "shadow_lx": 31.75}, {"level of the key": True, "contrast": False}),
        ({"shadow_lx": 25.0 * 2.0 ** (1.0 / 3.0)}, {"contrast": False}),
        ({"shadow_lx": 31.75}, {"contrast": True}),
        ({"bearing_deg": -75.0}, {"direction of the key": False}),
        ({"bearing_deg": -74.0}, {"direction of the key": True}),
        ({"height_deg": 14.0}, {"direction of the key": True}),
        ({"apparent_deg": 15.0}, {"softness": False}),
        ({"apparent_deg": 15.1}, {"softness": True}),
        ({"apparent_deg": 6.6}, {"softness": True}),
    ],
)
def test_what_a_cut_lets_be_seen(change, is_seen):
    found = told(a_face(**change))
    assert {what: found[what][2] for what in is_seen} == is_seen


@pytest.mark.parametrize(
    ("nd_stops", "stops", "closed"),
    [
        (0.0, 3.0, {"nd_stops": 3.0, "t_stop": 2.8}),
        (2.0, 2.5, {"nd_stops": 4.0, "t_stop": 3.2}),  # half a stop of it is left to the lens: T3.3
        (1.0, -3.0, {"nd_stops": 0.0, "t_stop": 1.4}),  # one of ND comes off, two stops are opened
        (0.0, 12.0, {"nd_stops": 8.0, "t_stop": 11.0}),  # more than eight of ND turns colours
    ],
)
def test_a_picture_is_closed_by_whole_stops_of_nd_and_the_rest_at_the_lens(nd_stops, stops, closed):
    look = SimpleNamespace(nd_stops=nd_stops, t_stop=2.8)
    late = SimpleNamespace(built=SimpleNamespace(setup=SimpleNamespace(look=look)))
    assert _closed(late, stops)[0] == closed
