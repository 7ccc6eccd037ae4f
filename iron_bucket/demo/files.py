"""Reads the scenario's data files."""

import json
from pathlib import Path
from typing import Any

from iron_bucket.core.bench.gear import Gear
from iron_bucket.formats.gear_csv import read_gear_tables

_HERE = Path(__file__).parent


def demo_gear() -> Gear:
    """All of the demo's gear."""
    return read_gear_tables(
        {table.stem: table.read_text(encoding="utf-8") for table in sorted((_HERE / "gear").glob("*.csv"))}
    )


def demo_jobs() -> list[dict[str, Any]]:
    """The demo's jobs: name, places, rules, and what was picked for what."""
    jobs: list[dict[str, Any]] = json.loads((_HERE / "jobs.json").read_text(encoding="utf-8"))
    return jobs
