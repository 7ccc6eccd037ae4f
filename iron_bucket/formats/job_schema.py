"""The JSON Schema of the job file, from the values that it holds."""

from dataclasses import MISSING, fields, is_dataclass
from datetime import datetime
from enum import StrEnum
from types import UnionType
from typing import Any, get_args, get_origin, get_type_hints

from iron_bucket.core.bucket.bucket_plan import BucketPlan
from iron_bucket.core.bucket.ticks import Tick
from iron_bucket.core.days.day_plan import DayPlan
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.place import Place
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.formats.gear_rows import GEAR_KINDS
from iron_bucket.formats.job_file import FORMAT, VERSION

Row = dict[str, Any]
_PLAIN: dict[type, Row] = {
    bool: {"type": "boolean"},
    int: {"type": "integer"},
    float: {"type": "number"},
    str: {"type": "string"},
    datetime: {"type": "string", "pattern": r"^\d{4}-\d\d-\d\dT\d\d:\d\d"},
}
_ROWS: Row = {"type": "array", "items": {"type": "object"}}


def job_schema() -> Row:
    """Draft 2020-12. Rows of the bench are those of docs/gear-format.md, and looked at no further."""
    power = _record(JobPower)
    times = power["properties"].pop("times")
    passes = _object({"place": _whole(1), "after": _whole(0), "setup": _record(Setup)}, ("place", "setup"))
    line = _object(
        {
            "number": _whole(1),
            "parent_number": {"type": ["integer", "null"]},
            "kind": {"enum": list(GEAR_KINDS)},
            "item": {"type": "object"},
            "quantity": _whole(0),
            "purpose": {"type": "string"},
            "level": {"type": "number"},
            "fed_from": {"enum": ["mains", "battery"]},
            "area_m2": {"type": "number"},
            "setting": {"type": "string"},
        },
        ("number", "kind", "item", "quantity"),
    )
    bench = {"format": {"type": "string"}, "version": _whole(1), "readings": _ROWS, "spectra": _ROWS}
    properties = {
        "format": {"const": FORMAT},
        "version": {"const": VERSION},
        "uid": {"type": "string"},
        "name": {"type": "string"},
        "places_note": {"type": "string"},
        "rules": _record(HouseRules),
        "look": {"anyOf": [_record(Look), {"type": "null"}]},
        "places": {"type": "array", "items": _record(Place)},
        "setups": {"type": "array", "items": passes},
        "power": power,
        "days": _object({"times": times, "plan": _record(DayPlan)}, ()),
        "bucket": _object({"lines": {"type": "array", "items": line}, "plan": _record(BucketPlan)}, ("plan",)),
        "ticks": {"type": "array", "items": _record(Tick)},
        "bench": _object(bench | dict.fromkeys(GEAR_KINDS, _ROWS), ()),
    }
    needed = ("format", "version", "uid", "name", "rules", "places", "setups", "power", "days", "bucket", "bench")
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Iron Bucket job file",
        **_object(properties, needed),
    }


def _whole(least: int) -> Row:
    return {"type": "integer", "minimum": least}


def _object(properties: Row, needed: tuple[str, ...]) -> Row:
    return {"type": "object", "properties": properties, "required": list(needed), "additionalProperties": False}


def _record(kind: type) -> Row:
    hints = get_type_hints(kind)
    asked = [each for each in fields(kind) if each.init]
    needed = [each.name for each in asked if each.default is MISSING and each.default_factory is MISSING]
    return _object({each.name: _of(hints[each.name]) for each in asked}, tuple(needed))


def _of(hint: Any) -> Row:
    if isinstance(hint, UnionType):
        parts = [part for part in get_args(hint) if part is not type(None)]
        return {"anyOf": [*(_of(part) for part in parts), {"type": "null"}]}
    if get_origin(hint) is tuple:
        parts = list(get_args(hint))
        if parts[-1] is Ellipsis:
            return {"type": "array", "items": _of(parts[0])}
        return {"type": "array", "prefixItems": [_of(part) for part in parts], "items": False}
    if is_dataclass(hint):
        return _record(hint)  # type: ignore[arg-type]
    if isinstance(hint, type) and issubclass(hint, StrEnum):
        return {"enum": [each.value for each in hint]}
    return _PLAIN[hint]
