import pytest
from hypothesis import given
from hypothesis import strategies as st

from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities import parse
from iron_bucket.core.quantities.units import UnitSystem
from tests.tables import tabled

IMPERIAL = UnitSystem.IMPERIAL


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
