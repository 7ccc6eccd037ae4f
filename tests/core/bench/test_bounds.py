"""Where each figure of the bench ends: accepted at the bound, refused a hair beyond; and what is taken where nothing
is said.
"""

from dataclasses import fields

import pytest

from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.dimming import Dimming, DimmingCurve
from iron_bucket.core.bench.head import BatteryPlate, Head, HeadClass, MainsRange, Technology
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bench.mode import Mode
from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.bench.unit import Unit
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.measured_pass import MeasuredPass
from tests.made_up import a_board, a_cloth, a_configuration, a_grid, a_head

READING = {"configuration_slug": "lamp.own", "throw_m": 2.0, "illuminance_lx": 1000.0}
MODE = {"name": "x", "output_share": 0.5, "nameplate_w": 10.0}
PASS = {"modifier_slug": "blue", "head_class": HeadClass.LED, "passes": 0.3, "count": 1}


@pytest.mark.parametrize(
    ("make", "field", "low", "high"),
    [
        pytest.param(make, field, low, high, id=field)
        for make, field, low, high in (
            (lambda **c: Reading(**READING | c), "throw_m", 0.05, 500.0),
            (lambda **c: Reading(**READING | c), "illuminance_lx", 0.01, 5e6),
            (lambda **c: Reading(**READING | c), "setting", 0.0001, 1.0),
            (lambda **c: Reading(**READING | c), "aside_m", -100.0, 100.0),
            (lambda **c: Reading(**READING | c), "set_cct_k", 1000.0, 40_000.0),
            (lambda **c: Reading(**READING | c), "set_tint", -3.0, 3.0),
            (lambda **c: Reading(**READING | c), "cct_k", 1000.0, 40_000.0),
            (lambda **c: Reading(**READING | c), "duv", -0.1, 0.1),
            (lambda **c: Reading(**READING | c), "ra", -100.0, 100.0),
            (lambda **c: Reading(**READING | c), "r9", -500.0, 100.0),
            (lambda **c: Mode(**MODE | c), "output_share", 0.01, 1.0),
            (lambda **c: MeasuredPass(**PASS | c), "shift_mired", -500.0, 500.0),
            (a_head, "tint", -2.0, 2.0),
            (a_head, "lowest_tint", -3.0, 0.0),
            (a_head, "highest_tint", 0.0, 3.0),
            (a_head, "lowest_level", 0.0001, 1.0),
            (a_head, "lowest_cct_k", 1000.0, 5600.0),
            (a_head, "highest_cct_k", 5600.0, 40_000.0),
            (a_configuration, "focus", 0.0, 1.0),
            (a_grid, "cutoff_deg", 2.0, 170.0),
            (a_cloth, "lobe_deg", 3.0, 90.0),
            (a_board, "lobe_deg", 3.0, 90.0),
            (lambda **c: BatteryPlate(**{"mount": "v-lock"} | c), "level_limit", 0.01, 1.0),
            (lambda **c: MainsRange(**{"low_v": 100.0, "high_v": 240.0} | c), "high_v", 100.0, 480.0),
        )
    ],
)
def test_accepted_at_the_bound_and_refused_beyond(make, field, low, high):
    hair = 1e-6 * max(1.0, abs(high))
    for value in (low, high):
        assert getattr(make(**{field: value}), field) == value
    for value in (low - hair, high + hair, float("nan")):
        with pytest.raises(BadValue):
            make(**{field: value})


@pytest.mark.parametrize(
    "field",
    ["driver_kg", "cable_kg", "inrush_a", "charge_w", "restrike_min", "warm_up_min", "globe_life_h", "channels"],
)
def test_nothing_is_accepted_and_less_is_not(field):
    assert getattr(a_head(**{field: 0}), field) == 0
    with pytest.raises(BadValue, match=field):
        a_head(**{field: -1e-6})


def test_the_longest_texts_and_most_tags():
    assert len(Reading(**READING, note="x" * 300, meter="x" * 300).note) == 300
    assert len(a_head(note="x" * 2000, tags=tuple(f"tag {number}" for number in range(12))).tags) == 12
    assert a_head(tags=("x" * 30,)).tags == ("x" * 30,)
    with pytest.raises(BadValue, match="tags is"):
        a_head(tags=("x" * 31,))
    assert len(Unit(slug="u", name="x" * 120, head_slug="lamp").name) == 120
    assert Reading(**READING | {"ambient_lx": 0.0}).net_lx == 1000.0
    assert Reading(**READING | {"head_to_frame_m": 1.999}).head_to_frame_m == 1.999
    assert MeasuredPass(**PASS | {"count": 1}).count == 1


def usual(kind: type) -> dict[str, object]:
    """The defaults of a value, by field."""
    return {
        each.name: each.default
        for each in fields(kind)
        if isinstance(each.default, (int, float, str, bool, tuple, type(None)))
    }


@pytest.mark.parametrize(
    ("kind", "expected"),
    [
        (Item, {"day_price": None, "owned": 0, "tags": (), "note": "", "is_retired": False}),
        (
            Head,
            {
                "tint": 0.0,
                "lowest_level": 1.0,
                "mains": None,
                "battery_plates": (),
                "fan_db": 0.0,
                "fitting": "",
                "scrim_ring_mm": 0.0,
                "takes_gel": True,
                "spigot_mm": 16.0,
                "is_hot": False,
                "warm_up_min": 0.0,
                "restrike_min": 0.0,
                "nameplate_w": None,
                "modes": (),
                "inrush_a": 0.0,
                "charge_w": 0.0,
                "lowest_tint": 0.0,
                "highest_tint": 0.0,
                "driver_kg": 0.0,
                "cable_kg": 0.0,
                "weather": "",
                "control": (),
                "channels": 0,
                "effects": (),
                "globe": "",
                "globe_life_h": 0.0,
            },
        ),
        (Configuration, {"offset_m": 0.0, "is_lambertian": False, "takes_box": False, "optic": "", "focus": None}),
        (Mode, {"measured_w": None, "fan_db": 0.0}),
        (
            Reading,
            {
                "setting": 1.0,
                "ambient_lx": 0.0,
                "aside_m": 0.0,
                "modifier_slug": "",
                "frame_slug": "",
                "head_to_frame_m": None,
                "unit_slug": "",
                "meter": "",
                "note": "",
                "watts": None,
                "amps": None,
            },
        ),
        (Unit, {"serial": "", "owner": "", "globe_h": 0.0, "faults": (), "note": "", "tags": (), "is_retired": False}),
        (MeasuredPass, {"spread_stops": None, "shift_mired": None, "duv_shift": None, "beam_deg": None}),
        (Dimming, {"curve": DimmingCurve.LINEAR, "points": ()}),
        (BatteryPlate, {"plates": 1, "level_limit": 1.0}),
    ],
)
def test_what_is_taken_where_nothing_is_said(kind, expected):
    found = usual(kind)
    assert {name: found[name] for name in expected} == expected


@pytest.mark.parametrize(
    ("technology", "kind"),
    [
        (Technology.LED_DAY, HeadClass.LED),
        (Technology.LED_COLOUR, HeadClass.LED),
        (Technology.TUNGSTEN, HeadClass.TUNGSTEN),
        (Technology.HMI, HeadClass.HMI),
        (Technology.FLUORESCENT, HeadClass.FLUORESCENT),
    ],
)
def test_the_class_of_a_technology(technology, kind):
    assert technology.head_class is kind
    assert technology.is_led == (kind is HeadClass.LED)
