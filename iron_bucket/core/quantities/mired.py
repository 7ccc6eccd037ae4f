"""Mired: colour temperature on the scale on which filters add."""

from iron_bucket.core.arrays import Floats
from iron_bucket.core.checks import require_positive
from iron_bucket.core.errors import NoAnswer

#: 50,000 K: what lies beyond is not told apart from it.
BLUEST_MIRED = 20.0


def mired_from_k(cct_k: Floats) -> Floats:
    """Reciprocal megakelvins. Source: M = 10^6 / K."""
    require_positive("cct_k", cct_k, unit="K")
    return 1e6 / cct_k


def k_from_mired(mired: Floats) -> Floats:
    """Kelvins from mired."""
    require_positive("mired", mired, unit="mired")
    return 1e6 / mired


def seen_k(mired: float) -> float:
    """Kelvins that a screen shows of a light whose filters may have pushed it bluer than any colour temperature: the
    bluest then.
    """
    return float(k_from_mired(max(mired, BLUEST_MIRED)))


def shift_mired(*, from_k: Floats, to_k: Floats) -> Floats:
    """The shift a filter must make; positive is warmer."""
    return mired_from_k(to_k) - mired_from_k(from_k)


def shifted_k(cct_k: float, shift: float) -> float:
    """Colour temperature behind a filter of ``shift`` mired.

    Raises: NoAnswer where the shift is bluer than any colour temperature.
    """
    mired = float(mired_from_k(cct_k)) + shift
    if mired <= 0.0:
        raise NoAnswer(f"{shift:g} mired on {cct_k:g} K is bluer than any colour temperature")
    return float(k_from_mired(mired))
