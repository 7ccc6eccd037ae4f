"""Guards for values: each raises BadValue with field, value and what would be accepted."""

import math

import numpy as np

from iron_bucket.core.arrays import Floats
from iron_bucket.core.errors import BadValue


def _first_bad(values: Floats, good: np.ndarray) -> object:
    """The first offending element, as a plain number for the sentence."""
    flat = np.asarray(values, dtype=float)
    return float(np.broadcast_to(flat, good.shape)[~good].flat[0])


def require_positive(field: str, values: Floats, *, unit: str) -> None:
    """Every value finite and above 0."""
    array = np.asarray(values, dtype=float)
    good = np.isfinite(array) & (array > 0.0)
    if not good.all():
        raise BadValue(field, _first_bad(values, good), f"above 0 {unit}".rstrip())


def require_not_negative(field: str, values: Floats, *, unit: str) -> None:
    """Every value finite and 0 or above."""
    array = np.asarray(values, dtype=float)
    good = np.isfinite(array) & (array >= 0.0)
    if not good.all():
        raise BadValue(field, _first_bad(values, good), f"0 {unit} or more".replace("0  ", "0 "))


def require_share(field: str, value: float) -> None:
    """A share between 0 and 1, both included."""
    if not (math.isfinite(value) and 0.0 <= value <= 1.0):
        raise BadValue(field, value, "a share from 0 to 1")


def require_between(field: str, value: float, *, low: float, high: float, unit: str) -> None:
    """A finite value from ``low`` to ``high``, both included."""
    if not (math.isfinite(value) and low <= value <= high):
        raise BadValue(field, value, f"{low:g} to {high:g} {unit}".rstrip())


def require_word(field: str, text: str) -> None:
    """A text with something in it."""
    if not text.strip():
        raise BadValue(field, repr(text), "a name with at least one letter or digit")
