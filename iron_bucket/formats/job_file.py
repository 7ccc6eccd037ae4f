"""A whole job as one JSON text, and back, byte for byte. Described in docs/job-file.md and docs/job-file.schema.json.

Places, set-ups and passes are numbered within the file, from 1 in their order, so that it means the same in every
database.
"""

import json
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from iron_bucket.core.bucket.bucket_plan import BucketPlan
from iron_bucket.core.bucket.entry import Entry, FedFrom
from iron_bucket.core.bucket.ticks import Tick
from iron_bucket.core.days.day_plan import DayPlan
from iron_bucket.core.days.weather import forecast_id
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.place import Place
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.power.job.pace import taken_id
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.gear_json import BenchFile, bench_file_of, bench_json
from iron_bucket.formats.gear_rows import GEAR_KINDS, item_of
from iron_bucket.formats.json_text import parsed_json
from iron_bucket.formats.record_json import read_record, write_record

FORMAT, VERSION = "iron-bucket job", 2
Row = dict[str, Any]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class FilePass:
    """A pass of the file: its ``place`` and the pass that it varies by their numbers in it, 0 for none."""

    place: int
    after: int
    setup: Setup


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class JobFile:
    """``uid``: the job's own for ever, by which a second import finds it; ``power``, ``plan`` and ``days`` speak of
    places and passes by their numbers in the file.
    """

    uid: str
    name: str
    places_note: str
    rules: HouseRules
    bench: BenchFile
    places: tuple[Place, ...]
    passes: tuple[FilePass, ...]
    power: JobPower
    plan: BucketPlan
    days: DayPlan = field(default_factory=DayPlan)
    lines: tuple[Entry, ...] = ()
    ticks: tuple[Tick, ...] = ()
    look: Look | None = None


def job_json(job: JobFile) -> str:
    """The text; the same job gives the same bytes."""
    power = write_record(job.power)
    times = power.pop("times")
    document = {
        "format": FORMAT,
        "version": VERSION,
        "uid": job.uid,
        "name": job.name,
        "places_note": job.places_note,
        "rules": write_record(job.rules),
        "look": write_record(job.look) if job.look else None,
        "places": [write_record(place) for place in job.places],
        "setups": [
            {"place": each.place, "after": each.after, "setup": write_record(each.setup)} for each in job.passes
        ],
        "power": power,
        "days": {"times": times, "plan": write_record(job.days)},
        "bucket": {"lines": [_line_row(entry) for entry in job.lines], "plan": write_record(job.plan)},
        "ticks": [write_record(tick) for tick in job.ticks],
        "bench": bench_json(job.bench),
    }
    return json.dumps(document, ensure_ascii=False, indent=1, allow_nan=False) + "\n"


def read_job(text: str) -> JobFile:
    """Raises: FormatError that names what is wrong; a file from a newer version is refused, an older one migrated."""
    document = parsed_json(text, "job file")
    try:
        return _read(_migrated(document))
    except BadValue as bad:
        raise FormatError("job file", None, bad) from bad


def _migrated(document: Any) -> Row:
    fields = Fields(document)
    kind, version = fields.word("format", ""), fields.whole("version", 0)
    if kind != FORMAT or version < 1:
        raise BadValue("format", repr(kind), f"{FORMAT!r}, a file that a job was exported to")
    if version > VERSION:
        raise BadValue(
            "version", version, f"up to {VERSION}; this file was made by a newer Iron Bucket, which has to read it"
        )
    migrated: Row = dict(document)
    while migrated["version"] < VERSION:
        migrated = _MIGRATIONS[migrated["version"]](migrated)
    return migrated


def _times_apart(document: Row) -> Row:
    """Version 1 kept the times of passes with the power of the job, and had no ticks."""
    power = dict(document.get("power") or {})
    return document | {"version": 2, "days": {"times": power.pop("times", [])}, "power": power, "ticks": []}


_MIGRATIONS: dict[int, Callable[[Row], Row]] = {1: _times_apart}


def _read(document: Row) -> JobFile:
    fields = Fields(document)
    fields.word("format")
    fields.whole("version")
    days, bucket = fields.inner("days"), fields.inner("bucket")
    power: Row = {**_object(fields.raw("power"), "power"), "times": days.entries("times")}
    passes = [_pass(Fields(each)) for each in fields.entries("setups")]  # type: ignore[arg-type]
    job = JobFile(
        uid=fields.word("uid"),
        name=fields.word("name"),
        places_note=fields.word("places_note", ""),
        rules=read_record(HouseRules, fields.raw("rules")),
        look=read_record(Look, fields.raw("look")) if fields.has("look") else None,
        bench=bench_file_of(fields.raw("bench")),
        places=tuple(read_record(Place, each) for each in fields.entries("places")),
        passes=tuple(passes),
        power=read_record(JobPower, power),
        plan=read_record(BucketPlan, bucket.raw("plan")),
        days=read_record(DayPlan, days.raw("plan")) if days.has("plan") else DayPlan(),
        lines=tuple(_line(Fields(each)) for each in bucket.entries("lines")),  # type: ignore[arg-type]
        ticks=tuple(read_record(Tick, each) for each in fields.entries("ticks")),
    )
    for each in (days, bucket, fields):
        each.done()
    _belong(job)
    return job


def _object(value: object, field: str) -> Row:
    if not isinstance(value, Mapping):
        raise BadValue(field, repr(value), "an object with named values")
    return dict(value)


def _pass(fields: Fields) -> FilePass:
    found = FilePass(
        place=fields.whole("place"), after=fields.whole("after", 0), setup=read_record(Setup, fields.raw("setup"))
    )
    fields.done()
    return found


def _belong(job: JobFile) -> None:
    """Whether everything that is spoken of is there. Raises: BadValue."""
    for number, each in enumerate(job.passes, start=1):
        if not 1 <= each.place <= len(job.places):
            raise BadValue("place", each.place, f"a place of the file, 1 to {len(job.places)}")
        if not 0 <= each.after < number:
            raise BadValue("after", each.after, "a pass before it in the file, or 0")
    for brought in (*job.power.sources, *job.power.chargers, *job.power.loads):
        if not 1 <= brought.place_id <= len(job.places):
            raise BadValue("place_id", brought.place_id, f"a place of the file, 1 to {len(job.places)}")
    numbers = {each.entry_id for each in job.lines}
    for line in job.lines:
        if line.parent_id is not None and line.parent_id not in numbers:
            raise BadValue("parent_number", line.parent_id, "the number of a line of the file")


def _line_row(entry: Entry) -> Row:
    return {
        "number": entry.entry_id,
        "parent_number": entry.parent_id,
        "kind": entry.kind,
        "item": GEAR_KINDS[entry.kind].write(entry.item),
        "quantity": entry.quantity,
        "purpose": entry.purpose,
        "level": entry.level,
        "fed_from": entry.fed_from.value,
        "area_m2": entry.area_m2,
        "setting": entry.setting,
    }


def _line(fields: Fields) -> Entry:
    kind = fields.word("kind")
    if kind not in GEAR_KINDS:
        raise BadValue("kind", repr(kind), "one of " + ", ".join(GEAR_KINDS))
    found = Entry(
        entry_id=fields.whole("number"),
        parent_id=fields.whole("parent_number") if fields.has("parent_number") else None,
        kind=kind,
        item=item_of(kind, _object(fields.raw("item"), "item")),
        quantity=fields.whole("quantity"),
        purpose=fields.word("purpose", ""),
        level=fields.number("level", 1.0),
        fed_from=fields.choice("fed_from", FedFrom, FedFrom.MAINS),
        area_m2=fields.number("area_m2", 1.0),
        setting=fields.word("setting", ""),
    )
    fields.done()
    return found


#: The numbers that power and plan speak of places and passes by.
_PLACE_FIELDS, _PASS_FIELDS = ("place_id",), ("setup_id", "with_id")


def renumbered(document: Row, places: Mapping[int, int], passes: Mapping[int, int]) -> Row:
    """A row of power or plan with other numbers for places and passes; what speaks of one that is gone is left out."""
    found: Row = {}
    for name, value in document.items():
        if isinstance(value, list) and all(isinstance(each, dict) for each in value):
            rows = (_renumbered_row(name, each, places, passes) for each in value)
            found[name] = [row for row in rows if row is not None]
        else:
            found[name] = value
    return found


def _renumbered_row(where: str, row: Row, places: Mapping[int, int], passes: Mapping[int, int]) -> Row | None:
    new = dict(row)
    for names, numbers in ((_PLACE_FIELDS, places), (_PASS_FIELDS, passes)):
        for name in names:
            if new.get(name):
                if new[name] not in numbers:
                    return None
                new[name] = numbers[new[name]]
    if where in ("times", "passes"):
        new["piece_id"] = f"pass-{new['setup_id']}"
    if where == "taken":
        new["piece_id"] = taken_id(new["setup_id"])
    if where == "forecasts":
        new["piece_id"] = forecast_id(new["place_id"], new["day"])
    if where == "pins":
        number, _, load = str(new["piece_id"]).partition(":")
        if not number.isdecimal() or int(number) not in passes:
            return None
        new["piece_id"] = f"{passes[int(number)]}:{load}"
    return new
