"""JSON as people send it: whole, of this world, and not so deep that reading it takes the process away."""

import json
from typing import Any

from iron_bucket.formats.errors import FormatError

JSON_LIMIT_LETTERS = 64_000_000


def parsed_json(text: str, what: str, limit_letters: int = JSON_LIMIT_LETTERS) -> Any:
    """JSON without the numbers that JSON does not have. Raises: FormatError with the line."""
    if len(text) > limit_letters:
        raise FormatError(what, None, f"the file has {len(text):,} letters; accepted: up to {limit_letters:,}")
    try:
        return json.loads(text, parse_constant=_no_constant)
    except json.JSONDecodeError as bad:
        raise FormatError(what, bad.lineno, bad.msg) from bad
    except RecursionError:
        raise FormatError(what, None, "lists within lists, too deep to be read") from None
    except ValueError as bad:
        raise FormatError(what, None, bad) from bad


def _no_constant(name: str) -> None:
    raise ValueError(f"{name} is no number of this world")
