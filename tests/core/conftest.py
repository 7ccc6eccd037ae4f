"""Tables that are tests by themselves: every ``bounds.json`` and ``figures.json`` of the core is run row by row.

``bounds.json`` names what is made, and where its fields end. ``between``: accepted at both ends, refused a hair
beyond. ``above``: refused at the figure, accepted a hair above. ``from_zero``: nothing is accepted, less is not.
``usual``: what is taken where nothing is said. ``refused``: changes, each with its sentence. ``defaults_of`` names a
class whose fields are, where nobody says otherwise, what stands under ``are``.

``figures.json`` names what is asked (``of``, made with ``with``; ``ask`` names what is asked of that) and its ``rows``:
arguments and what they give, in a list with the answer last, or ``{args, with, gives}``. Numbers agree within ``rel``
or ``abs``; ``{"says": sentence}`` is a refusal, ``{"has": {name: value}}`` a look at what is found. The ``origin`` says
whence the figures come. ``golden`` names a file and a kind of reference cases instead of rows: ``$name`` is what a case
gives, answers are names of what it expects, or a name with the factor to our unit.

In both, texts stand for things of the program as in ``tests.tables``.
"""

import dataclasses
import json
from operator import attrgetter

import pytest

from iron_bucket.core.errors import BadValue, NoAnswer
from tests.conftest import golden_cases
from tests.tables import named


class Row(pytest.Item):
    """One row: ``check`` raises where the program says otherwise."""

    def __init__(self, *, check, **rest):
        super().__init__(**rest)
        self.check = check

    def runtest(self):
        self.check()

    def repr_failure(self, excinfo):
        return f"{self.path}: {self.name}\n{excinfo.exconly()}"


class Table(pytest.File):
    """All rows of a file."""

    def collect(self):
        rows = _bounds if self.path.name == "bounds.json" else _figures
        entries = json.loads(self.path.read_text(encoding="utf-8"))
        # Numbered: of two rows of one name only one would be run by several workers.
        for number, (name, check) in enumerate(row for entry in entries for row in rows(entry)):
            yield Row.from_parent(self, name=f"{number} {name}", check=check)


def pytest_collect_file(file_path, parent):
    return Table.from_parent(parent, path=file_path) if file_path.name in ("bounds.json", "figures.json") else None


def _defaults(entry):
    """Of what is made with more than a row can say: looked up, not made."""
    fields = {each.name: each.default for each in dataclasses.fields(named(entry["defaults_of"]))}
    for name, value in entry["are"].items():

        def check(name=name, value=value):
            assert (fields[name], type(fields[name])) == (value, type(value))

        yield f"{entry['defaults_of'].rpartition(':')[2]}.{name} usually", check


def _bounds(entry):
    if "defaults_of" in entry:
        yield from _defaults(entry)
        return
    make, given, label = named(entry["make"]), named(entry.get("with", {})), entry["make"].rpartition(":")[2]

    def ends(field, accepted, refused):
        for value in accepted:
            assert getattr(make(**(given | {field: value})), field, value) == pytest.approx(value)
        for value in refused:
            with pytest.raises(BadValue):
                make(**(given | {field: value}))

    def usual(field, value):
        found = getattr(make(**given), field)
        assert found == value
        assert type(found) is type(value)

    def refused(changes, sentence):
        with pytest.raises(BadValue, match=sentence):
            make(**(given | named(changes)))

    for field, (low, high) in entry.get("between", {}).items():
        hair = 1e-6 * max(1.0, abs(high))
        beyond = (low - min(hair, 1e-6 * max(abs(low), 1.0)), high + hair, float("nan"), float("inf"))
        yield f"{label}.{field}", lambda a=field, b=(low, high), c=beyond: ends(a, b, c)
    for field, limit in entry.get("above", {}).items():
        yield f"{label}.{field} above", lambda a=field, b=limit: ends(a, (b + 1e-6,), (b, -1.0))
    for field in entry.get("from_zero", []):
        yield f"{label}.{field} from 0", lambda a=field: ends(a, (0, 1), (-1e-6, float("nan")))
    for field, value in entry.get("usual", {}).items():
        yield f"{label}.{field} usually", lambda a=field, b=value: usual(a, named(b))
    for changes, sentence in entry.get("refused", []):
        yield f"{label} {sentence}", lambda a=changes, b=sentence: refused(a, b)


def _golden(entry):
    """A row for each reference case of a kind."""
    for case in golden_cases(*entry["golden"]):
        given, expected, rel_tol = case.values

        def filled(value, given=given):
            match value:
                case str() if value.startswith("$"):
                    return given[value[1:]]
                case dict():
                    return {key: filled(each) for key, each in value.items()}
                case list():
                    return [filled(each) for each in value]
            return value

        def answer(value, given=given, expected=expected):
            name, factor = value if isinstance(value, list) else (value, 1)
            found = given[name[1:]] if name.startswith("$") else expected[name]
            return found if isinstance(found, bool) else found * factor

        gives = entry["gives"]
        gives = {"has": {key: answer(each) for key, each in gives["has"].items()}} if "has" in gives else answer(gives)
        row = {key: filled(entry[key]) for key in ("with", "args", "asking") if key in entry}
        yield row | {"gives": gives, "near": {"rel": rel_tol, "abs": 1e-9}}


def _figures(entry):
    near = {key: entry[key] for key in ("rel", "abs") if key in entry}
    label = entry["of"].rpartition(":")[2] if isinstance(entry["of"], str) else "it"
    for row in _golden(entry) if "golden" in entry else entry["rows"]:
        whole = row if isinstance(row, dict) else {"args": row[:-1], "gives": row[-1]}

        def check(row=whole):
            asked = named(entry["of"])
            given = (named(entry.get("with", {})) if "golden" not in entry else {}) | named(row.get("with", {}))
            if "ask" in entry:
                asked, given = (asked(**given) if callable(asked) else asked), named(row.get("asking", {}))
                asked = attrgetter(entry["ask"])(asked)
            args, gives = named(row.get("args", [])), row["gives"]
            if isinstance(gives, dict) and "says" in gives:
                with pytest.raises((BadValue, NoAnswer, KeyError), match=gives["says"]):
                    asked(*args, **given)
                return
            _agree(asked(*args, **given) if callable(asked) else asked, gives, near | row.get("near", {}))

        yield f"{label} {json.dumps(row, ensure_ascii=False)}"[:120], check


def _agree(found, gives, near):
    match gives:
        case {"has": values}:
            for name, value in values.items():
                _agree(attrgetter(name)(found), value, near)
        case None | bool():
            assert found == gives
        case str() if named(gives) == gives:
            assert str(found) == gives
        case int() | float() | str() if isinstance(named(gives), int | float):
            assert found == pytest.approx(named(gives), **near)
        case [*each] if each and isinstance(each[0], (int, float)):
            assert list(found) == pytest.approx(list(named(gives)), **near)
        case [[float(), *_], *_]:
            for one, other in zip(found, gives, strict=True):
                _agree(one, other, near)
        case _:
            wanted = named(gives)
            assert (tuple(found) if isinstance(wanted, tuple) else found) == wanted
