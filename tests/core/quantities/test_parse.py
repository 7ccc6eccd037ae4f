import pytest
from hypothesis import given
from hypothesis import strategies as st

from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities import parse
from iron_bucket.core.quantities.units import UnitSystem
from tests.tables import tabled

IMPERIAL = UnitSystem.IMPERIAL


@tabled
def test_lengths(text, system, expected_m):
    assert parse.length_m(text, "distance", system) == pytest.approx(expected_m)


@tabled
def test_what_people_type(read, text, expected):
    # Roots by hand: 2.8 x 2^(1/6), 2 x 2^(1/4), 4 x 2^(1/3).
    assert read(text, "field") == pytest.approx(expected, rel=1e-5)


def test_bare_numbers_follow_the_system():
    assert parse.illuminance_lx("60", "level", IMPERIAL) == pytest.approx(645.834, rel=1e-5)
    assert parse.illuminance_lx("60", "level") == 60.0
    assert parse.mass_kg("10", "weight", IMPERIAL) == pytest.approx(4.5359237)


@tabled
def test_what_is_refused_says_what_would_do(read, text, accepted):
    with pytest.raises(BadValue) as refused:
        read(text, "field")
    assert refused.value.field == "field"
    assert accepted in refused.value.accepted


@given(st.text(max_size=30))
@tabled
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
