"""Tables of readings as people have them."""

import pytest

from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.reading_rows import reading_of, reading_row
from iron_bucket.formats.reading_table import COLUMN_USES, proposed_uses, read_rows, read_table
from tests.tables import cases, table, tabled

START = Reading(configuration_slug="lamp.own", throw_m=1.0, illuminance_lx=1.0, meter="shelf 2")
METRIC, IMPERIAL = UnitSystem.METRIC, UnitSystem.IMPERIAL


def taken(text: str, system: UnitSystem = METRIC):
    sheet = read_table(text.encode())
    good, bad = read_rows(sheet, proposed_uses(sheet, system), START)
    return [(each.throw_m, each.illuminance_lx) for each in good], [(each.line, each.reason) for each in bad]


@tabled
def test_tables_as_people_have_them(text, system, pairs):
    good, bad = taken(text, system)
    assert bad == []
    assert good == [(pytest.approx(throw, rel=1e-4), pytest.approx(level, rel=1e-4)) for throw, level in pairs]


def test_bad_rows_are_told_and_good_ones_kept():
    good, bad = taken("dist;lux\n1;1000\n2;n/a\n;250\n-3;100\n4;62\n5;")
    assert good == [(1.0, 1000.0), (4.0, 62.0)]
    assert [line for line, _ in bad] == [3, 4, 5, 7]
    assert bad[0][1] == "level is 'n/a'; accepted: a level such as 640 lx or 60 fc"
    assert bad[1][1] == "distance is missing; accepted: a figure in every row"
    assert "distance is -3" in bad[2][1]


def test_every_column_finds_its_use():
    headings = "Throw m;Lux;ambient lx;dim %;aside m;colour set;CCT K;Duv;CRI;R9;W;Amps;Meter;Notes"
    sheet = read_table(f"{headings}\n2;500;10;50;0,5;5600;5580;-0,0012;95,5;-8;120;0,55;old one;by the door\n".encode())
    uses = proposed_uses(sheet, METRIC)
    assert uses == table(__file__, "test_every_column_finds_its_use")
    ((reading,), bad) = read_rows(sheet, uses, START)
    assert bad == ()
    assert (reading.net_lx, reading.setting, reading.duv, reading.r9, reading.meter, reading.note) == table(
        __file__, "test_every_column_finds_its_use 2"
    )
    assert (
        read_rows(sheet, ("distance_m", "level_lx") + ("",) * 12, START)[0][0].meter == "shelf 2"
    )  # what no column tells stays


def test_one_use_for_one_column():
    lux_twice = read_table(b"dist;lux;lux 2\n2;500;510\n")
    assert proposed_uses(lux_twice, METRIC) == ("distance_m", "level_lx", "")
    for uses, sentence in table(__file__, "test_one_use_for_one_column"):
        with pytest.raises(BadValue, match=sentence):
            read_rows(lux_twice, uses, START)
    five = read_table(b"dist;lux;CCT;CCT\n2;500;5600;5500\n")
    with pytest.raises(BadValue, match="each use once"):
        read_rows(five, ("distance_m", "level_lx", "cct", "cct"), START)


@pytest.mark.parametrize(
    ("data", "sentence"),
    [
        *cases(__file__, "test_what_is_no_table"),
        (b";".join([b"1"] * 41), "41 columns; accepted: up to 40"),
        (b"1;2\n" * 5002, "5,002 rows; accepted: up to 5,000"),
    ],
)
def test_what_is_no_table(data, sentence):
    with pytest.raises(FormatError, match=sentence):
        read_table(data)


def test_the_signature_knows_the_same_kind_of_file():
    assert read_table(b"Dist;LUX\n1;2").signature == read_table(b"dist;lux\n5;6\n7;8").signature == "dist|lux"
    assert read_table(b"1;2\n3;4").signature == "2 columns without headings"
    assert "" in COLUMN_USES


def test_a_reading_as_a_row_and_back():
    full = table(__file__, "test_a_reading_as_a_row_and_back")
    reading = reading_of(Fields(full))
    assert reading_row(reading) == full
    assert reading_of(Fields(full | {"taken_at": "2026-10-12T11:30:00+02:00"})) == reading
    assert reading_of(Fields(full | {"taken_at": "2026-10-12T09:30:00"})) == reading  # no zone: UTC
    with pytest.raises(BadValue, match="taken_at is 'yesterday'"):
        reading_of(Fields(full | {"taken_at": "yesterday"}))
    assert set(reading_row(START)) == {"configuration_slug", "throw_m", "illuminance_lx", "meter"}
