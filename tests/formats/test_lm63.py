import json
import time
import tracemalloc

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from iron_bucket.core.photometry.tabulated import PhotometryType
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.eulumdat import read_eulumdat
from iron_bucket.formats.lm63 import read_lm63
from iron_bucket.formats.photometric import read_photometric
from tests.conftest import GOLDEN
from tests.tables import cases, table, tabled

MALFORMED = json.loads((GOLDEN / "photometric" / "malformed.json").read_text())["files"]
GOOD = (GOLDEN / "photometric" / "m14_mixed_newlines.ies").read_bytes()


def a_file(**changes) -> bytes:
    """A small LM-63 file; each part can be replaced."""
    parts = table(__file__, "a_file") | changes
    return "\n".join(parts.values()).encode()


@pytest.mark.parametrize("case", MALFORMED, ids=lambda case: case["file"])
def test_reference_malformed(case):
    data = (GOLDEN / "photometric" / case["file"]).read_bytes()
    began = time.perf_counter()
    if case["expected"] == "accept":
        luminaire = read_photometric(data, case["file"])
        assert luminaire.distribution.peak_cd == pytest.approx(case["if_accepted_values"]["peak_cd"], rel=1e-4)
        assert luminaire.input_w == case["if_accepted_values"]["watts"]
    else:
        tracemalloc.start()
        with pytest.raises(FormatError):
            read_photometric(data, case["file"])
        assert tracemalloc.get_traced_memory()[1] < 20_000_000
        tracemalloc.stop()
    assert (
        time.perf_counter() - began < 1.0
    )  # the reference asks for two seconds; this is a bound on hanging, not a timing


def test_what_a_file_tells():
    lamp = read_lm63(a_file())
    assert (lamp.name, lamp.maker, lamp.input_w, lamp.rated_lamp_lumens, lamp.revision) == table(
        __file__, "test_what_a_file_tells"
    )
    assert lamp.opening_m == (0.1, 0.2)
    assert not lamp.is_round
    feet = read_lm63(a_file(lamp="1 -1 1 3 1 1 1 -0.5 -0.5 0"))
    assert feet.opening_m == pytest.approx((0.1524, 0.1524))
    assert feet.is_round
    assert feet.rated_lamp_lumens is None
    assert read_lm63(a_file(ballast="1 1 0")).input_w is None


@pytest.mark.parametrize("part", ["lamp", "ballast", "candela"])
@pytest.mark.parametrize("comma", [",", " , ", ", "])
def test_numbers_may_be_parted_by_commas(part, comma):
    blank, parted = (a_file(), a_file(**{part: comma.join(table(__file__, "a_file")[part].split())}))
    one, other = read_lm63(blank), read_lm63(parted)
    assert one.input_w == other.input_w
    assert one.distribution.candela.tolist() == other.distribution.candela.tolist()


@tabled
def test_the_twelfth_number_is_a_factor_until_2019(version, revision, factor):
    lamp = read_lm63(a_file(version=version, ballast="0.5 2 100", lamp="1 1500 10 3 1 1 2 0 0 0"))
    assert lamp.revision == revision
    assert lamp.distribution.peak_cd == pytest.approx(1000 * 10 * 0.5 * factor)


@pytest.mark.parametrize(("code", "kind"), [(1, PhotometryType.C), (2, PhotometryType.B), (3, PhotometryType.A)])
def test_types(code, kind):
    assert read_lm63(a_file(lamp=f"1 1500 1 3 1 {code} 2 0 0 0")).distribution.kind is kind


@tabled
def test_tilt_forms(tilt, note):
    notes = read_lm63(a_file(tilt=tilt)).notes
    assert (note in notes[0]) if note else notes == ()


@tabled
def test_refusals_name_the_line(changes, line, reason):
    with pytest.raises(FormatError) as refused:
        read_lm63(a_file(**changes))
    assert refused.value.line == line
    assert reason in str(refused.value)


@pytest.mark.parametrize(
    ("data", "reason"),
    [
        *cases(__file__, "test_what_is_no_text_file_of_a_lamp"),
        (b"x" * 4_000_001, "4,000,001 bytes"),
        (b"TILT=NONE\n" + b"1 " * 150_000, "the line has 299,999 letters"),
    ],
)
def test_what_is_no_text_file_of_a_lamp(data, reason):
    with pytest.raises(FormatError, match=reason):
        read_lm63(data)


@pytest.mark.parametrize("encoding", ["utf-8-sig", "latin-1", "utf-16"])
def test_encodings(encoding):
    text = a_file(keywords="[MANUFAC] Gemächt").decode()
    assert read_lm63(text.encode(encoding)).maker == "Gemächt"
    assert read_lm63(a_file() + b"\r\n\x1a").input_w == 100.0


@tabled
def test_planes_stand_for_a_whole_turn(angles, fine):
    data = a_file(lamp="1 1500 1 3 3 1 2 0 0 0", horizontal=angles, candela="\n".join(["1000, 500, 0"] * 3))
    if fine:
        assert len(read_lm63(data).distribution.horizontal_deg) == 3
    else:
        with pytest.raises(FormatError, match="horizontal angles run from"):
            read_lm63(data)


def test_eulumdat_notes_what_it_leaves_out():
    lamp = read_eulumdat((GOLDEN / "photometric" / "f31.ldt").read_bytes())
    assert lamp.notes == ("3 lamp sets are listed; the first was taken",)
    assert (lamp.input_w, lamp.rated_lamp_lumens, lamp.revision) == (100.0, 10000.0, None)


@tabled
def test_eulumdat_refusals(line, text, reason):
    lines = (GOLDEN / "photometric" / "f33.ldt").read_text().splitlines()
    lines[line - 1] = text
    with pytest.raises(FormatError) as refused:
        read_eulumdat("\n".join(lines).encode())
    assert reason in str(refused.value)


@given(st.binary(max_size=400), st.integers(0, len(GOOD)), st.integers(0, 60), st.booleans())
def test_hostile_bytes_are_read_or_refused(noise, at, gone, is_ldt):
    data = GOOD[:at] + noise + GOOD[at + gone :]
    try:
        luminaire = read_photometric(data, "x.ldt" if is_ldt else "x.ies")
    except FormatError:
        return
    assert np.isfinite(luminaire.distribution.candela).all()
