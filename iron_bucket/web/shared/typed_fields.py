"""Fields of every kind of thing: how each is shown and typed, in the reader's units. Rows hold SI; here they turn.

A form sends, beside what was typed, what stood there (``was-<key>``), so that a change names the fields it changes and
what they were.
"""

import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Any

from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities import display, parse
from iron_bucket.core.quantities.units import UnitSystem, lb_from_kg
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.json_text import parsed_json
from iron_bucket.web.shared.in_words import in_words
from iron_bucket.web.shared.told_apart import told_apart
from iron_bucket.web.shared.zones import zone_of

Row = dict[str, Any]


class Takes(StrEnum):
    """How a field is typed."""

    TEXT = "text"
    NOTE = "note"
    NUMBER = "number"
    DEGREES = "degrees"
    PERCENT = "percent"
    STOPS = "stops"
    KELVIN = "kelvin"
    LEVEL = "level"
    LENGTH = "length"
    MASS = "mass"
    TEMPERATURE = "temperature"
    WHEN = "when"
    YES = "yes"
    CHOICE = "choice"
    SEVERAL = "several"
    CORNERS = "corners"
    ROWS_OF_TWO = "rows of two"
    ROWS_OF_THREE = "rows"
    PAIR = "x and y"
    FOUR = "four"
    FOUR_SHARES = "four shares"
    ZONE = "zone"


@dataclass(frozen=True, slots=True, kw_only=True)
class TypedField:
    """``choices``: value and word. ``may_be_empty``: nothing is a value too (None). ``unit``: of a plain number;
    ``usual``: what an empty form says; ``is_needed``: must be there; ``is_fine``: three decimals are decimals.
    """

    key: str
    label: str
    takes: Takes = Takes.NUMBER
    choices: tuple[tuple[str, str], ...] = ()
    may_be_empty: bool = False
    hint: str = ""
    unit: str = ""
    usual: str = ""
    is_needed: bool = False
    is_fine: bool = False


def field(key: str, label: str, takes: Takes = Takes.NUMBER, choices: Iterable[Any] = (), **more: Any) -> TypedField:
    """One field; choices may be words alone, and words that are alike are told apart."""
    pairs = [each if isinstance(each, tuple) else (str(each), str(each)) for each in choices]
    words = told_apart(word for _, word in pairs)
    named = tuple((value, word) for (value, _), word in zip(pairs, words, strict=True))
    return TypedField(key=key, label=label, takes=takes, choices=named, **more)


def say(each: TypedField, value: Any, units: UnitSystem) -> str | list[str]:
    """What stands in the form."""
    if each.takes is Takes.SEVERAL:
        return [str(part) for part in value or ()]
    if value is None:
        return ""
    if each.takes is Takes.NUMBER:
        return _number(value, is_large=not each.is_fine and parse.is_large(each.unit.split(",")[0]))
    say_it = _SAY.get(each.takes)
    return say_it(value, units) if say_it else str(value)


def _length(value: float, units: UnitSystem) -> str:
    if units is UnitSystem.IMPERIAL:
        sign = "-" if value < 0 else ""
        return sign + str(display.length(abs(value), units))
    return f"{value:.4f}".rstrip("0").rstrip(".")


def _mass(value: float, units: UnitSystem) -> str:
    return f"{float(lb_from_kg(value)) if units is UnitSystem.IMPERIAL else value:.6g}"


def _number(value: float, *, is_large: bool) -> str:
    """Among large amounts three decimals behind a point would be read as thousands: they get a fourth."""
    text = f"{value:.10g}" if isinstance(value, (int, float)) else str(value)
    return f"{text}0" if is_large and parse.has_thousands_mark(text) else text


def _four(values: Iterable[float], nothing: float, scale: float) -> str:
    """Top, bottom, left, right; nothing at all where none does anything."""
    words = ["–" if each == nothing else f"{each * scale:.6g}" for each in values]
    return "" if set(words) == {"–"} else " ".join(words)


_SAY: dict[Takes, Callable[[Any, UnitSystem], str]] = {
    Takes.LENGTH: _length,
    Takes.MASS: _mass,
    Takes.TEMPERATURE: lambda value, units: str(display.temperature(value, units)),
    Takes.DEGREES: lambda value, _: f"{value:.1f}".removesuffix(".0"),
    Takes.STOPS: lambda value, _: f"{value:+.2f}".rstrip("0").rstrip(".") if value else "0",
    Takes.PERCENT: lambda value, _: f"{value * 100:.6g}",
    Takes.KELVIN: lambda value, _: f"{value:.0f}" if value else "",
    Takes.LEVEL: lambda value, units: str(display.illuminance(value, units)).replace("\u202f", ""),
    Takes.WHEN: lambda value, _: str(value)[:16],
    Takes.CORNERS: lambda value, units: "; ".join(f"{_length(x, units)}, {_length(y, units)}" for x, y in value),
    Takes.PAIR: lambda value, _: " ".join(f"{each:.6g}" for each in value),
    Takes.FOUR: lambda value, _: _four(value, 90.0, 1.0),
    Takes.FOUR_SHARES: lambda value, _: _four(value, 0.0, 100.0),
    Takes.ROWS_OF_TWO: lambda value, _: "; ".join(" ".join(f"{each:g}" for each in row) for row in value),
    Takes.ROWS_OF_THREE: lambda value, _: "; ".join(" ".join(f"{each:g}" for each in row) for row in value),
}


def read(each: TypedField, text: str, units: UnitSystem) -> Any:
    """A value as a row holds it. Raises: BadValue with the field's label."""
    plain = text.strip()
    if not plain and each.may_be_empty:
        return None
    read_it = _READ.get(each.takes)
    return read_it(plain, each, units) if read_it else plain


def signed_length_m(text: str, name: str, units: UnitSystem) -> float:
    """A length that may lie on either side of nothing."""
    minus = text[:1] in ("-", "\u2212")
    return round((-1.0 if minus else 1.0) * parse.length_m(text[1:] if minus else text, name, units), 4)


def _read_choice(text: str, each: TypedField, _: UnitSystem) -> str:
    if text not in [value for value, _ in each.choices]:
        raise BadValue(each.label, repr(text), ", ".join(word for _, word in each.choices))
    return text


def _read_when(text: str, each: TypedField, _: UnitSystem) -> str:
    try:
        return datetime.fromisoformat(text).isoformat(timespec="minutes")
    except ValueError:
        raise BadValue(each.label, repr(text), "a day and time such as 2026-11-24T10:30") from None


def _read_corners(text: str, each: TypedField, units: UnitSystem) -> list[list[float]]:
    corners = []
    for part in filter(None, (part.strip() for part in re.split(r"[;\n]", text))):
        both = [half for half in re.split(r",\s+|\s{2,}|\t| (?=[-\u2212\d.])", part) if half.strip(", ")]
        if len(both) != 2:
            raise BadValue(
                each.label,
                repr(part),
                "corners as x, y separated by semicolons, such as 0, 0; 6.2, 0; 6.2, 4.4; 0, 4.4",
            )
        corners.append([signed_length_m(half.strip(", "), each.label, units) for half in both])
    return corners


def _read_rows(text: str, each: TypedField, count: int) -> list[list[float]]:
    rows = [part.split() for part in re.split(r"[;\n]", text) if part.strip()]
    for row in rows:
        if len(row) != count:
            raise BadValue(
                each.label,
                repr(" ".join(row)),
                f"{'two' if count == 2 else 'three'} numbers a row, rows separated by semicolons, such as {each.hint}",
            )
    return [[parse.signed(part, each.label, is_fine=at > 0) for at, part in enumerate(row)] for row in rows]


def _read_four(text: str, each: TypedField, nothing: float, scale: float) -> list[float]:
    words = text.replace(",", " ").split() or ["–"] * 4
    if len(words) != 4:
        raise BadValue(each.label, repr(text), f"four words: {each.hint}")
    return [
        nothing if word in ("–", "-", "\u2212") else round(parse.signed(word, each.label) / scale, 6) for word in words
    ]


def _read_pair(text: str, each: TypedField, _: UnitSystem) -> list[float]:
    words = text.split()
    if len(words) not in (0, 2):
        raise BadValue(each.label, repr(text), f"two numbers, such as {each.hint}, or nothing")
    return [parse.signed(word, each.label, is_fine=True) for word in words]


_READ: dict[Takes, Callable[[str, TypedField, UnitSystem], Any]] = {
    Takes.LENGTH: lambda text, each, units: signed_length_m(text, each.label, units),
    Takes.MASS: lambda text, each, units: parse.mass_kg(text, each.label, units),
    Takes.TEMPERATURE: lambda text, each, units: round(parse.temperature_c(text, each.label, units), 2),
    Takes.NUMBER: lambda text, each, _: parse.signed(text, each.label, each.unit.split(",")[0], is_fine=each.is_fine),
    Takes.DEGREES: lambda text, each, _: parse.signed(text, each.label, "°"),
    Takes.STOPS: lambda text, each, _: parse.signed_stops(text, each.label),
    Takes.PERCENT: lambda text, each, _: round(parse.number(text, each.label, "%") / 100.0, 6),
    Takes.KELVIN: lambda text, each, _: parse.cct_k(text, each.label) if text else 0.0,
    Takes.LEVEL: lambda text, each, units: parse.illuminance_lx(text, each.label, units),
    Takes.CHOICE: _read_choice,
    Takes.WHEN: _read_when,
    Takes.CORNERS: _read_corners,
    Takes.PAIR: _read_pair,
    Takes.FOUR: lambda text, each, _: _read_four(text, each, 90.0, 1.0),
    Takes.FOUR_SHARES: lambda text, each, _: _read_four(text, each, 0.0, 100.0),
    Takes.ROWS_OF_TWO: lambda text, each, _: _read_rows(text, each, 2),
    Takes.ROWS_OF_THREE: lambda text, each, _: _read_rows(text, each, 3),
    Takes.ZONE: lambda text, each, _: zone_of(text, each.label),
}


def read_row(fields: Iterable[TypedField], form: Any, units: UnitSystem) -> Row:
    """All fields of a form that were sent.

    ``form``: werkzeug's. A tick that was not sent is no, where the form says it holds it (``holds``).
    """
    shown = set(form.getlist("holds"))
    found: Row = {}
    for each in fields:
        if each.takes is Takes.YES:
            if each.key in form or each.key in shown:
                found[each.key] = form.get(each.key) == "yes"
        elif each.takes is Takes.SEVERAL:
            if each.key in form or each.key in shown:
                found[each.key] = _read_several(each, form.getlist(each.key))
        elif each.key in form:
            found[each.key] = read(each, form[each.key], units)
    return found


def _read_several(each: TypedField, values: list[str]) -> list[str]:
    known = [value for value, _ in each.choices]
    for value in filter(None, values):
        if value not in known:
            raise BadValue(each.label, repr(value), ", ".join(word for _, word in each.choices) or "nothing yet")
    return list(filter(None, values))


def changes_of(fields: Iterable[TypedField], form: Any, units: UnitSystem) -> tuple[Row, Row]:
    """Fields whose typed text differs from what stood there, and what they stood at. Raises: BadValue."""
    fields = tuple(fields)
    new = read_row(fields, form, units)
    to, was = {}, {}
    for each in fields:
        if each.key not in new or f"was-{each.key}" not in form:
            continue
        stood = form[f"was-{each.key}"]
        try:
            old = parsed_json(stood, each.label)
            said = say(each, old, units)
        except (FormatError, ValueError, TypeError, AttributeError):
            raise BadValue(each.label, repr(stood), "what the form came with; reload the page") from None
        if said != say(each, new[each.key], units):
            to[each.key], was[each.key] = new[each.key], old
    return to, was


@dataclass(frozen=True, slots=True, kw_only=True)
class Refusal:
    """Why something was not kept, in words of the form, and the key of the field it is about, empty where of none."""

    key: str
    words: str


def _accepted(each: TypedField, accepted: str, units: UnitSystem) -> str:
    """What would be accepted, as the field is typed: in per cent, or in the reader's lengths."""
    found = re.fullmatch(r"(?:a share from )?([\d.]+) to ([\d.]+)( m)?(?: of .*)?", accepted)
    if found and each.takes is Takes.PERCENT:
        return f"{float(found[1]) * 100.0:g} to {float(found[2]) * 100.0:g} %"
    if found and found[3] and each.takes is Takes.LENGTH:
        return f"{display.length(float(found[1]), units)} to {display.length(float(found[2]), units)}"
    return accepted


def refusal(bad: Exception, fields: Iterable[TypedField], typed: Mapping[str, str], units: UnitSystem) -> Refusal:
    """A refusal as its field is called, with the value as it was typed; a field that was sent alone is the one."""
    fields = tuple(fields)
    sent = [each for each in fields if each.key in typed]
    for each in fields:
        is_named = isinstance(bad, BadValue) and bad.field.casefold() in (each.key, each.label.casefold())
        if isinstance(bad, BadValue) and (is_named or sent == [each]):
            value = (repr(typed[each.key]) if typed[each.key].strip() else "empty") if each.key in typed else bad.value
            accepted = _accepted(each, bad.accepted, units)
            return Refusal(key=each.key, words=str(BadValue(each.label, value, accepted)))
        said = f"{each.key.replace('_', ' ')} of "
        if str(bad).startswith(said):
            return Refusal(key=each.key, words=f"{each.label} of {str(bad).removeprefix(said)}")
    return Refusal(key="", words=in_words(bad))
