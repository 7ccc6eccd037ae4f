"""A kit as JSON for programs: every line with its why, where it comes from, its case. Described in
docs/kit-format.md.
"""

from collections.abc import Mapping
from typing import Any

from iron_bucket.core.bucket.hire import Source
from iron_bucket.core.bucket.job_kit import JobKit, KitLine
from iron_bucket.core.bucket.load.cases import Packed
from iron_bucket.core.bucket.need import Sort
from iron_bucket.core.bucket.peak import Peak
from iron_bucket.core.bucket.totals import Totals

Row = dict[str, Any]


def kit_answer(kit: JobKit, sources: Mapping[Sort, Source], packed: Packed, totals: Totals, days: int) -> Row:
    """``day_price`` of all that is hired of a line; ``hire`` totals for all days."""
    price = sum(each.price or 0.0 for each in sources.values())
    weight_kg = sum(box.weight_kg for box in packed.boxes)
    return {
        "lines": [_line(line, sources[line.sort], packed) for line in kit.lines],
        "totals": {
            "pieces": sum(line.quantity for line in kit.lines),
            "heads": totals.heads,
            "weight_kg": totals.weight_kg,
            "weight_in_cases_kg": weight_kg,
            "mains_w": totals.mains_w,
            "mains_a": totals.mains_a,
            "battery_wh": totals.battery_wh,
            "day_price": totals.day_price,
            "days": days,
            "hire": price,
            "cases": sum(box.case is not None for box in packed.boxes),
            "short": sum(each.short for each in sources.values()),
        },
        "peaks": [_peak(line, line.peak) for line in kit.lines if line.peak and line.kind == "heads"],
        "left_out": list(kit.left_out),
    }


def _line(line: KitLine, source: Source, packed: Packed) -> Row:
    one = line.item.day_price
    return {
        "what": line.item.name,
        "slug": line.item.slug,
        "kind": line.kind,
        "area_m2": line.area_m2,
        "quantity": line.quantity,
        "by_hand": line.by_hand,
        "derived": line.derived,
        "own": source.own,
        "lent": [{"owner": owner, "count": count} for owner, count in source.lent],
        "hire": source.hired,
        "short": source.short,
        "why": [{"setup": why.setup, "rule": why.rule, "figure": why.figure} for why in line.whys],
        "weight_kg": line.weight_of(line.quantity),
        "day_price": None if one is None else one * line.area_m2 * source.hired,
        "case": packed.box_of(line.item.slug),
    }


def _peak(line: KitLine, peak: Peak) -> Row:
    return {
        "what": line.item.name,
        "quantity": peak.quantity,
        "setups": [each.name for each in peak.passes],
        "from": peak.passes[-1].starts.isoformat(timespec="minutes") if peak.passes else "",
    }
