"""A spectrum as the IES TM-27 XML form, in and out.

Source: IES TM-27-14 and -20, standard format for the electronic transfer of spectral data.
"""

from xml.etree.ElementTree import Element, ParseError, SubElement, indent, tostring

from defusedxml.common import DefusedXmlException
from defusedxml.ElementTree import fromstring

from iron_bucket.core.colour.spectrum import Spectrum
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.spectrum_csv import spectrum_of
from iron_bucket.formats.text_file import FILE_LIMIT_BYTES, shown

WHAT = "TM-27 spectrum"
_NAMESPACE = "iestm2714"
MOST_POINTS = 10_000


def is_tm27(data: bytes) -> bool:
    """Whether it looks like XML at all."""
    return data.lstrip(b"\xef\xbb\xbf \t\r\n").startswith(b"<")


def read_tm27(data: bytes) -> Spectrum:
    """A spectrum; name spaces and header are looked over. Raises: FormatError, also for XML that plays tricks."""
    if len(data) > FILE_LIMIT_BYTES:
        raise FormatError(WHAT, None, f"the file has {len(data):,} bytes; accepted: up to {FILE_LIMIT_BYTES:,}")
    try:
        root = fromstring(data, forbid_dtd=True)
    except ParseError as bad:
        raise FormatError(WHAT, bad.position[0], f"this is no well-formed XML ({str(bad).split(':')[0]})") from bad
    except (DefusedXmlException, ValueError, LookupError) as bad:
        raise FormatError(WHAT, None, "the XML holds entities or an encoding that are not accepted") from bad
    points = [each for each in root.iter() if _name(each) == "SpectralData"]
    if not points:
        raise FormatError(WHAT, None, "there is no SpectralData in it")
    if len(points) > MOST_POINTS:
        raise FormatError(WHAT, None, f"{len(points):,} points; accepted: up to {MOST_POINTS:,}")
    return spectrum_of(
        [(_number(each.get("wavelength"), "wavelength"), _number(each.text, "power")) for each in points]
    )


def _name(element: Element) -> str:
    return str(element.tag).rpartition("}")[2]


def _number(text: str | None, what: str) -> float:
    try:
        value = float((text or "").strip())
    except ValueError:
        raise FormatError(WHAT, None, f"a {what} is {shown((text or '').strip())}; accepted: a number") from None
    if not abs(value) <= 1e300:
        raise FormatError(WHAT, None, f"a {what} is {value:g}; accepted: a number of this world")
    return value


def write_tm27(spectrum: Spectrum, name: str) -> bytes:
    """The spectrum as relative power, with its name for a description."""
    root = Element("IESTM2714", {"xmlns": _NAMESPACE, "version": "1.0"})
    header = SubElement(root, "Header")
    for tag, text in (
        ("Description", name),
        ("DocumentCreator", "Iron Bucket"),
        ("UniqueIdentifier", ""),
        ("Comments", ""),
    ):
        SubElement(header, tag).text = text
    body = SubElement(root, "SpectralDistribution")
    SubElement(body, "SpectralQuantity").text = "relative"
    for nm, power in zip(spectrum.wavelength_nm, spectrum.power, strict=True):
        SubElement(body, "SpectralData", {"wavelength": f"{nm:.10g}"}).text = f"{power:.10g}"
    indent(root)
    body_text: bytes = tostring(root, encoding="utf-8")
    return b'<?xml version="1.0" encoding="UTF-8"?>\n' + body_text + b"\n"
