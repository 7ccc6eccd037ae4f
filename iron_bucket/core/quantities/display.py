"""Figures as the crew reads them, in the user's system.

Value and unit come apart so that a page can set them in two sizes.
"""

from typing import NamedTuple

from iron_bucket.core.constants import FEET_PER_MILE, INCHES_PER_FOOT
from iron_bucket.core.quantities.rounding import whole_down
from iron_bucket.core.quantities.units import UnitSystem, f_from_c, fc_from_lx, ft_from_m, lb_from_kg


class Displayed(NamedTuple):
    """A figure ready to be set: the number large, the unit small."""

    value: str
    unit: str

    def __str__(self) -> str:
        """Both on one line; feet and inches carry their own marks."""
        return f"{self.value} {self.unit}".strip()


def _digits(value: float) -> str:
    """Three significant figures for small numbers, whole ones with thin groups for large."""
    text = f"{float(f'{value:.3g}'):,.3f}".replace(",", "\u202f")
    return text.rstrip("0").rstrip(".")


def illuminance(illuminance_lx: float, system: UnitSystem = UnitSystem.METRIC) -> Displayed:
    """A level: lux, or footcandles."""
    if system is UnitSystem.IMPERIAL:
        return Displayed(_digits(float(fc_from_lx(illuminance_lx))), "fc")
    return Displayed(_digits(illuminance_lx), "lx")


def signed(value: float, digits: int = 0) -> str:
    """With its sign; of what rounds to nothing none."""
    text = f"{abs(value):.{digits}f}"
    if not float(text):
        return text
    return ("+" if value > 0.0 else "−") + text


def length(length_m: float, system: UnitSystem = UnitSystem.METRIC) -> Displayed:
    """A distance: metres to the centimetre below ten, or feet and whole inches."""
    if system is UnitSystem.IMPERIAL:
        inches = round(float(ft_from_m(length_m)) * INCHES_PER_FOOT)
        feet, rest = divmod(inches, INCHES_PER_FOOT)
        return Displayed(f"{feet}'{rest}\"" if feet else f'{rest}"', "")
    return Displayed(f"{length_m:.2f}".rstrip("0").ljust(3, "0") if length_m < 10 else f"{length_m:.1f}", "m")


def distance(length_m: float, system: UnitSystem = UnitSystem.METRIC) -> Displayed:
    """A length in a formula, where feet stand with decimals; three significant figures."""
    if system is UnitSystem.IMPERIAL:
        return Displayed(f"{float(ft_from_m(length_m)):.3g}", "ft")
    return Displayed(f"{length_m:.3g}", "m")


def area(area_m2: float, system: UnitSystem = UnitSystem.METRIC) -> Displayed:
    """Of a sail: a decimal of square metres, or whole square feet."""
    if system is UnitSystem.IMPERIAL:
        return Displayed(f"{float(ft_from_m(ft_from_m(area_m2))):.0f}", "ft²")
    return Displayed(f"{area_m2:.1f}", "m²")


def wind(speed_m_s: float, system: UnitSystem = UnitSystem.METRIC) -> Displayed:
    """Metres a second, or whole miles an hour."""
    if system is UnitSystem.IMPERIAL:
        return Displayed(f"{float(ft_from_m(speed_m_s)) * 3600.0 / FEET_PER_MILE:.0f}", "mph")
    return Displayed(f"{speed_m_s:.1f}", "m/s")


def rain(rain_mm_h: float, system: UnitSystem = UnitSystem.METRIC) -> Displayed:
    """What falls in an hour: millimetres, or hundredths of an inch."""
    if system is UnitSystem.IMPERIAL:
        return Displayed(f"{float(ft_from_m(rain_mm_h / 1000.0)) * INCHES_PER_FOOT:.2f}", "in of rain an hour")
    return Displayed(f"{rain_mm_h:.1f}", "mm of rain an hour")


def temperature(temperature_c: float, system: UnitSystem = UnitSystem.METRIC) -> Displayed:
    """Degrees, to a tenth where there is one."""
    value, unit = (float(f_from_c(temperature_c)), "°F") if system is UnitSystem.IMPERIAL else (temperature_c, "°C")
    return Displayed(f"{round(value, 1):g}".replace("-", "\u2212"), unit)


def mass(mass_kg: float, system: UnitSystem = UnitSystem.METRIC) -> Displayed:
    """A weight: kilograms or pounds, one decimal below a hundred, two below a tenth."""
    value, unit = (float(lb_from_kg(mass_kg)), "lb") if system is UnitSystem.IMPERIAL else (mass_kg, "kg")
    places = 0 if value >= 99.95 else 1 if value >= 0.095 else 2
    return Displayed(f"{value:.{places}f}", unit)


def stops(value: float, *, signed: bool = True) -> Displayed:
    """Stops to a tenth, with a true minus sign."""
    rounded = round(value, 1)
    sign = "\u2212" if rounded < 0 else "+" if signed and rounded > 0 else ""
    return Displayed(f"{sign}{abs(rounded):.1f}", "stop" if abs(rounded) <= 1.0 else "stops")


def fine_stops(value: float) -> Displayed:
    """Stops to a hundredth, signed: what a residual is told in."""
    rounded = round(value, 2)
    sign = "\u2212" if rounded < 0 else "+" if rounded > 0 else ""
    return Displayed(f"{sign}{abs(rounded):.2f}", "")


def ratio(value: float) -> Displayed:
    """A ratio of two lights with the larger first named: ``3.2 : 1``, and ``1 : 3.3`` where the second is larger."""
    return Displayed(f"{value:.1f} : 1" if value >= 1.0 else f"1 : {1.0 / value:.1f}", "")


def mired_shift(value_mired: float) -> Displayed:
    """A shift in whole mired, signed with a true minus sign: positive is warmer."""
    rounded = round(value_mired)
    sign = "\u2212" if rounded < 0 else "+" if rounded > 0 else ""
    return Displayed(f"{sign}{abs(rounded)}", "mired")


def hours(value_h: float) -> Displayed:
    """A duration as hours and minutes, ``1 h 10``; rounded down, because it goes dark early rather than late."""
    minutes = whole_down(value_h * 60)
    whole, rest = divmod(minutes, 60)
    return Displayed(f"{whole} h {rest:02d}" if whole else f"{rest} min", "")


def wait(value_s: float) -> Displayed:
    """How long something lasts until it happens: seconds, minutes from two on, hours from two on."""
    for unit, seconds in (("h", 3600.0), ("min", 60.0)):
        if value_s >= 2.0 * seconds:
            return Displayed(f"{value_s / seconds:.0f}", unit)
    return Displayed(f"{value_s:.0f}" if value_s >= 1.0 else f"{value_s:.1f}", "s")


def share(value: float) -> Displayed:
    """A share as whole percent; below ten percent one decimal, because a lamp at 1 % is not one at 1.4 %."""
    percent = value * 100
    return Displayed(f"{percent:.1f}" if percent < 9.95 else f"{percent:.0f}", "%")


def plain(value: float, unit: str) -> Displayed:
    """Any other figure, three significant digits."""
    return Displayed(_digits(value), unit)
