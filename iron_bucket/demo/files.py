"""Reads the scenario's data files."""

import csv
import json
from pathlib import Path
from typing import Any

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.reading import Reading
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.gear_csv import read_gear_tables
from iron_bucket.formats.reading_rows import reading_of

_HERE = Path(__file__).parent


def demo_gear() -> Gear:
    """All of the demo's gear."""
    return read_gear_tables(
        {table.stem: table.read_text(encoding="utf-8") for table in sorted((_HERE / "gear").glob("*.csv"))}
    )


def demo_readings() -> tuple[Reading, ...]:
    """What was read of the demo's gear."""
    lines = csv.DictReader((_HERE / "readings.csv").read_text(encoding="utf-8").splitlines())
    return tuple(reading_of(Fields({key: value for key, value in row.items() if value})) for row in lines)


def demo_spectra() -> tuple[tuple[str, str, bytes], ...]:
    """Spectra of the demo: what each is of, its file name, its bytes."""
    rows: list[dict[str, str]] = json.loads((_HERE / "spectra.json").read_text(encoding="utf-8"))
    return tuple((row["subject_slug"], row["file"], (_HERE / "spectra" / row["file"]).read_bytes()) for row in rows)


def demo_jobs() -> list[dict[str, Any]]:
    """The demo's jobs: name, places, rules, and what was picked for what."""
    jobs: list[dict[str, Any]] = json.loads((_HERE / "jobs.json").read_text(encoding="utf-8"))
    return jobs


def demo_places() -> list[dict[str, Any]]:
    """The demo's places."""
    places: list[dict[str, Any]] = json.loads((_HERE / "places.json").read_text(encoding="utf-8"))
    return places


def demo_power() -> list[dict[str, Any]]:
    """What the demo's jobs bring to feed their lamps; places and passes by their names."""
    power: list[dict[str, Any]] = json.loads((_HERE / "power.json").read_text(encoding="utf-8"))
    return power


def demo_days() -> list[dict[str, Any]]:
    """What the demo's jobs say of their days, and the weather that was told, a column for each figure; places and
    passes by their names.
    """
    days: list[dict[str, Any]] = json.loads((_HERE / "days.json").read_text(encoding="utf-8"))
    return days


def demo_setups() -> list[dict[str, Any]]:
    """The demo's set-ups: job and place by name, and passes, of which all but the first are changes
    to the one before."""
    setups: list[dict[str, Any]] = json.loads((_HERE / "setups.json").read_text(encoding="utf-8"))
    return setups


def demo_people() -> list[dict[str, Any]]:
    """Who else is in the crew, and as what."""
    people: list[dict[str, Any]] = json.loads((_HERE / "people.json").read_text(encoding="utf-8"))
    return people
