"""Typed reading of flat rows, from JSON objects or CSV lines: each key named, each value checked, unknown keys
refused.
"""

import math
from collections.abc import Mapping
from enum import StrEnum
from typing import TypeVar

from iron_bucket.core.checks import require_showable
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Figure, Origin

Word = TypeVar("Word", bound=StrEnum)
Value = object
#: Longer than any text that a page asks for; each has its own bound besides.
LONGEST_TEXT = 20_000
_YES = {"yes": True, "true": True, "no": False, "false": False, "": False}


class Fields:
    """One row. Every read key is remembered, so that ``done`` can name the ones that mean nothing."""

    def __init__(self, row: Mapping[str, Value]) -> None:
        if not isinstance(row, Mapping):
            raise BadValue("entry", repr(row), "an object with named values")
        self._row = row
        self._read: set[str] = set()

    def _get(self, key: str) -> Value:
        self._read.add(key)
        value = self._row.get(key)
        return value.strip() if isinstance(value, str) else value

    def has(self, key: str) -> bool:
        """Whether the key is there with a value."""
        return self._get(key) not in (None, "")

    def word(self, key: str, default: str | None = None) -> str:
        """A text; one letter at least where there is no default."""
        value = self._get(key)
        if value in (None, ""):
            if default is None:
                raise BadValue(key, "missing", "a text")
            return default
        if not isinstance(value, str):
            raise BadValue(key, repr(value), "a text")
        require_showable(key, value, longest=LONGEST_TEXT, may_break=True)
        return value

    def choice(self, key: str, kind: type[Word], default: Word | None = None) -> Word:
        """One of a fixed set of words."""
        value = self.word(key, default.value if default else None)
        try:
            return kind(value)
        except ValueError:
            raise BadValue(key, repr(value), "one of " + ", ".join(each.value for each in kind)) from None

    def number(self, key: str, default: float | None = None) -> float:
        """A finite number, from a JSON number or a CSV text."""
        value = self._get(key)
        if value in (None, "") and default is not None:
            return default
        if isinstance(value, bool) or not isinstance(value, (int, float, str)):
            raise BadValue(key, "missing" if value is None else repr(value), "a number")
        try:
            number = float(value)
        except (ValueError, OverflowError):
            raise BadValue(key, repr(value), "a number") from None
        if not math.isfinite(number):
            raise BadValue(key, repr(value), "a number of this world")
        return number

    def perhaps(self, key: str) -> float | None:
        """A number, or None where there is none."""
        return self.number(key) if self.has(key) else None

    def whole(self, key: str, default: int | None = None) -> int:
        """A whole number."""
        value = self.number(key, default)
        if value != int(value):
            raise BadValue(key, value, "a whole number")
        return int(value)

    def yes(self, key: str, default: bool = False) -> bool:
        """True or false; yes or no in CSV."""
        value = self._get(key)
        if value is None:
            return default
        if isinstance(value, bool):
            return value
        if isinstance(value, str) and value.lower() in _YES:
            return _YES[value.lower()]
        raise BadValue(key, repr(value), "true or false")

    def figure(self, key: str) -> Figure:
        """A number under ``key`` and its origin under ``key_origin``."""
        return Figure(value=self.number(key), origin=self.choice(f"{key}_origin", Origin, Origin.CLAIMED))

    def words(self, key: str) -> tuple[str, ...]:
        """Several texts in one, parted by semicolons."""
        return tuple(each.strip() for each in self.word(key, "").split(";") if each.strip())

    def word_or_nothing(self, key: str) -> str | None:
        """An empty text that was written down as such, None where nothing was."""
        value = self._get(key)
        return value if isinstance(value, str) else None

    def raw(self, key: str) -> Value:
        """Whatever stands there."""
        return self._get(key)

    def inner(self, key: str) -> "Fields":
        """A nested object."""
        value = self._get(key)
        if not isinstance(value, Mapping):
            raise BadValue(key, "missing" if value is None else repr(value), "an object with named values")
        return Fields(value)

    def entries(self, key: str) -> list[Value]:
        """A list, empty where the key is missing."""
        value = self._get(key)
        if value is None:
            return []
        if not isinstance(value, list):
            raise BadValue(key, repr(value), "a list")
        return value

    def done(self) -> None:
        """Raises: BadValue for the first key that nothing read."""
        unknown = sorted(str(key) for key in self._row if key not in self._read)
        if unknown:
            raise BadValue(unknown[0][:40], "not a key that is known here", ", ".join(sorted(self._read)))
