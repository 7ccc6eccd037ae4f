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

NM = np.arange(400.0, 701.0, 5.0)
PLAIN = Spectrum(wavelength_nm=NM, power=np.linspace(0.1, 1.0, len(NM)))


def rows(line: str, powers=PLAIN.power) -> bytes:
    return "\n".join(line.format(nm=nm, p=p) for nm, p in zip(NM, powers, strict=True)).encode()


def same(one: Spectrum, other: Spectrum) -> bool:
    return np.allclose(one.wavelength_nm, other.wavelength_nm) and np.allclose(one.power, other.power, rtol=1e-9)


@pytest.mark.parametrize(
    "data",
    [
        pytest.param(rows("{nm:.1f},{p:.12g}"), id="commas"),
        pytest.param(rows("{nm:.0f};{p:.12f}").replace(b".", b","), id="semicolons and decimal commas"),
        pytest.param(b"# a meter\nWavelength [nm]\tW/nm\n" + rows("{nm:g}\t{p:.12e}"), id="tabs, headings, a remark"),
        pytest.param(rows("{nm:g}   {p:.12g}\r"), id="spaces"),
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
        (b"", "the file is empty"),
        (b"nm,power\n", "no two lines of wavelength and power"),
        (b"400,1\n", "no two lines"),
        (b"400,1\n410,2\nend\n", "line 3: 'end' is no wavelength"),
        (rows("{nm:g},{p:g}", np.where(NM == 500, -1.0, 1.0)), r"power is -1\.0"),
        (rows("{nm:g},{p:g}", np.zeros(len(NM))), "some light"),
        (b"500,1\n400,1\n600,1", "rising wavelengths"),
        (b"400,1e999\n410,1", "too large for a number"),
        (b"4.0.0,1\n5,1", "no wavelength with a power"),
        (b"400,1\n" * 10_001, "up to 10,000 lines"),
        (b"\x00\x01\x02", "binary"),
        (b"<a><b></a>", "no well-formed XML"),
        (b"<a/>", "there is no SpectralData"),
        (b'<a><SpectralData wavelength="x">1</SpectralData></a>', "a wavelength is 'x'"),
        (b'<a><SpectralData wavelength="400"/></a>', "a power is ''"),
        (b'<a><SpectralData wavelength="400">nan</SpectralData></a>', "number of this world"),
        (b'<!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>', "entities or an encoding"),
        (b'<?xml version="1.0" encoding="wonderland"?><a/>', "no well-formed XML|encoding"),
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
