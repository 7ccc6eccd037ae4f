import pytest

from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.price_list import Price, read_price_list


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        (
            "item,day_price,week_price\nday-led-300,42.50,170\n",
            [Price(line=2, item="day-led-300", day_price=42.5, week_price=170.0)],
        ),
        (
            "Article;Rate per day\nday LED 300;42,5\n\n;;\nfull blue;1\n",
            [
                Price(line=2, item="day LED 300", day_price=42.5, week_price=None),
                Price(line=5, item="full blue", day_price=1.0, week_price=None),
            ],
        ),
        ("week rate\tname\tdaily\n\tbox\t7.00 €\n", [Price(line=2, item="box", day_price=7.0, week_price=None)]),
        ('item,day price\n"box, large",£9\n', [Price(line=2, item="box, large", day_price=9.0, week_price=None)]),
    ],
)
def test_lists_as_houses_write_them(text, expected):
    assert list(read_price_list(text.encode())) == expected


@pytest.mark.parametrize(
    ("text", "sentence"),
    [
        ("", "the file is empty"),
        ("day_price\n5\n", "line 1: no column is headed item"),
        ("item\nbox\n", "no column is headed day_price"),
        ("item,day\n", "line 2: there is no row"),
        ("item,day\nbox,lots\n", "line 2: day_price is 'lots'; accepted: an amount"),
        ("item,day\nbox,-5\n", "line 2|amount"),
        ("item,day\n,5\n", "line 2: item is missing"),
        ("item,day\nbox\n", "day_price is ''"),
        ("item,day\n" + "box,5\n" * 20_001, "accepted: up to 20,000"),
        ("item,day,week\nbox,5,x\n", "week_price is 'x'"),
    ],
)
def test_a_list_with_a_bad_row_is_not_taken(text, sentence):
    with pytest.raises(FormatError, match=sentence):
        read_price_list(text.encode())
