"""The loads of one pass shared out over what the place and the job have."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.places.lead_way import LeadWays
from iron_bucket.core.places.place import Place, Socket
from iron_bucket.core.power.battery import FULL_CAPACITY_FROM_C
from iron_bucket.core.power.circuit import Circuit
from iron_bucket.core.power.frees import Unplaced, unplaced
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.power.job.load_board import BatteryBar, CircuitBar, LoadBoard
from iron_bucket.core.power.job.outlets import SourceLegs, outlet_id
from iron_bucket.core.power.job.pass_loads import PassLoad
from iron_bucket.core.power.planned_load import PlannedLoad
from iron_bucket.core.power.power_plan import PowerPlan
from iron_bucket.core.power.share_out import shared_out
from iron_bucket.core.power.sources import BatterySource, CircuitSource, Source, ThreePhaseSource
from iron_bucket.core.typical import typical

#: Batteries are drawn from where nothing else will do; a generator the rather the quieter it is at the microphone.
_BATTERY_BURDEN, _LOUDEST_DBA = 0.5, 80.0
#: Below this it is a vehicle's.
_LEAST_MAINS_V = 90.0


@dataclass(frozen=True, slots=True, kw_only=True)
class SharedBoard:
    """``feeds``: where each load hangs that hangs otherwise now, by its id; ``gap``: how far, as a share, this may be
    from the best there is; ``left``: what fits nowhere, which stays where it is.
    """

    feeds: dict[str, str]
    gap: float
    left: tuple[Unplaced, ...]


def shared_board(
    board: LoadBoard,
    place: Place,
    ways: LeadWays,
    power: JobPower,
    setup_id: int,
    *,
    hours: float,
    celsius: float | None,
    loudness_dba: Mapping[str, float],
) -> SharedBoard:
    """``hours``: that the lamps of the pass burn; ``loudness_dba``: of generators at the microphone, by their ids."""
    own = {load.load_id for bar in board.batteries if bar.is_built_in for load in bar.loads}
    loads = {load.load_id: load for load in board.loads if load.watts > 0.0 and load.load_id not in own}
    sources = [*_circuits(board, loudness_dba), *_batteries(board, celsius)]
    planned = [
        _planned(load, board, hours, is_pinned=power.is_pinned(setup_id, load.load_id)) for load in loads.values()
    ]
    plan = PowerPlan(sources=tuple(sources), loads=tuple(planned))
    found = shared_out(plan)
    feeds = {}
    for load_id, channel in found.feeding.items():
        feed = _feed(channel.source_id, channel.leg, loads[load_id], board, place, ways)
        if feed != loads[load_id].feed:
            feeds[load_id] = feed
    kinds = {bar.kind.slug: bar.kind.name for bar in board.batteries}
    left = (replace(each, load_id=loads[each.load_id].name) for each in unplaced(plan, found.feeding, kinds))
    return SharedBoard(feeds=feeds, gap=found.gap, left=tuple(left))


def _circuits(board: LoadBoard, loudness_dba: Mapping[str, float]) -> list[Source]:
    """Legs of one source together, everything else by itself."""
    found: list[Source] = []
    for bar in (each for each in board.bars if each.sockets):
        burden = min(loudness_dba.get(bar.generator.piece_id, 0.0) / _LOUDEST_DBA, 1.0) if bar.generator else 0.0
        several = bar.legs if bar.legs and len(bar.legs.circuits) > 1 else None
        if several is None:
            found.append(_circuit(bar, burden))
        elif bar.name == several.circuits[0]:
            found.append(_legs(bar, several, burden))
    return found


def _circuit(bar: CircuitBar, burden: float) -> CircuitSource:
    house = bar.circuit
    circuit = Circuit(
        voltage_v=house.voltage_v, breaker_a=house.breaker_a, planned_share=bar.planned_share, used_a=house.used_a
    )
    return CircuitSource(source_id=bar.name, circuit=circuit, start_a=_start_a(bar), burden=burden)


def _legs(bar: CircuitBar, several: SourceLegs, burden: float) -> ThreePhaseSource:
    return ThreePhaseSource(
        source_id=several.name,
        voltage_v=bar.circuit.voltage_v,
        breaker_a=bar.circuit.breaker_a,
        planned_share=bar.planned_share,
        used_a=bar.circuit.used_a,
        legs=several.phases.legs,
        start_a=_start_a(bar),
        burden=burden,
    )


def _start_a(bar: CircuitBar) -> float:
    """A start that opens a breaker at once is none; a generator gives its peak."""
    if bar.generator:
        return bar.generator.peak_a
    return bar.circuit.breaker_a * float(typical("breaker_curves")[bar.circuit.curve]["must"])


def _batteries(board: LoadBoard, celsius: float | None) -> list[Source]:
    temperature_c = FULL_CAPACITY_FROM_C if celsius is None else celsius
    return [
        BatterySource(
            source_id=bar.kind.slug,
            supply=bar.kind.supply(bar.count),
            temperature_c=temperature_c,
            burden=_BATTERY_BURDEN,
            plates=bar.places,
            surge_w=bar.surge_w,
        )
        for bar in board.batteries
        if bar.count > 0
    ]


def _planned(load: PassLoad, board: LoadBoard, hours: float, *, is_pinned: bool) -> PlannedLoad:
    bar, battery = board.bar_of(load.feed), _battery_of(load, board)
    now, leg = (battery.kind.slug, "") if battery else _source_of(bar) if bar else ("", "")
    able = {_source_of(each)[0] for each in board.bars if each.sockets and takes_volts(load, each)}
    able |= {each.kind.slug for each in board.batteries if each.count and each.can_feed(load)}
    return PlannedLoad(
        load_id=load.load_id,
        watts=load.watts,
        power_factor=load.watts / load.va,
        fed_by=now if is_pinned else "",
        leg=leg if is_pinned else "",
        may=frozenset(able | ({now} if now else set())),
        stays=now,
        hours=hours,
        jump_va=load.jump_va,
        plates={each.kind.slug: each.plates_of(load) for each in board.batteries},
        at_m=(load.x_m, load.y_m),
    )


def _source_of(bar: CircuitBar) -> tuple[str, str]:
    """The id of its source as the plan has it, and its leg."""
    if bar.legs is None or len(bar.legs.circuits) == 1:
        return bar.name, ""
    return bar.legs.name, bar.legs.phases.legs[bar.legs.circuits.index(bar.name)]


def _battery_of(load: PassLoad, board: LoadBoard) -> BatteryBar | None:
    return next((bar for bar in board.batteries if bar.kind.slug == load.feed and bar.count), None)


def takes_volts(load: PassLoad, bar: CircuitBar) -> bool:
    """Whether it runs on that circuit's volts; what is no lamp does on those of any mains."""
    if load.head is None:
        return bar.circuit.voltage_v >= _LEAST_MAINS_V
    return load.head.mains is not None and load.head.mains.takes(bar.circuit.voltage_v)


def _feed(source_id: str, leg: str, load: PassLoad, board: LoadBoard, place: Place, ways: LeadWays) -> str:
    """The battery's slug, or the outlet of a circuit that the shortest lead reaches."""
    battery: BatteryKind | None = next((bar.kind for bar in board.batteries if bar.kind.slug == source_id), None)
    if battery:
        return battery.slug
    bar = next(each for each in board.bars if _source_of(each) == (source_id, leg))
    if bar.legs:
        return outlet_id(bar.legs.source, leg)
    return nearest_outlet(load, bar, place, ways)[0].socket_id


def nearest_outlet(load: PassLoad, bar: CircuitBar, place: Place, ways: LeadWays) -> tuple[Socket, float]:
    """Of a circuit, by the way of the lead; and how long that is on the floor. The one that it hangs on stays."""
    own = [each for each in place.sockets if each.socket_id in bar.sockets]
    lengths = {each.socket_id: ways.way((each.x_m, each.y_m), (load.x_m, load.y_m)).length_m for each in own}
    found = min(own, key=lambda each: (each.socket_id != load.feed, lengths[each.socket_id]))
    return found, lengths[found.socket_id]
