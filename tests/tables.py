"""Cases of a test from the JSON file beside it: a list for each test, a row a case, with the origin of its figures.

A text that begins with ``@module:name.inner`` is that thing of the program (``@:name`` one of the test's own file),
``=1/48`` a number, ``=x*99`` a long text. ``{"call": thing, "args": [...], key: value}`` is what the thing gives,
``{"later": call}`` a function that calls it, ``{"repeat": row, "count": 9}`` a list of the same.
"""

import importlib
import json
import re
from fractions import Fraction
from functools import cache, reduce
from pathlib import Path

import pytest

from iron_bucket.core.errors import BadValue

ROOT = Path(__file__).parents[1]


@cache
def _tables(path: Path) -> dict:
    return json.loads(path.read_text(encoding="utf-8"))


def named(value, here: str = "", sequence: type = tuple):
    """A value of a table as the value it stands for; ``here`` is the module of ``@:name``."""
    match value:
        case list():
            return sequence(named(each, here, sequence) for each in value)
        case {"later": later}:
            return lambda: named(later, here, sequence)
        case {"repeat": row, "count": count}:
            return sequence([named(row, here, sequence)] * count)
        case dict():
            found = {key: named(each, here, sequence) for key, each in value.items()}
            make = found.pop("call", None)
            return make(*found.pop("args", ()), **found) if make else found
        case str() if value.startswith("@"):
            module, _, name = value[1:].partition(":")
            return reduce(getattr, name.split("."), importlib.import_module(module or here))
        case str() if re.fullmatch(r"=\d+/\d+", value):
            return float(Fraction(value[1:]))
        case str() if found := re.fullmatch(r"=(.)\*(\d+)", value):
            return found[1] * int(found[2])
    return value


def _module(test_file: str) -> str:
    return ".".join(Path(test_file).relative_to(ROOT).with_suffix("").parts)


def cases(test_file: str, name: str) -> list:
    """The rows of one test as parameters, in the order of their keys; lists are tuples, unless the row says so."""
    found = []
    for given in _tables(Path(test_file).with_suffix(".json"))[name]:
        row = {key: value for key, value in given.items() if key not in ("id", "origin", "lists")}
        sequence = list if given.get("lists") else tuple
        values = [named(value, _module(test_file), sequence) for value in row.values()]
        found.append(pytest.param(*values, id=given.get("id")))
    return found


def table(test_file: str, name: str, sequence: type = tuple):
    """What a name of the file stands for: rows as tuples, or values by their keys."""
    return named(_tables(Path(test_file).with_suffix(".json"))[name], _module(test_file), sequence)


def tabled(test):
    """A test that is run for each of its rows; the keys of a row are the test's arguments."""
    file, name = test.__code__.co_filename, test.__name__
    keys = [key for key in _tables(Path(file).with_suffix(".json"))[name][0] if key not in ("id", "origin", "lists")]
    return pytest.mark.parametrize(keys, cases(file, name))(test)


def refusals(test_file: str):
    """A test of all that a file's ``refused`` names: what is made, and the sentence that it is refused with."""

    @pytest.mark.parametrize(("make", "sentence"), cases(test_file, "refused"))
    def test(make, sentence):
        with pytest.raises(BadValue, match=sentence):
            make()

    return test


def factory(test_file: str, name: str, kind: type):
    """A function that makes one of a kind from the values of that name, with changes."""
    return lambda **changes: kind(**(table(test_file, name) | changes))
