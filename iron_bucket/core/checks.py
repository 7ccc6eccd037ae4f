"""Guards for values: each raises BadValue with field, value and what would be accepted."""

import math
import re
from datetime import datetime

import numpy as np

from iron_bucket.core.arrays import Floats
from iron_bucket.core.errors import BadValue

LONGEST_WORD = 200


def _first_bad(values: Floats, good: np.ndarray) -> object:
    """The first offending element, as a plain number for the sentence."""
    flat = np.asarray(values, dtype=float)
    return float(np.broadcast_to(flat, good.shape)[~good].flat[0])


def require_positive(field: str, values: Floats, *, unit: str) -> None:
    """Every value finite and above 0."""
    if isinstance(values, float) and 0.0 < values < math.inf:  # most are single figures, asked by the thousand
        return
    array = np.asarray(values, dtype=float)
    good = np.isfinite(array) & (array > 0.0)
    if not good.all():
        raise BadValue(field, _first_bad(values, good), f"above 0 {unit}".rstrip())


def require_not_negative(field: str, values: Floats, *, unit: str) -> None:
    """Every value finite and 0 or above."""
    if isinstance(values, float) and 0.0 <= values < math.inf:
        return
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
        raise BadValue(field, value, f"{_plain(low)} to {_plain(high)} {unit}".rstrip())


def _plain(value: float) -> str:
    """As people write it: 2000000, not 2e+06."""
    return f"{value:.0f}" if abs(value) >= 1e6 else f"{value:g}"


#: From a candle to the bluest sky: what heads, gels and meters of this trade have to do with.
LOWEST_CCT_K, HIGHEST_CCT_K = 1000.0, 40000.0


def require_cct(field: str, value_k: float, *, low_k: float = LOWEST_CCT_K) -> None:
    """A colour temperature of the trade."""
    require_between(field, value_k, low=low_k, high=HIGHEST_CCT_K, unit="K")


#: What no page can show: control characters, halves of a character, marks that turn the reading direction of what
#: follows.
_UNSHOWABLE = re.compile(
    "[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\u200b\u2028-\u202e\u2060-\u2069\ud800-\udfff\ufeff\ufffe\uffff]"
)
_LINE_BREAKS = re.compile("[\t\n\r]")


def require_showable(field: str, text: str, *, longest: int, may_break: bool = False) -> None:
    """A text that every page can show, not longer than its place; ``may_break``: over several lines."""
    found = _UNSHOWABLE.search(text) or (None if may_break else _LINE_BREAKS.search(text))
    if found:
        raise BadValue(
            field, f"a text with the character U+{ord(found[0]):04X}", "letters, digits and signs that can be printed"
        )
    if len(text) > longest:
        raise BadValue(field, f"{len(text)} letters long", f"up to {longest} letters")


def require_word(field: str, text: str, *, longest: int = LONGEST_WORD) -> None:
    """A showable text with something in it."""
    require_showable(field, text, longest=longest)
    if not text.strip():
        raise BadValue(field, repr(text), "a name with at least one letter or digit")


def require_at_most(field: str, count: int, most: int) -> None:
    """Not more of one kind than a page can show and a machine can compute while somebody waits."""
    if count > most:
        raise BadValue(field, count, f"up to {most}")


#: Sun tables hold well beyond it; nobody plans a shoot outside.
EARLIEST, LATEST = datetime(1970, 1, 1), datetime(2200, 1, 1)


def require_time(field: str, when: datetime) -> None:
    """A day and hour that a shoot can have."""
    if not EARLIEST <= when < LATEST:
        raise BadValue(field, when.isoformat(" ", "minutes"), f"a day from {EARLIEST.year} to {LATEST.year - 1}")
