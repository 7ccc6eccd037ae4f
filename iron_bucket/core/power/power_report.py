"""What each source bears and each load gets, of a plan as it is fed."""

import math
from dataclasses import dataclass

from iron_bucket.core.power.apparent import a_from_va
from iron_bucket.core.power.cable import CableRun
from iron_bucket.core.power.generator import sound_level_db
from iron_bucket.core.power.load import DrawCurve
from iron_bucket.core.power.phases import imbalance_share, neutral_a
from iron_bucket.core.power.planned_load import LEGS, PlannedLoad, Spot
from iron_bucket.core.power.power_plan import Feeding, PowerPlan
from iron_bucket.core.power.sources import (
    BatterySource,
    CircuitSource,
    GeneratorSource,
    Source,
    StationSource,
    ThreePhaseSource,
)
from iron_bucket.core.quantities.rounding import at_most

#: Whoever stands nearer to a generator hears it louder than the free field says.
_NEAREST_M = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class SourceReport:
    """``amps``: ours; of batteries from each, of a board on its fullest leg. ``spare_a`` under the house limit;
    ``within_breaker``: of a generator its peak, of a station its surge. What does not apply is None.
    """

    source_id: str
    watts: float
    amps: float | None = None
    limit_a: float | None = None
    spare_a: float | None = None
    within_limit: bool
    within_breaker: bool | None = None
    legs_a: tuple[float, float, float] | None = None
    neutral_a: float | None = None
    imbalance_share: float | None = None
    delivers: bool | None = None
    runtime_h: float | None = None
    level_dba: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class LoadReport:
    """``amps`` at its source; without a lead nothing drops. ``tungsten_flux_share``: what a filament still puts out."""

    load_id: str
    fed_by: str
    leg: str
    amps: float | None
    drop_v: float | None = None
    drop_share: float | None = None
    volts_at_load: float | None = None
    tungsten_flux_share: float | None = None


def source_reports(plan: PowerPlan, feeding: Feeding) -> tuple[SourceReport, ...]:
    """In the order of the plan."""
    return tuple(
        _of_source(source, [load for load in plan.loads if _is_on(source, load, feeding)], feeding, plan.microphone_m)
        for source in plan.sources
    )


def _is_on(source: Source, load: PlannedLoad, feeding: Feeding) -> bool:
    channel = feeding.get(load.load_id)
    return channel is not None and channel.source_id == source.source_id


def _of_source(source: Source, loads: list[PlannedLoad], feeding: Feeding, microphone_m: Spot | None) -> SourceReport:
    watts, va = sum(load.drawn_w for load in loads), sum(load.drawn_va for load in loads)
    match source:
        case CircuitSource(circuit=circuit):
            amps = float(a_from_va(va, circuit.voltage_v))
            return SourceReport(
                source_id=source.source_id,
                watts=watts,
                amps=amps,
                limit_a=circuit.limit_a,
                spare_a=circuit.free_a - amps,
                within_limit=at_most(circuit.used_a + amps, circuit.limit_a),
                within_breaker=at_most(circuit.used_a + amps, circuit.breaker_a),
            )
        case ThreePhaseSource():
            on = {leg: [each for each in loads if feeding[each.load_id].leg == leg] for leg in LEGS}
            legs = tuple(float(a_from_va(sum(each.drawn_va for each in on[leg]), source.voltage_v)) for leg in LEGS)
            return SourceReport(
                source_id=source.source_id,
                watts=watts,
                amps=max(legs),
                limit_a=source.limit_a,
                spare_a=source.limit_a - max(legs),
                within_limit=at_most(max(legs), source.limit_a),
                within_breaker=at_most(max(legs), source.breaker_a),
                legs_a=(legs[0], legs[1], legs[2]),
                neutral_a=neutral_a(*legs),
                imbalance_share=imbalance_share(*legs),
            )
        case BatterySource():
            cold, amps = source.in_the_cold, float(source.in_the_cold.current_a(watts))
            return SourceReport(
                source_id=source.source_id,
                watts=watts,
                amps=amps,
                limit_a=cold.most_a,
                spare_a=cold.most_a - amps,
                within_limit=bool(cold.delivers(watts)),
                delivers=bool(cold.delivers(watts)),
                runtime_h=float(cold.burn_time_h(watts)) if watts else None,
            )
        case StationSource():
            delivers = at_most(watts, source.continuous_w)
            return SourceReport(
                source_id=source.source_id,
                watts=watts,
                within_limit=delivers,
                within_breaker=at_most(watts, source.surge_w),
                delivers=delivers,
                runtime_h=(source.energy_wh / watts if delivers else 0.0) if watts else None,
            )
        case GeneratorSource():
            amps, limit_a = (float(a_from_va(each, source.voltage_v)) for each in (va, source.continuous_w))
            return SourceReport(
                source_id=source.source_id,
                watts=watts,
                amps=amps,
                limit_a=limit_a,
                spare_a=limit_a - amps,
                within_limit=at_most(va, source.continuous_w),
                within_breaker=at_most(va, source.peak_w),
                level_dba=_level_dba(source, microphone_m),
            )


def _level_dba(source: GeneratorSource, microphone_m: Spot | None) -> float | None:
    """At the microphone, in the free field; None where either place or the machine's own level is not known."""
    if microphone_m is None or source.at_m is None or source.noise_dba is None:
        return None
    away_m = max(math.dist(source.at_m, microphone_m), _NEAREST_M)
    return sound_level_db((source.noise_dba,), reference_m=source.noise_at_m, distance_m=away_m)


def load_reports(plan: PowerPlan, feeding: Feeding) -> tuple[LoadReport, ...]:
    """In the order of the plan."""
    return tuple(_of_load(plan, load, feeding) for load in plan.loads)


def _of_load(plan: PowerPlan, load: PlannedLoad, feeding: Feeding) -> LoadReport:
    channel = feeding.get(load.load_id)
    if channel is None:
        return LoadReport(load_id=load.load_id, fed_by="", leg="", amps=None)
    source = plan.source(channel.source_id)
    bare = LoadReport(load_id=load.load_id, fed_by=channel.source_id, leg=channel.leg, amps=None)
    match source:
        case StationSource():
            return bare
        case BatterySource():
            amps = float(source.in_the_cold.current_a(load.drawn_w))
        case CircuitSource() | ThreePhaseSource() | GeneratorSource():
            amps = float(a_from_va(load.drawn_va, source.voltage_v))
    if load.lead is None:
        return LoadReport(load_id=load.load_id, fed_by=channel.source_id, leg=channel.leg, amps=amps)
    run = CableRun(voltage_v=source.voltage_v, current_a=amps, length_m=load.lead.length_m, area_mm2=load.lead.area_mm2)
    return LoadReport(
        load_id=load.load_id,
        fed_by=channel.source_id,
        leg=channel.leg,
        amps=amps,
        drop_v=run.drop_v,
        drop_share=run.drop_share,
        volts_at_load=source.voltage_v - run.drop_v,
        tungsten_flux_share=run.tungsten_flux_share if load.curve is DrawCurve.FILAMENT else None,
    )
