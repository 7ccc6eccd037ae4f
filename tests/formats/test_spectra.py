import numpy as np
import pytest

from iron_bucket.core.colour.spectrum import Spectrum
from iron_bucket.core.errors import BadValue
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.spectrum import read_spectrum, spectrum_from_row, spectrum_row
from iron_bucket.formats.spectrum_csv import write_spectrum_csv
from iron_bucket.formats.tm27 import write_tm27
from tests.conftest import GOLDEN
from tests.tables import cases

NM = np.arange(400.0, 701.0, 5.0)
PLAIN = Spectrum(wavelength_nm=NM, power=np.linspace(0.1, 1.0, len(NM)))


def rows(line: str, powers=PLAIN.power) -> bytes:
    return "\n".join(line.format(nm=nm, p=p) for nm, p in zip(NM, powers, strict=True)).encode()


def same(one: Spectrum, other: Spectrum) -> bool:
    return np.allclose(one.wavelength_nm, other.wavelength_nm) and np.allclose(one.power, other.power, rtol=1e-9)


@pytest.mark.parametrize(
    "data",
    [
        *cases(__file__, "test_spectra_as_meters_write_them"),
        pytest.param(rows("{nm:.0f};{p:.12f}").replace(b".", b","), id="semicolons and decimal commas"),
        pytest.param(b"# a meter\nWavelength [nm]\tW/nm\n" + rows("{nm:g}\t{p:.12e}"), id="tabs, headings, a remark"),
        pytest.param(
            b"\xef\xbb\xbfnm,power\n" + rows("{nm:g}, {p:.12g},") + b"\n\n", id="byte order mark, commas at the end"
        ),
    ],
)
def test_spectra_as_meters_write_them(data):
    assert same(read_spectrum(data), PLAIN)


def test_out_and_in_again_without_loss():
    assert same(read_spectrum(write_spectrum_csv(PLAIN).encode()), PLAIN)
    assert same(read_spectrum(write_tm27(PLAIN, "a lamp & its <shade>")), PLAIN)
    assert same(spectrum_from_row(Fields(spectrum_row(PLAIN))), PLAIN)
    golden = read_spectrum((GOLDEN / "spectra" / "HP3.csv").read_bytes())
    assert same(read_spectrum(write_tm27(golden, "HP3")), golden)


def test_tm27_with_name_space_and_foreign_parts():
    points = "".join(
        f'<s:SpectralData wavelength="{nm}">{p}</s:SpectralData>' for nm, p in zip(NM, PLAIN.power, strict=True)
    )
    text = (
        '<?xml version="1.0"?><s:IESTM2714'
        f' xmlns:s="any"><s:Header><s:Odd/></s:Header><s:SpectralDistribution>{points}'
        "</s:SpectralDistribution></s:IESTM2714>"
    )
    assert same(read_spectrum(text.encode()), PLAIN)


def test_noise_below_nothing_counts_as_nothing():
    noisy = PLAIN.power.copy()
    noisy[0] = -0.004
    assert read_spectrum(rows("{nm:g},{p:.6f}", noisy)).power[0] == 0.0


@pytest.mark.parametrize(
    ("data", "sentence"),
    [
        *cases(__file__, "test_what_is_no_spectrum"),
        (rows("{nm:g},{p:g}", np.where(NM == 500, -1.0, 1.0)), r"power is -1\.0"),
        (rows("{nm:g},{p:g}", np.zeros(len(NM))), "some light"),
        (b"400,1\n" * 10_001, "up to 10,000 lines"),
        (b"<" + b"x" * 4_000_001, "accepted: up to 4,000,000"),
        (b"<a>" + b'<SpectralData wavelength="400">1</SpectralData>' * 10_001 + b"</a>", "10,001 points"),
    ],
)
def test_what_is_no_spectrum(data, sentence):
    with pytest.raises(FormatError, match=sentence):
        read_spectrum(data)


def test_a_stored_spectrum_that_is_none():
    with pytest.raises(BadValue, match="two lists of numbers"):
        spectrum_from_row(Fields({"wavelength_nm": [1, "x"], "power": [1, 2]}))
