import pytest

from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.price_list import read_price_list
from tests.tables import cases, tabled


@tabled
def test_lists_as_houses_write_them(text, expected):
    assert list(read_price_list(text.encode())) == expected


@pytest.mark.parametrize(
    ("text", "sentence"),
    [
        *cases(__file__, "test_a_list_with_a_bad_row_is_not_taken"),
        ("item,day\n" + "box,5\n" * 20_001, "accepted: up to 20,000"),
    ],
)
def test_a_list_with_a_bad_row_is_not_taken(text, sentence):
    with pytest.raises(FormatError, match=sentence):
        read_price_list(text.encode())
