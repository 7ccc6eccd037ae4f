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


def split_neutral_a(leg_a: float, leg_b: float) -> float:
    """Amps in the neutral of two legs that stand against each other. Source: In = |a - b|."""
    return abs(leg_a - leg_b)


def neutral_with_harmonics_a(legs_a: tuple[float, ...], harmonics_a: tuple[float, ...]) -> float:
    """The same with the third harmonic of electronic loads, ``harmonics_a`` of each leg within ``legs_a``: from three
    legs it adds up in the neutral, from two it falls away as far as they are alike.

    Source: rms of a sum of frequencies; harmonics of the order of three are in step on all three legs.
    """
    plain = [math.sqrt(max(leg**2 - part**2, 0.0)) for leg, part in zip(legs_a, harmonics_a, strict=True)]
    if len(plain) == 3:
        return math.hypot(neutral_a(*plain), sum(harmonics_a))
    return math.hypot(split_neutral_a(*plain), split_neutral_a(*harmonics_a))


def harmonic_a(amps: float, share: float) -> float:
    """The third harmonic within an rms current, where it is a share of the fundamental."""
    return amps * share / math.hypot(1.0, share)


def imbalance_share(*legs_a: float) -> float:
    """How far the fullest leg lies above the mean, over the mean; 0 where nothing is drawn."""
    mean = sum(legs_a) / len(legs_a)
    return (max(legs_a) - mean) / mean if mean else 0.0
