"""Metric inside, imperial at the edge."""

from enum import StrEnum

from iron_bucket.core.arrays import Floats
from iron_bucket.core.constants import KILOGRAMS_PER_POUND, LUX_PER_FOOTCANDLE, METRES_PER_FOOT


class UnitSystem(StrEnum):
    METRIC = "metric"
    IMPERIAL = "imperial"


def lx_from_fc(illuminance_fc: Floats) -> Floats:
    """Lux from footcandles."""
    return illuminance_fc * LUX_PER_FOOTCANDLE


def fc_from_lx(illuminance_lx: Floats) -> Floats:
    """Footcandles from lux."""
    return illuminance_lx / LUX_PER_FOOTCANDLE


def m_from_ft(length_ft: Floats) -> Floats:
    """Metres from feet."""
    return length_ft * METRES_PER_FOOT


def ft_from_m(length_m: Floats) -> Floats:
    """Feet from metres."""
    return length_m / METRES_PER_FOOT


def c_from_f(temperature_f: Floats) -> Floats:
    """Degrees Celsius from Fahrenheit."""
    return (temperature_f - 32.0) / 1.8


def f_from_c(temperature_c: Floats) -> Floats:
    """Degrees Fahrenheit from Celsius."""
    return temperature_c * 1.8 + 32.0


def kg_from_lb(mass_lb: Floats) -> Floats:
    """Kilograms from pounds."""
    return mass_lb * KILOGRAMS_PER_POUND


def lb_from_kg(mass_kg: Floats) -> Floats:
    """Pounds from kilograms."""
    return mass_kg / KILOGRAMS_PER_POUND
