"""A filament on a dimmer: output, colour and watts all follow the voltage.

Source: the trade's exponents (docs/craft.md, section 5): flux ~ V^3.4, CCT ~ V^0.42, watts ~ V^1.6; the life of a
globe ~ V^-13, typical.
"""

from iron_bucket.core.arrays import Floats
from iron_bucket.core.checks import require_not_negative, require_positive

FLUX_EXPONENT, CCT_EXPONENT, WATTS_EXPONENT, LIFE_EXPONENT = 3.4, 0.42, 1.6, -13.0


def flux_share(voltage_share: Floats) -> Floats:
    """Output at a share of the rated voltage."""
    require_not_negative("voltage_share", voltage_share, unit="of the rated voltage")
    return voltage_share**FLUX_EXPONENT


def cct_share(voltage_share: Floats) -> Floats:
    """Colour temperature at a share of the rated voltage, as a share of the rated one."""
    require_not_negative("voltage_share", voltage_share, unit="of the rated voltage")
    return voltage_share**CCT_EXPONENT


def watts_share(voltage_share: Floats) -> Floats:
    """Watts drawn at a share of the rated voltage."""
    require_not_negative("voltage_share", voltage_share, unit="of the rated voltage")
    return voltage_share**WATTS_EXPONENT


def life_share(voltage_share: Floats) -> Floats:
    """How many times its rated life a globe lasts at a share of the rated voltage."""
    require_positive("voltage_share", voltage_share, unit="of the rated voltage")
    return voltage_share**LIFE_EXPONENT


def voltage_share_for_flux(flux: Floats) -> Floats:
    """The voltage share that gives a share of the output."""
    require_not_negative("flux", flux, unit="of the full output")
    return flux ** (1.0 / FLUX_EXPONENT)


def voltage_share_for_cct(wanted_k: float, *, rated_k: float) -> float:
    """The voltage share at which a filament reaches a colour temperature."""
    require_positive("wanted_k", wanted_k, unit="K")
    require_positive("rated_k", rated_k, unit="K")
    return float((wanted_k / rated_k) ** (1.0 / CCT_EXPONENT))
