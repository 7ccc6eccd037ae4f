"""A bucket as CSV for a spreadsheet and as JSON for a program."""

import csv
import io
from typing import Any

from iron_bucket.core.bucket.entry import Entry
from iron_bucket.core.bucket.totals import Totals
from iron_bucket.formats.gear_rows import GEAR_KINDS

FORMAT = "iron-bucket bucket"
VERSION = 1
_COLUMNS = (
    "quantity",
    "name",
    "maker",
    "kind",
    "hangs_on",
    "purpose",
    "setting",
    "level_percent",
    "fed_from",
    "owned",
    "weight_kg",
    "mains_w",
    "battery_wh",
    "day_price_each",
    "slug",
)
#: A spreadsheet takes a cell that begins so for a formula.
_FORMULA_STARTS = ("=", "+", "-", "@", "\t", "\r")


def plain_cell(text: str) -> str:
    """A text that a spreadsheet takes for one."""
    return f"'{text}" if text.startswith(_FORMULA_STARTS) else text


def bucket_csv(entries: tuple[Entry, ...]) -> str:
    """One line an entry, in the order given; weights and watts are those of the whole line."""
    names = {entry.entry_id: entry.item.name for entry in entries}
    out = io.StringIO()
    writer = csv.DictWriter(out, _COLUMNS, lineterminator="\r\n")
    writer.writeheader()
    for entry in entries:
        row = _row(entry)
        writer.writerow(
            {
                **row,
                "name": plain_cell(row["name"]),
                "maker": plain_cell(row["maker"]),
                "purpose": plain_cell(entry.purpose),
                "setting": plain_cell(entry.setting),
                "hangs_on": plain_cell(names.get(entry.parent_id or 0, "")),
                "level_percent": f"{entry.level * 100:.3g}",
            }
        )
    return out.getvalue()


def _row(entry: Entry) -> dict[str, Any]:
    return {
        "quantity": entry.quantity,
        "name": entry.item.name,
        "maker": entry.item.maker,
        "kind": GEAR_KINDS[entry.kind].noun,
        "purpose": entry.purpose,
        "setting": entry.setting,
        "fed_from": entry.fed_from.value if entry.kind == "heads" else "",
        "owned": entry.item.owned,
        "weight_kg": round(entry.weight_kg, 3),
        "mains_w": round(entry.mains_w, 1),
        "battery_wh": round(entry.battery_wh, 1),
        "day_price_each": entry.item.day_price,
        "slug": entry.item.slug,
    }


def bucket_json(job_name: str, entries: tuple[Entry, ...], totals: Totals) -> dict[str, Any]:
    """Entries with what they hang on, and the totals with every caution's figure."""
    return {
        "format": FORMAT,
        "version": VERSION,
        "job": job_name,
        "entries": [
            {**_row(entry), "id": entry.entry_id, "hangs_on": entry.parent_id, "level": entry.level}
            for entry in entries
        ],
        "totals": {
            "heads": totals.heads,
            "mains_w": totals.mains_w,
            "mains_a": totals.mains_a,
            "planned_a": totals.planned_a,
            "battery_wh": totals.battery_wh,
            "weight_kg": totals.weight_kg,
            "day_price": totals.day_price,
        },
        "cautions": [
            {"code": each.code, "title": each.title, "trigger": each.trigger, "action": each.action}
            for each in totals.cautions
        ],
    }
