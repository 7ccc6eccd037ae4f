import pytest
from hypothesis import given
from hypothesis import strategies as st

from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities import parse
from iron_bucket.core.quantities.units import UnitSystem

IMPERIAL = UnitSystem.IMPERIAL


@pytest.mark.parametrize(
    ("text", "system", "expected_m"),
    [
        ("3.8m", UnitSystem.METRIC, 3.8),
        ("3,8", UnitSystem.METRIC, 3.8),
        ("380 cm", UnitSystem.METRIC, 3.8),
        ("1500mm", UnitSystem.METRIC, 1.5),
        ("12'6\"", UnitSystem.METRIC, 3.81),
        ("12' 6", UnitSystem.METRIC, 3.81),
        ("12 ft", UnitSystem.METRIC, 3.6576),
        ('6"', IMPERIAL, 0.1524),
        ("10", IMPERIAL, 3.048),
        ("3 m", IMPERIAL, 3.0),
        ("12′6″", IMPERIAL, 3.81),
        (".5", UnitSystem.METRIC, 0.5),
    ],
)
def test_lengths(text, system, expected_m):
    assert parse.length_m(text, "distance", system) == pytest.approx(expected_m)


@pytest.mark.parametrize(
    ("read", "text", "expected"),
    [
        (parse.illuminance_lx, "640 lx", 640.0),
        (parse.illuminance_lx, "60fc", 645.834),
        (parse.illuminance_lx, "1.2 klx", 1200.0),
        (parse.mass_kg, "7.5 kg", 7.5),
        (parse.mass_kg, "16 lb", 7.257478),
        (parse.mass_kg, "500 g", 0.5),
        (parse.cct_k, "5600", 5600.0),
        (parse.cct_k, "3.2kK", 3200.0),
        (parse.shutter_s, "1/48", 1 / 48),
        (parse.shutter_s, "1/48 s", 1 / 48),
        (parse.shutter_s, "20 ms", 0.02),
        (parse.shutter_s, "0.02", 0.02),
        (parse.shutter_s, "0.02 s", 0.02),
        (parse.stops, "1 3/4", 1.75),
        (parse.stops, "¾", 0.75),
        (parse.stops, "2/3", 2 / 3),
        (parse.t_stop, "2.8", 2.8),
        (parse.t_stop, "T2.8", 2.8),
        (parse.t_stop, "f/4", 4.0),
        (parse.t_stop, "T2.8 1/3", 3.142894),
        (parse.t_stop, "T2 ½", 2.378414),
        (parse.t_stop, "T4+2/3", 5.039684),
        (parse.stops, "1 1/3", 4 / 3),
        (parse.stops, "½", 0.5),
        (parse.stops, "2 stops", 2.0),
        (parse.stops, "ND0.6", 2.0),
        (parse.hours, "2", 2.0),
        (parse.hours, "2h30", 2.5),
        (parse.hours, "2:15", 2.25),
        (parse.hours, "90 min", 1.5),
        (parse.hours, "1.5 h", 1.5),
        (parse.number, "1e2", 100.0),
        (parse.number, " 12,5 ", 12.5),
    ],
)
def test_what_people_type(read, text, expected):
    # Roots by hand: 2.8 x 2^(1/6), 2 x 2^(1/4), 4 x 2^(1/3).
    assert read(text, "field") == pytest.approx(expected, rel=1e-5)


def test_bare_numbers_follow_the_system():
    assert parse.illuminance_lx("60", "level", IMPERIAL) == pytest.approx(645.834, rel=1e-5)
    assert parse.illuminance_lx("60", "level") == 60.0
    assert parse.mass_kg("10", "weight", IMPERIAL) == pytest.approx(4.5359237)


@pytest.mark.parametrize(
    ("read", "text", "accepted"),
    [
        (parse.length_m, "far", "a length such as"),
        (parse.length_m, "", "a length such as"),
        (parse.length_m, "-3", "a length such as"),
        (parse.length_m, "'", "a length such as"),
        (parse.illuminance_lx, "640 cd", "640 lx or 60 fc"),
        (parse.illuminance_lx, "1e400", "a level"),
        (parse.cct_k, "999", "1000 to 40000"),
        (parse.cct_k, "40001", "1000 to 40000"),
        (parse.shutter_s, "1/0", "1/48"),
        (parse.shutter_s, "0", "1/48"),
        (parse.t_stop, "T2.8 1/5", "T2.8 1/3"),
        (parse.t_stop, "0", "T2.8"),
        (parse.t_stop, "G3", "T2.8"),
        (parse.stops, "", "1 1/3"),
        (parse.stops, "1/7", "1 1/3"),
        (parse.hours, "2h75", "2h30"),
        (parse.hours, "soon", "2h30"),
        (parse.number, "nan", "a number"),
        (parse.number, "5 kg", "a number"),
        (parse.number, "2e13", "a number"),
        (parse.mass_kg, "heavy", "7.5 kg or 16 lb"),
    ],
)
def test_what_is_refused_says_what_would_do(read, text, accepted):
    with pytest.raises(BadValue) as refused:
        read(text, "field")
    assert refused.value.field == "field"
    assert accepted in refused.value.accepted


@given(st.text(max_size=30))
@pytest.mark.parametrize(
    "read",
    [
        parse.length_m,
        parse.illuminance_lx,
        parse.mass_kg,
        parse.cct_k,
        parse.shutter_s,
        parse.t_stop,
        parse.stops,
        parse.hours,
    ],
)
def test_anything_typed_is_read_or_refused(read, text):
    try:
        value = read(text, "field")
    except BadValue:
        return
    assert 0 <= value <= parse.LARGEST * 1000


def test_the_unit_of_a_number_is_named():
    assert parse.number("12 dB", "noise", "dB") == 12.0
    with pytest.raises(BadValue, match="accepted: a number of dB, such as 12.5"):
        parse.number("12 m", "noise", "dB")


@pytest.mark.parametrize(
    ("text", "expected"), [("-3,5", -3.5), ("\u22123.5 K", -3.5), ("+2", 2.0), (" 7 ", 7.0), ("- 1", -1.0)]
)
def test_signed_numbers(text, expected):
    assert parse.signed(text, "x", "K") == expected


@pytest.mark.parametrize("text", ["--1", "+-1", "-", "1-"])
def test_one_sign_is_enough(text):
    with pytest.raises(BadValue, match="x is"):
        parse.signed(text, "x")
