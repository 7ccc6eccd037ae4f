"""Where figures end, as tables: each package's ``bounds.json`` names what is made, its fields' bounds and defaults.

``between``: accepted at both ends, refused a hair beyond. ``above``: refused at the figure, accepted a hair above.
``from_zero``: nothing is accepted, less is not. ``usual``: what is taken where nothing is said. A text that begins
with ``@`` names a thing of the program.
"""

import json
from pathlib import Path

import pytest

from iron_bucket.core.errors import BadValue
from tests.tables import named


def bounds_beside(test_file: str):
    """The rows of the table beside a test."""
    for row in json.loads((Path(test_file).parent / "bounds.json").read_text()):
        make, given = named(row["make"]), {key: named(value) for key, value in row.get("with", {}).items()}
        label = row["make"].rpartition(":")[2]
        for field, (low, high) in row.get("between", {}).items():
            hair = 1e-6 * max(1.0, abs(high))
            refused = (low - min(hair, 1e-6 * max(abs(low), 1.0)), high + hair, float("nan"), float("inf"))
            yield pytest.param(make, given, field, (low, high), refused, id=f"{label}.{field}")
        for field, limit in row.get("above", {}).items():
            yield pytest.param(make, given, field, (limit + 1e-6,), (limit, -1.0), id=f"{label}.{field} above")
        for field in row.get("from_zero", []):
            yield pytest.param(make, given, field, (0, 1), (-1e-6, float("nan")), id=f"{label}.{field} from 0")
        for field, usual in row.get("usual", {}).items():
            yield pytest.param(make, given, field, usual, None, id=f"{label}.{field} usually")


def check(make, given, field, accepted, refused) -> None:
    """One row against the program."""
    if refused is None:
        found = getattr(make(**given), field)
        assert found == named(accepted)
        assert type(found) is type(named(accepted))
        return
    for value in accepted:
        made = make(**(given | {field: value}))
        assert getattr(made, field, value) == pytest.approx(value)
    for value in refused:
        with pytest.raises(BadValue):
            make(**(given | {field: value}))
