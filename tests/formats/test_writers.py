"""Photometric files out again: what a round trip keeps, and what it says it lost."""

import numpy as np
import pytest

from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.photometry.luminaire import Luminaire
from iron_bucket.core.photometry.tabulated import PhotometryType, Tabulated
from iron_bucket.formats.eulumdat_writer import write_eulumdat
from iron_bucket.formats.lm63_writer import write_lm63
from iron_bucket.formats.photometric import read_photometric
from tests import tables
from tests.conftest import GOLDEN
from tests.tables import tabled

FILES = sorted((GOLDEN / "photometric").glob("f*"))
GAMMA, AZIMUTH = np.meshgrid(np.linspace(0.0, 180.0, 361), np.arange(0.0, 360.0, 7.5))


def read(path) -> Luminaire:
    return read_photometric(path.read_bytes(), path.name)


def largest_change(one: Luminaire, other: Luminaire) -> float:
    """Of any candela, as a share of the peak."""
    change = np.abs(one.distribution.intensity_cd(GAMMA, AZIMUTH) - other.distribution.intensity_cd(GAMMA, AZIMUTH))
    return float(change.max()) / one.distribution.peak_cd


@pytest.mark.parametrize("path", FILES, ids=[path.name for path in FILES])
def test_over_to_the_other_format_and_back(path):
    before = read(path)
    over = read_photometric(write_eulumdat(before).data, "over.ldt")
    after = read_photometric(write_lm63(over).data, "back.ies")
    assert largest_change(before, after) < 0.005
    assert lumens(after.distribution) == pytest.approx(lumens(before.distribution), rel=0.005)
    assert after.input_w == before.input_w
    assert after.opening_m == pytest.approx(before.opening_m, abs=1e-6)
    assert after.is_round == before.is_round


@pytest.mark.parametrize("path", FILES, ids=[path.name for path in FILES])
def test_lm63_holds_every_type_as_it_is(path):
    before = read(path)
    after = read_photometric(write_lm63(before).data, "same.ies")
    assert after.distribution.kind is before.distribution.kind
    assert after.distribution.candela == pytest.approx(before.distribution.candela, rel=1e-6)
    assert (after.name, after.maker, after.revision) == (before.name, before.maker, "2002")


@tabled
def test_what_eulumdat_cannot_hold_is_told(name, lost):
    assert lost in "; ".join(write_eulumdat(read(GOLDEN / "photometric" / name)).lost)


def a_luminaire(**changes) -> Luminaire:
    table = Tabulated(
        kind=PhotometryType.C,
        vertical_deg=np.array([0.0, 45.0, 90.0]),
        horizontal_deg=np.zeros(1),
        candela=np.array([[1234.5678, 100.0, 0.0]]),
    )
    return Luminaire(**(tables.table(__file__, "a_luminaire") | {"distribution": table} | changes))


def test_unknown_watts_are_told_nothing_else_is_lost_and_names_do_not_break_the_file():
    for write in (write_lm63, write_eulumdat):
        assert write(a_luminaire()).lost == ()
        assert write(a_luminaire(input_w=None)).lost == ("the watts are not known and stand as 0",)
    written = write_lm63(a_luminaire())
    assert written.ending == "ies"
    assert read_photometric(written.data, "x.ies").name == "Lamp (with) brackets, na?ve"  # the format is plain ASCII
    assert read_photometric(write_eulumdat(a_luminaire()).data, "x.ldt").name == "Lamp [with] brackets, naïve"
    assert max(len(line) for line in written.data.splitlines()) <= 120


def test_many_numbers_are_wrapped_and_too_many_angles_thinned():
    fine = np.linspace(0.0, 90.0, 1441)
    table = Tabulated(
        kind=PhotometryType.C,
        vertical_deg=fine,
        horizontal_deg=np.zeros(1),
        candela=1000.0 * np.cos(np.radians(fine))[None],
    )
    before = a_luminaire(distribution=table)
    written = write_lm63(before)
    assert max(len(line) for line in written.data.splitlines()) <= 120
    over = write_eulumdat(before)
    assert over.lost == ("1441 vertical angles: 721 are written",)
    assert largest_change(before, read_photometric(over.data, "x.ldt")) < 0.005
