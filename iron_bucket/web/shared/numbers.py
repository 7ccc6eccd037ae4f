"""Whole numbers as addresses and forms send them: never longer than a number can be."""

import re

from werkzeug.routing import IntegerConverter

#: Fifteen digits fit every table's key; more are no number of ours.
MOST_DIGITS = 15
_WHOLE = re.compile(rf"[0-9]{{1,{MOST_DIGITS}}}")


class BoundedNumber(IntegerConverter):
    """The number in an address; a longer one is an address that does not exist."""

    regex = _WHOLE.pattern


def whole_number(text: str | None) -> int | None:
    """The number that a text is; None for any other text, and for one of more digits than a number of ours has."""
    return int(text) if text is not None and _WHOLE.fullmatch(text) else None


def page_number(text: str | None) -> int:
    """Which page of a list; the first for what is no page."""
    number = whole_number(text)
    return number if number is not None and 0 < number < 10_000 else 1
