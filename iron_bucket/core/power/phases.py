"""Three legs and their neutral."""

import math

from iron_bucket.core.checks import require_not_negative


def neutral_a(leg_a: float, leg_b: float, leg_c: float) -> float:
    """Amps in the neutral of resistive loads, leg to neutral. Electronic loads add harmonics that this leaves out.

    Source: In = sqrt(a^2 + b^2 + c^2 - ab - bc - ca).
    """
    for field, amps in (("leg_a", leg_a), ("leg_b", leg_b), ("leg_c", leg_c)):
        require_not_negative(field, amps, unit="A")
    squared = leg_a**2 + leg_b**2 + leg_c**2 - leg_a * leg_b - leg_b * leg_c - leg_c * leg_a
    return math.sqrt(max(0.0, squared))  # equal legs may leave -1e-15


def imbalance_share(leg_a: float, leg_b: float, leg_c: float) -> float:
    """How far the fullest leg lies above the mean, over the mean; 0 where nothing is drawn."""
    legs = (leg_a, leg_b, leg_c)
    mean = sum(legs) / 3.0
    return (max(legs) - mean) / mean if mean else 0.0
