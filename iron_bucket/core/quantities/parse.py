"""What people type, read into SI: ``12'6"``, ``3.8m``, ``1/48``, ``T2.8 1/3``, ``5600``, ``640 lx``, ``1,200 fc``.

A comma or point before exactly three digits is a thousands mark where amounts are large (levels, kelvins, watts, ISO)
and a decimal mark where they are fine (metres, kilos, stops, seconds): the unit decides, without one the field. A
leading nought is always followed by decimals, and of two different marks the last one is the decimal's.
"""

import math
import re
import unicodedata
from fractions import Fraction

from iron_bucket.core.checks import HIGHEST_CCT_K, LOWEST_CCT_K
from iron_bucket.core.constants import INCHES_PER_FOOT, METRES_PER_FOOT
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities.units import UnitSystem, c_from_f, kg_from_lb, lx_from_fc

# No amount that a set knows reaches this; it keeps 1e400 and pasted rubbish out of the arithmetic.
LARGEST = 1e12
#: Nothing that is typed here is longer; what is, is not looked at letter by letter.
LONGEST = 60
#: What parts thousands beside comma and point: thin, narrow and hard spaces, a plain one, an apostrophe.
_PARTING = "\u2009\u202f\u00a0 ’'"
_NUMBER = rf"(?:\d{{1,3}}(?:[{_PARTING}]\d{{3}})+(?:[.,]\d+)?|\d[\d.,]{{0,40}}|[.,]\d+)(?:e[+-]?\d{{1,3}})?"
_GROUPED = re.compile(r"[1-9]\d{0,2}([.,])\d{3}(?:\1\d{3})*")
#: Units of which thousands are common; of all others decimals are.
_LARGE = frozenset({"", "lx", "lux", "fc", "k", "w", "wh", "va", "lm", "cd", "cm", "mm", "g"})
#: Parts of a stop as they are written, and what each is.
_PARTS = {text: float(Fraction(text)) for text in ("1/3", "2/3", "1/2", "1/4", "3/4")}
_PARTS |= {sign: unicodedata.numeric(sign) for sign in "½⅓⅔¼¾"}
_PART = "\\d{1,2}/\\d{1,2}|[½⅓⅔¼¾]"
_MIXED = rf"(?:{_PART})|{_NUMBER}(?:\s*[½⅓⅔¼¾]|\s+\d{{1,2}}/\d{{1,2}})?"
#: Densities as they are said, in tenths: ND3 is 0.3, ND12 is 1.2; ND0.6 has a point, ND64 is a factor.
_ND_TENTHS = frozenset(range(3, 31, 3))
_STOPS_OF_DENSITY = 1.0 / 0.3
_MOST_ND_STOPS = 20


def is_large(unit: str) -> bool:
    """Whether a comma or point before three digits parts thousands of that unit, or of a bare number where it is ""."""
    return unit.lower() in _LARGE


def has_thousands_mark(text: str) -> bool:
    """Whether a comma or point could be meant either way, so that what was read should be said beside it."""
    return any(_GROUPED.fullmatch(part) for part in re.findall(r"[\d.,]+", text))


def with_program_decimals(text: str) -> str:
    """A text in which a point is a decimal mark always, as programs write it: 36.618 is no 36 thousand."""
    return re.sub(r"(?<![\d.,])([1-9]\d{0,2}\.\d{3})(?![\d.,])", r"\g<1>0", text)


def _short(text: str, field: str, accepted: str) -> str:
    """What was typed, without the spaces around it."""
    plain = text.strip()
    if len(plain) > LONGEST:
        raise BadValue(field, repr(f"{plain[:24]}…"), accepted)
    return plain


def _float(digits: str, field: str, accepted: str, *, is_large: bool = False) -> float:
    plain = re.sub(f"[{_PARTING}]", "", digits)
    marks = re.findall(r"[.,]", plain)
    if len(set(marks)) > 1:
        plain = plain.replace("," if marks[-1] == "." else ".", "")
    elif marks and (is_large or len(marks) > 1) and _GROUPED.fullmatch(plain):
        plain = plain.replace(marks[0], "")
    try:
        value = float(plain.replace(",", "."))
    except ValueError:
        raise BadValue(field, repr(digits), accepted) from None
    if not math.isfinite(value) or value > LARGEST:
        raise BadValue(field, digits, accepted)
    return value


def _amount(text: str, field: str, units: dict[str, float], bare: float, accepted: str, *, own: str = "") -> float:
    """A number and perhaps a unit, times that unit's size; ``bare`` is the size without one, as if it were ``own``."""
    found = re.fullmatch(rf"({_NUMBER})\s*([a-zA-Z°%²³µ/()]*)", _short(text, field, accepted), re.IGNORECASE)
    unit = found[2].lower() if found else ""
    if not found or unit not in units | {"": bare}:
        raise BadValue(field, repr(text), accepted)
    return _float(found[1], field, accepted, is_large=is_large(unit or own)) * (units | {"": bare})[unit]


def number(text: str, field: str, unit: str = "", *, is_fine: bool = False) -> float:
    """A plain number; ``unit`` may stand behind it. ``is_fine``: its decimals count, as a table's do."""
    accepted = f"a number{' of ' + unit if unit else ''}, such as 12.5"
    return _amount(text, field, {unit.lower(): 1.0}, 1.0, accepted, own="fine" if is_fine else unit.lower())


def signed(text: str, field: str, unit: str = "", *, is_fine: bool = False) -> float:
    """The same with a sign before it, a hyphen or a true minus."""
    plain = text.strip()
    if plain[:1] in ("-", "\u2212"):
        return -number(plain[1:], field, unit, is_fine=is_fine)
    return number(plain.removeprefix("+"), field, unit, is_fine=is_fine)


def length_m(text: str, field: str, system: UnitSystem = UnitSystem.METRIC) -> float:
    """Metres from ``3.8m``, ``380 cm``, ``12'6"``, ``12 ft 6 1/2 in``, ``12 feet``, or a bare number in the user's
    system.
    """
    accepted = "a length such as 3.8 m, 12'6\" or 12 ft"
    plain = _short(text, field, accepted).replace("′", "'").replace("″", '"').replace("’", "'").replace("”", '"')
    found = re.fullmatch(
        rf"(?:(?P<feet>{_NUMBER})\s*(?:'(?!')|feet|foot|ft)\s*)?(?:(?P<inches>{_MIXED})\s*(?P<mark>\"|''|inches|inch|in)?)?",
        plain,
        re.IGNORECASE,
    )
    if found and (found["feet"] or found["mark"]) and (found["inches"] or found["feet"]):
        feet = _float(found["feet"] or "0", field, accepted)
        return (
            feet + _mixed(found["inches"] or "0", field, accepted, is_any_part=True) / INCHES_PER_FOOT
        ) * METRES_PER_FOOT
    bare = METRES_PER_FOOT if system is UnitSystem.IMPERIAL else 1.0
    return _amount(plain, field, {"m": 1.0, "cm": 0.01, "mm": 0.001}, bare, accepted, own="m")


def _mixed(text: str, field: str, accepted: str, *, is_any_part: bool = False) -> float:
    """``6``, ``6.5``, ``6 1/2``, ``½``: a number and perhaps a part, one of a stop or any."""
    found = re.fullmatch(rf"({_NUMBER})??\s*({_PART})?", text.strip())
    if not found or not (found[1] or found[2]):
        raise BadValue(field, repr(text), accepted)
    whole = _float(found[1], field, accepted) if found[1] else 0.0
    part = found[2]
    if part and part not in _PARTS:
        above, below = (int(each) for each in part.split("/"))
        if not is_any_part or not 0 < above < below:
            raise BadValue(field, repr(text), accepted)
        return whole + above / below
    return whole + (_PARTS[part] if part else 0.0)


def illuminance_lx(text: str, field: str, system: UnitSystem = UnitSystem.METRIC) -> float:
    """Lux from ``640 lx``, ``60fc``, ``1.2 klx``, or a bare number in the user's system."""
    fc = float(lx_from_fc(1.0))
    bare = fc if system is UnitSystem.IMPERIAL else 1.0
    units = {"lx": 1.0, "lux": 1.0, "klx": 1000.0, "fc": fc}
    return _amount(text, field, units, bare, "a level such as 640 lx or 60 fc", own="lx")


def mass_kg(text: str, field: str, system: UnitSystem = UnitSystem.METRIC) -> float:
    """Kilograms from ``7.5 kg``, ``16 lb``, or a bare number in the user's system."""
    lb = float(kg_from_lb(1.0))
    bare = lb if system is UnitSystem.IMPERIAL else 1.0
    return _amount(
        text, field, {"kg": 1.0, "g": 0.001, "lb": lb, "lbs": lb}, bare, "a weight such as 7.5 kg or 16 lb", own="kg"
    )


def temperature_c(text: str, field: str, system: UnitSystem = UnitSystem.METRIC) -> float:
    """Degrees Celsius from ``4 °C``, ``-3``, ``39 F``, or a bare number in the user's system."""
    plain = _short(text, field, "a temperature such as 4 °C or 39 F")
    found = re.fullmatch(r"(.*?)\s*(?:°|deg)?\s*([cf]?)", plain, re.IGNORECASE)
    value = signed(found[1] if found else text, field, "degrees", is_fine=True)
    is_fahrenheit = found[2].lower() == "f" if found and found[2] else system is UnitSystem.IMPERIAL
    return float(c_from_f(value)) if is_fahrenheit else value


def cct_k(text: str, field: str) -> float:
    """Kelvins from ``5600``, ``5600 K`` or ``5.6kK``; 1000 to 40 000."""
    accepted = f"a colour temperature from {LOWEST_CCT_K:g} to {HIGHEST_CCT_K:g} K"
    value = _amount(text, field, {"k": 1.0, "kk": 1000.0}, 1.0, accepted, own="k")
    if not LOWEST_CCT_K <= value <= HIGHEST_CCT_K:
        raise BadValue(field, repr(text), accepted)
    return value


def shutter_s(text: str, field: str) -> float:
    """Exposure time in seconds from ``1/48``, ``1/1,000 s``, ``0.02 s``, ``20 ms``, or ``48`` for a forty-eighth."""
    accepted = "an exposure time such as 1/48 or 0.02 s"
    over = re.fullmatch(rf"(?:1\s*/\s*)?({_NUMBER})(?<=\d)(\s*s)?", _short(text, field, accepted), re.IGNORECASE)
    is_below = over is not None and ("/" in text or (not over[2] and over[1].replace(",", "").isdigit()))
    if over and is_below:
        # 1/1.000 is a thousandth, but 1/47.952 what 180 degrees are at 23.976 frames: no shutter is that fast.
        is_thousands = re.fullmatch(r"\d{2,3}\.\d{3}", over[1]) is None
        below = _float(over[1], field, accepted, is_large=is_thousands)
        if below <= 0.0:
            raise BadValue(field, repr(text), accepted)
        return 1.0 / below
    value = _amount(text, field, {"s": 1.0, "ms": 0.001}, 1.0, accepted, own="s")
    if value <= 0.0:
        raise BadValue(field, repr(text), accepted)
    return value


def t_stop(text: str, field: str) -> float:
    """The T or f number from ``2.8``, ``T2.8``, ``f/4`` or ``T2.8 1/3`` (a third of a stop smaller)."""
    accepted = "a stop such as T2.8, f/4 or T2.8 1/3"
    found = re.fullmatch(
        rf"(?:[tf]\s*/?\s*)?({_NUMBER})(?:\s*(?:\+|\s)\s*(\d/\d|[½⅓⅔¼¾])|([½⅓⅔¼¾]))?",
        _short(text, field, accepted),
        re.I,
    )
    if not found:
        raise BadValue(field, repr(text), accepted)
    part = found[2] or found[3]
    if part and part not in _PARTS:
        raise BadValue(field, repr(text), accepted)
    value = _float(found[1], field, accepted)
    if value <= 0.0:
        raise BadValue(field, repr(text), accepted)
    return float(value * 2.0 ** ((_PARTS[part] if part else 0.0) / 2.0))


def stops(text: str, field: str) -> float:
    """Stops from ``1``, ``1 1/3``, ``1½``, ``6 stops``, and of ND by how it is written.

    With a point it is a density (``ND0.6``), a multiple of three is one in tenths (``ND6``), a power of two from four
    on is a factor (``ND64``, ``ND1000``).
    """
    accepted = "stops such as 1 or 1 1/3; ND as a density (ND0.6), in tenths of it (ND6) or as a factor (ND64)"
    plain = _short(text, field, accepted)
    density = re.fullmatch(rf"nd\s*({_NUMBER})", plain, re.IGNORECASE)
    if density:
        return _nd_stops(density[1], field, accepted)
    found = re.fullmatch(rf"({_MIXED})(?:\s*stops?)?", plain, re.IGNORECASE)
    if not found:
        raise BadValue(field, repr(text), accepted)
    return _mixed(found[1], field, accepted)


def signed_stops(text: str, field: str) -> float:
    """Stops to either side, such as ``-1``, ``+1/3``, ``−1½ stops``; of ND as above."""
    plain = text.strip()
    rest = plain[1:].strip() if plain[:1] in ("-", "\u2212", "+") else plain
    bare = re.fullmatch(rf"({_NUMBER})(?:\s*stops?)?", rest, re.IGNORECASE)
    try:
        value = number(bare[1], field, is_fine=True) if bare else stops(rest, field)
    except BadValue:
        raise BadValue(field, repr(text), "stops such as -1, 0.5 or 1 1/3") from None
    return -value if plain[:1] in ("-", "\u2212") else value


def _nd_stops(digits: str, field: str, accepted: str) -> float:
    if re.search(r"[.,]\d", digits) and not _GROUPED.fullmatch(digits):
        return _float(digits, field, accepted) * _STOPS_OF_DENSITY
    value = _float(digits, field, accepted, is_large=True)
    if value in _ND_TENTHS:
        return value / 10.0 * _STOPS_OF_DENSITY
    exact = math.log2(value) if value > 1.0 else 0.0
    whole = round(exact)
    if 1 < whole <= _MOST_ND_STOPS and value in (2**whole, 1000.0):  # ND2 could be either
        return float(whole)
    raise BadValue(field, repr(f"ND{digits}"), accepted)


def hours(text: str, field: str) -> float:
    """Hours from ``2``, ``2.5 h``, ``2h30``, ``2:30`` or ``90 min``."""
    accepted = "a time such as 2 h, 2h30 or 90 min"
    split = re.fullmatch(r"(\d{1,4})\s*(?:h|:)\s*(\d{1,2})(?:\s*min)?", _short(text, field, accepted))
    if split and int(split[2]) < 60:
        return int(split[1]) + int(split[2]) / 60
    return _amount(text, field, {"h": 1.0, "min": 1 / 60}, 1.0, accepted, own="h")
