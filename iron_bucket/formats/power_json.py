"""A power plan as JSON, and what becomes of it. The format is described in docs/power-format.md."""

from collections.abc import Callable
from dataclasses import asdict
from typing import Any

from iron_bucket.core.errors import BadValue
from iron_bucket.core.power.battery import FULL_CAPACITY_FROM_C, Supply
from iron_bucket.core.power.circuit import EIGHTY_PERCENT, Circuit
from iron_bucket.core.power.frees import Unplaced
from iron_bucket.core.power.load import DrawCurve
from iron_bucket.core.power.planned_load import Lead, PlannedLoad, Spot
from iron_bucket.core.power.power_plan import PowerPlan
from iron_bucket.core.power.power_report import LoadReport, SourceReport
from iron_bucket.core.power.sources import (
    BatterySource,
    CircuitSource,
    GeneratorSource,
    Source,
    StationSource,
    ThreePhaseSource,
)
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.json_text import parsed_json

PLAN_LIMIT_BYTES = 1_000_000


def read_power_plan(text: str) -> tuple[PowerPlan, bool]:
    """A plan, and whether it is to be shared out. Raises: FormatError with field and value."""
    document = parsed_json(text, "power plan", PLAN_LIMIT_BYTES)
    try:
        fields = Fields(document)
        plan = PowerPlan(
            sources=tuple(_source(Fields(each)) for each in fields.entries("sources")),  # type: ignore[arg-type]
            loads=tuple(_load(Fields(each)) for each in fields.entries("loads")),  # type: ignore[arg-type]
            microphone_m=_spot(fields, "microphone_m"),
        )
        share_out = fields.yes("share_out")
        fields.done()
        return plan, share_out
    except BadValue as bad:
        raise FormatError("power plan", None, bad) from bad


def _source(fields: Fields) -> Source:
    kind = fields.word("kind")
    if kind not in _SOURCES:
        raise BadValue("kind", repr(kind), "one of " + ", ".join(_SOURCES))
    found = _SOURCES[kind](fields.word("id"), fields)
    fields.done()
    return found


def _circuit(source_id: str, fields: Fields) -> Source:
    circuit = Circuit(
        voltage_v=fields.number("voltage_v"),
        breaker_a=fields.number("breaker_a"),
        planned_share=fields.number("planned_share", EIGHTY_PERCENT),
        used_a=fields.number("used_a", 0.0),
    )
    return CircuitSource(source_id=source_id, circuit=circuit)


def _three_phase(source_id: str, fields: Fields) -> Source:
    return ThreePhaseSource(
        source_id=source_id,
        voltage_v=fields.number("voltage_v"),
        breaker_a=fields.number("breaker_a"),
        planned_share=fields.number("planned_share", EIGHTY_PERCENT),
    )


def _battery(source_id: str, fields: Fields) -> Source:
    supply = Supply(
        capacity_wh=fields.number("capacity_wh"),
        nominal_v=fields.number("nominal_v"),
        most_a=fields.number("continuous_a"),
        usable=fields.number("usable", 1.0),
        efficiency=fields.number("efficiency", 1.0),
        count=fields.whole("count", 1),
    )
    temperature_c = fields.number("temperature_c", FULL_CAPACITY_FROM_C)
    return BatterySource(source_id=source_id, supply=supply, temperature_c=temperature_c)


def _station(source_id: str, fields: Fields) -> Source:
    continuous_w = fields.number("continuous_w")
    return StationSource(
        source_id=source_id,
        capacity_wh=fields.number("capacity_wh"),
        continuous_w=continuous_w,
        surge_w=fields.number("surge_w", continuous_w),
        efficiency=fields.number("efficiency", 1.0),
    )


def _generator(source_id: str, fields: Fields) -> Source:
    continuous_w = fields.number("continuous_w")
    return GeneratorSource(
        source_id=source_id,
        voltage_v=fields.number("voltage_v"),
        continuous_w=continuous_w,
        peak_w=fields.number("peak_w", continuous_w),
        noise_dba=fields.perhaps("noise_dba"),
        noise_at_m=fields.number("noise_at_m", 7.0),
        at_m=_spot(fields, "at_m"),
    )


_SOURCES: dict[str, Callable[[str, Fields], Source]] = {
    "circuit": _circuit,
    "three_phase": _three_phase,
    "battery": _battery,
    "station": _station,
    "generator": _generator,
}


def _load(fields: Fields) -> PlannedLoad:
    lead = None
    if fields.has("cable"):
        cable = fields.inner("cable")
        lead = Lead(length_m=cable.number("length_m"), area_mm2=cable.number("area_mm2"))
        cable.done()
    load = PlannedLoad(
        load_id=fields.word("id"),
        watts=fields.number("watts"),
        power_factor=fields.number("power_factor", 1.0),
        level=fields.number("level", 1.0),
        idle_w=fields.number("idle_w", 0.0),
        curve=fields.choice("curve", DrawCurve, DrawCurve.ELECTRONIC),
        fed_by=fields.word("fed_by", ""),
        leg=fields.word("leg", ""),
        lead=lead,
        hours=fields.perhaps("hours"),
        at_m=_spot(fields, "at_m"),
    )
    fields.done()
    return load


def _spot(fields: Fields, key: str) -> Spot | None:
    if not fields.has(key):
        return None
    entries = fields.entries(key)
    if len(entries) != 2 or any(isinstance(each, bool) or not isinstance(each, (int, float)) for each in entries):
        raise BadValue(key, repr(entries), "two numbers [x, y] in metres")
    x_m, y_m = (float(each) for each in entries)  # type: ignore[arg-type]
    if max(abs(x_m), abs(y_m)) > 1e5:
        raise BadValue(key, repr(entries), "metres on a plan")
    return x_m, y_m


def power_answer(
    sources: tuple[SourceReport, ...], loads: tuple[LoadReport, ...], left: tuple[Unplaced, ...], gap: float
) -> dict[str, Any]:
    """As one object; what does not apply is null."""
    return {
        "sources": [_row(each, "source_id") for each in sources],
        "loads": [_row(each, "load_id") for each in loads],
        "unplaced": [_row(each, "load_id") for each in left],
        "gap": gap,
    }


def _row(report: SourceReport | LoadReport | Unplaced, key: str) -> dict[str, Any]:
    row = asdict(report)
    return {"id": row.pop(key)} | row
