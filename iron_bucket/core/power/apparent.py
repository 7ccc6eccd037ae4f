"""Watts, volt-amperes and amps of a supply: the one place where one becomes the other."""

from iron_bucket.core.arrays import Floats


def va_from_w(watts: Floats, power_factor: Floats) -> Floats:
    """Apparent power of real watts. Shapes broadcast. Source: VA = W / PF."""
    return watts / power_factor


def a_from_va(draw_va: Floats, voltage_v: float) -> Floats:
    """Amps of apparent power on a supply. Source: A = VA / V."""
    return draw_va / voltage_v
