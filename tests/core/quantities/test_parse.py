import pytest
from hypothesis import given
from hypothesis import strategies as st

from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities import display, parse
from iron_bucket.core.quantities.units import UnitSystem
from tests.tables import tabled


@tabled
def test_what_people_type(read, text, expected):
    # Roots by hand: 2.8 x 2^(1/6), 2 x 2^(1/4), 4 x 2^(1/3).
    assert read(text, "field") == pytest.approx(expected, rel=1e-5)


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


@pytest.mark.parametrize("system", list(UnitSystem))
@pytest.mark.parametrize("kind", [("illuminance", "illuminance_lx"), ("length", "length_m"), ("mass", "mass_kg")])
@given(value=st.floats(0.0, 3e5))
def test_what_is_shown_reads_back(kind, system, value):
    show, read = getattr(display, kind[0]), getattr(parse, kind[1])
    shown = str(show(value, system))
    assert str(show(read(shown, "field", system), system)) == shown


@given(value=st.floats(-500.0, 500.0))
def test_signed_figures_read_back(value):
    for show, unit in ((display.mired_shift, "mired"), (display.fine_stops, ""), (display.stops, "stops")):
        shown = str(show(value)).replace("stop", "stops").replace("stopss", "stops")
        assert str(show(parse.signed(shown, "field", unit))) == str(show(value))


@given(value=st.floats(0.0, 999.0))
def test_hours_read_back(value):
    shown = str(display.hours(value))
    assert parse.hours(shown, "field") == pytest.approx(value, abs=1.0 / 59.0)
