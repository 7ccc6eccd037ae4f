"""Every reader, given anything: an answer or the one clear error, within a second."""

import contextlib
import json
import time

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities import parse
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.demo.files import demo_gear
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.eulumdat import read_eulumdat
from iron_bucket.formats.gear_json import gear_json, read_bench_file
from iron_bucket.formats.lm63 import read_lm63
from iron_bucket.formats.need_json import read_need
from iron_bucket.formats.price_list import read_price_list
from iron_bucket.formats.reading_table import proposed_uses, read_rows, read_table
from iron_bucket.formats.spectrum import read_spectrum
from tests.conftest import GOLDEN

GEAR = demo_gear()
PHOTOMETRIC = [path.read_bytes() for path in sorted((GOLDEN / "photometric").glob("*.[il]*"))]
SMALL_GEAR = json.dumps(gear_json(type(GEAR)(heads=GEAR.heads[:2], sheets=GEAR.sheets[:2]))).encode()
SPECTRUM = (GOLDEN / "spectra" / "FL3.csv").read_bytes()
START = Reading(configuration_slug="lamp", throw_m=1.0, illuminance_lx=1.0)


def table_of(data: bytes) -> None:
    table = read_table(data)
    with contextlib.suppress(BadValue):  # no column for the distance, say: asked of the person, not of the file
        read_rows(table, proposed_uses(table, UnitSystem.METRIC), START)


def text_of(read):
    return lambda data: read(data.decode("utf-8", errors="replace"))


NEED = b'{"illuminance_lx": 640, "throw_m": 3, "feed": {"battery": {"kind": "battery-v-98", "count": 2, "burn_h": 1}}}'
READERS = {
    "LM-63": (read_lm63, PHOTOMETRIC),
    "EULUMDAT": (read_eulumdat, PHOTOMETRIC),
    "readings": (table_of, [b"dist;lux;CCT\n1,5;1000;5600\n2;560;n/a\n", b"1\t2\n3\t4\n"]),
    "spectrum": (read_spectrum, [SPECTRUM, b'<a><SpectralData wavelength="400">1</SpectralData></a>']),
    "prices": (read_price_list, [b"item,day_price,week_price\nbox,5,20\n"]),
    "gear": (text_of(read_bench_file), [SMALL_GEAR]),
    "need": (text_of(lambda text: read_need(text, GEAR)), [NEED]),
}


NOISE = [*b'1e308 -1 nan inf 0 99999999999 , \x00 \xc2\xb5 " [[[ 1e-320'.split(b" "), b"\n\n", b" "]


@st.composite
def spoiled(draw, seeds: list[bytes]) -> bytes:
    """A real file with some of it cut, doubled, overwritten or swapped; or nothing but noise."""
    data = bytearray(draw(st.sampled_from([*seeds, b""])))
    for _ in range(draw(st.integers(0, 6))):
        at = draw(st.integers(0, max(len(data) - 1, 0)))
        match draw(st.integers(0, 4)):
            case 0:
                data = data[:at]
            case 1:
                data[at:at] = draw(st.binary(max_size=40))
            case 2:
                data[at : at + draw(st.integers(1, 60))] = b""
            case 3:
                data[at:at] = data[at : at + 200]
            case 4:
                data[at:at] = draw(st.sampled_from(NOISE))
    return bytes(data)


@pytest.mark.parametrize("name", READERS)
def test_an_answer_or_the_one_clear_error_within_a_second(name):
    read, seeds = READERS[name]

    @settings(max_examples=250, deadline=None, suppress_health_check=list(HealthCheck), derandomize=True, database=None)
    @given(spoiled(seeds))
    def anything(data: bytes) -> None:
        began = time.process_time()
        with contextlib.suppress(FormatError):
            read(data)
        assert time.process_time() - began < 1.0

    anything()


PARSERS = (parse.length_m, parse.illuminance_lx, parse.mass_kg, parse.cct_k, parse.shutter_s, parse.t_stop)
TYPED = {read.__name__: read for read in (*PARSERS, parse.stops, parse.temperature_c)}
LINES = {"spectrum": "400{}", "readings": "dist;lux\n1;2{}", "prices": "item,day_price\nbox,5{}"}
LINES |= {"LM-63": "{}", "EULUMDAT": "{}"}


def seconds(read, given) -> float:
    began = time.process_time()
    with contextlib.suppress(BadValue, FormatError):
        read(given, "field") if isinstance(given, str) else read(given)
    return time.process_time() - began


@pytest.mark.parametrize("filler", [" ", "1 ", "1,", "set ", "½", "1.000,", "\t;", '"', "1e1 "])
@pytest.mark.parametrize("name", [*TYPED, *LINES])
def test_time_grows_no_faster_than_length(name, filler):
    """Four times as long takes four times as long, not sixteen; what takes no time at all is not compared."""
    read, around = (TYPED[name], "1{}x") if name in TYPED else (READERS[name][0], LINES[name])
    texts = [around.format(filler * (size // len(filler)) + "x") for size in (24_000, 96_000)]
    given = texts if name in TYPED else [text.encode() for text in texts]
    short, long = (min(seconds(read, each) for _ in range(3)) for each in given)
    assert long < max(9.0 * short, 0.06)
