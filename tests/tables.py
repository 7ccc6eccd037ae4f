"""Cases of a test from the JSON file beside it: a list for each test, a row a case, with the origin of its figures."""

import json
from functools import cache
from pathlib import Path

import pytest


@cache
def _tables(path: Path) -> dict:
    return json.loads(path.read_text(encoding="utf-8"))


def _frozen(value):
    return tuple(_frozen(each) for each in value) if isinstance(value, list) else value


def cases(test_file: str, name: str) -> list:
    """The rows of one test as parameters, in the order of their keys; lists are tuples, unless the row says so."""
    found = []
    for given in _tables(Path(test_file).with_suffix(".json"))[name]:
        row = {key: value for key, value in given.items() if key not in ("id", "origin", "lists")}
        values = [value if given.get("lists") else _frozen(value) for value in row.values()]
        found.append(pytest.param(*values, id=given.get("id")))
    return found


def table(test_file: str, name: str):
    """What a name of the file stands for: rows as tuples, or values by their keys."""
    found = _tables(Path(test_file).with_suffix(".json"))[name]
    return {key: _frozen(value) for key, value in found.items()} if isinstance(found, dict) else _frozen(found)
