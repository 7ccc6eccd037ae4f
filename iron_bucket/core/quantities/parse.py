"""What people type, read into SI: ``12'6"``, ``3.8m``, ``1/48``, ``T2.8 1/3``, ``5600``, ``640 lx``, ``60fc``."""

import math
import re
import unicodedata
from fractions import Fraction

from iron_bucket.core.checks import HIGHEST_CCT_K, LOWEST_CCT_K
from iron_bucket.core.constants import INCHES_PER_FOOT, METRES_PER_FOOT
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities.units import UnitSystem, kg_from_lb, lx_from_fc

# No amount that a set knows reaches this; it keeps 1e400 and pasted rubbish out of the arithmetic.
LARGEST = 1e12
_NUMBER = r"(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:e[+-]?\d{1,3})?"
#: Parts of a stop as they are written, and what each is.
_PARTS = {text: float(Fraction(text)) for text in ("1/3", "2/3", "1/2", "1/4", "3/4")}
_PARTS |= {sign: unicodedata.numeric(sign) for sign in "½⅓⅔¼¾"}


def _float(digits: str, field: str, accepted: str) -> float:
    value = float(digits.replace(",", "."))
    if not math.isfinite(value) or value > LARGEST:
        raise BadValue(field, digits, accepted)
    return value


def _amount(text: str, field: str, units: dict[str, float], bare: float, accepted: str) -> float:
    """A number and perhaps a unit, times that unit's size; ``bare`` is the size without one."""
    found = re.fullmatch(rf"({_NUMBER})\s*([a-zA-Z°%²³µ/()]*)", text.strip(), re.IGNORECASE)
    if not found or found[2].lower() not in units | {"": bare}:
        raise BadValue(field, repr(text), accepted)
    return _float(found[1], field, accepted) * (units | {"": bare})[found[2].lower()]


def number(text: str, field: str, unit: str = "") -> float:
    """A plain number, point or comma; ``unit`` may stand behind it."""
    return _amount(text, field, {unit.lower(): 1.0}, 1.0, f"a number{' of ' + unit if unit else ''}, such as 12.5")


def signed(text: str, field: str, unit: str = "") -> float:
    """The same with a sign before it, a hyphen or a true minus."""
    plain = text.strip()
    if plain[:1] in ("-", "\u2212"):
        return -number(plain[1:], field, unit)
    return number(plain.removeprefix("+"), field, unit)


def length_m(text: str, field: str, system: UnitSystem = UnitSystem.METRIC) -> float:
    """Metres from ``3.8m``, ``380 cm``, ``12'6"``, ``12 ft``, or a bare number in the user's system."""
    accepted = "a length such as 3.8 m, 12'6\" or 12 ft"
    plain = text.strip().replace("′", "'").replace("″", '"').replace("’", "'").replace("”", '"')
    feet_inches = re.fullmatch(rf"(?:({_NUMBER})\s*(?:'|ft)\s*)?(?:({_NUMBER})\s*(?:\"|''|in)?)?", plain)
    if feet_inches and feet_inches[0] and re.search(r"'|ft|\"|in", plain):
        feet = _float(feet_inches[1] or "0", field, accepted)
        inches = _float(feet_inches[2] or "0", field, accepted)
        return (feet + inches / INCHES_PER_FOOT) * METRES_PER_FOOT
    bare = METRES_PER_FOOT if system is UnitSystem.IMPERIAL else 1.0
    return _amount(plain, field, {"m": 1.0, "cm": 0.01, "mm": 0.001}, bare, accepted)


def illuminance_lx(text: str, field: str, system: UnitSystem = UnitSystem.METRIC) -> float:
    """Lux from ``640 lx``, ``60fc``, ``1.2 klx``, or a bare number in the user's system."""
    fc = float(lx_from_fc(1.0))
    bare = fc if system is UnitSystem.IMPERIAL else 1.0
    units = {"lx": 1.0, "lux": 1.0, "klx": 1000.0, "fc": fc}
    return _amount(text, field, units, bare, "a level such as 640 lx or 60 fc")


def mass_kg(text: str, field: str, system: UnitSystem = UnitSystem.METRIC) -> float:
    """Kilograms from ``7.5 kg``, ``16 lb``, or a bare number in the user's system."""
    lb = float(kg_from_lb(1.0))
    bare = lb if system is UnitSystem.IMPERIAL else 1.0
    return _amount(text, field, {"kg": 1.0, "g": 0.001, "lb": lb, "lbs": lb}, bare, "a weight such as 7.5 kg or 16 lb")


def cct_k(text: str, field: str) -> float:
    """Kelvins from ``5600``, ``5600 K`` or ``5.6kK``; 1000 to 40 000."""
    accepted = f"a colour temperature from {LOWEST_CCT_K:g} to {HIGHEST_CCT_K:g} K"
    value = _amount(text, field, {"k": 1.0, "kk": 1000.0}, 1.0, accepted)
    if not LOWEST_CCT_K <= value <= HIGHEST_CCT_K:
        raise BadValue(field, repr(text), accepted)
    return value


def shutter_s(text: str, field: str) -> float:
    """Exposure time in seconds from ``1/48``, ``1/48 s``, ``0.02 s`` or ``20 ms``."""
    accepted = "an exposure time such as 1/48 or 0.02 s"
    over = re.fullmatch(rf"1\s*/\s*({_NUMBER})\s*s?", text.strip())
    if over:
        below = _float(over[1], field, accepted)
        if below <= 0.0:
            raise BadValue(field, repr(text), accepted)
        return 1.0 / below
    value = _amount(text, field, {"s": 1.0, "ms": 0.001}, 1.0, accepted)
    if value <= 0.0:
        raise BadValue(field, repr(text), accepted)
    return value


def t_stop(text: str, field: str) -> float:
    """The T or f number from ``2.8``, ``T2.8``, ``f/4`` or ``T2.8 1/3`` (a third of a stop smaller)."""
    accepted = "a stop such as T2.8, f/4 or T2.8 1/3"
    found = re.fullmatch(
        rf"(?:[tf]\s*/?\s*)?({_NUMBER})(?:\s*(?:\+|\s)\s*(\d/\d|[½⅓⅔¼¾])|([½⅓⅔¼¾]))?", text.strip(), re.I
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
    """Stops from ``1``, ``1 1/3``, ``1½``, ``½`` or ``ND0.6`` (a density)."""
    accepted = "stops such as 1, 1 1/3 or ND0.6"
    plain = text.strip()
    density = re.fullmatch(rf"nd\s*({_NUMBER})", plain, re.IGNORECASE)
    if density:
        return _float(density[1], field, accepted) / 0.3
    found = re.fullmatch(rf"({_NUMBER})?\s*(\d/\d|[½⅓⅔¼¾])?(?:\s*stops?)?", plain)
    if not found or not (found[1] or found[2]) or (found[2] and found[2] not in _PARTS):
        raise BadValue(field, repr(text), accepted)
    return _float(found[1] or "0", field, accepted) + (_PARTS[found[2]] if found[2] else 0.0)


def hours(text: str, field: str) -> float:
    """Hours from ``2``, ``2.5 h``, ``2h30``, ``2:30`` or ``90 min``."""
    accepted = "a time such as 2 h, 2h30 or 90 min"
    split = re.fullmatch(r"(\d{1,4})\s*(?:h|:)\s*(\d{1,2})(?:\s*min)?", text.strip())
    if split and int(split[2]) < 60:
        return int(split[1]) + int(split[2]) / 60
    return _amount(text, field, {"h": 1.0, "min": 1 / 60}, 1.0, accepted)
