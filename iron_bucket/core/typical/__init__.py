"""Typical figures of the trade and of the house: one JSON file a table, each with where its figures come from."""

import json
from functools import cache
from importlib.resources import files
from typing import Any


@cache
def typical(name: str) -> dict[str, Any]:
    """The rows of one table by their names, in the file's order, without the words on its origin."""
    table: dict[str, Any] = json.loads(files(__name__).joinpath(f"{name}.json").read_text(encoding="utf-8"))
    return {key: row for key, row in table.items() if key != "origin"}
