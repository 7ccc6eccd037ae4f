"""Cases of a test from the JSON file beside it: a list for each test, a row a case, with the origin of its figures."""

import importlib
import json
import re
from fractions import Fraction
from functools import cache, reduce
from pathlib import Path

import pytest


@cache
def _tables(path: Path) -> dict:
    return json.loads(path.read_text(encoding="utf-8"))


def named(value):
    """Lists as tuples; ``@module:name.inner`` the thing of the program itself; ``=1/48`` the number."""
    match value:
        case list():
            return tuple(named(each) for each in value)
        case dict():
            return {key: named(each) for key, each in value.items()}
        case str() if value.startswith("@"):
            module, _, name = value[1:].partition(":")
            return reduce(getattr, name.split("."), importlib.import_module(module))
        case str() if re.fullmatch(r"=\d+/\d+", value):
            return float(Fraction(value[1:]))
    return value


def cases(test_file: str, name: str) -> list:
    """The rows of one test as parameters, in the order of their keys; lists are tuples, unless the row says so."""
    found = []
    for given in _tables(Path(test_file).with_suffix(".json"))[name]:
        row = {key: value for key, value in given.items() if key not in ("id", "origin", "lists")}
        values = [value if given.get("lists") else named(value) for value in row.values()]
        found.append(pytest.param(*values, id=given.get("id")))
    return found


def table(test_file: str, name: str):
    """What a name of the file stands for: rows as tuples, or values by their keys."""
    return named(_tables(Path(test_file).with_suffix(".json"))[name])
