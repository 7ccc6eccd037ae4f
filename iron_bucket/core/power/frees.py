"""What hangs nowhere, why, and every single change that would free a place for it."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from iron_bucket.core.power.planned_load import PlannedLoad
from iron_bucket.core.power.power_plan import Feeding, PowerPlan, left_of, taken
from iron_bucket.core.power.sources import BatterySource, Channel, CircuitSource, StationSource

#: One stop down is half of the light.
_STOP = 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Free:
    """One change in words; ``amps`` that it takes off where the load then goes, None where that counts no amps."""

    what: str
    amps: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Unplaced:
    """A load that hangs nowhere."""

    load_id: str
    why: str
    frees: tuple[Free, ...]


def unplaced(plan: PowerPlan, feeding: Feeding) -> tuple[Unplaced, ...]:
    """Each load that is fed by nothing, in the order of the plan."""
    left = left_of(plan, feeding)
    return tuple(
        Unplaced(load_id=load.load_id, why=_why(plan, load, left), frees=tuple(_frees(plan, load, feeding, left)))
        for load in plan.loads
        if load.load_id not in feeding
    )


def _why(plan: PowerPlan, load: PlannedLoad, left: dict[Channel, float]) -> str:
    able = [channel for channel in plan.channels if plan.takes(load, channel)]
    if not able:
        return "there is no source for it"
    most = max(able, key=lambda channel: left[channel] - taken(channel, load))
    needs, has, unit = taken(most, load), max(left[most], 0.0), _unit(plan, most)
    if needs <= has:  # by its amps it would fit: it is the hours that are missing
        return f"it needs {load.drawn_w * (load.hours or 0.0):.0f} Wh, more than {_name(most)} has left"
    return (
        f"it needs {_in_unit(plan, most, needs):.1f} {unit}, {_name(most)} has {_in_unit(plan, most, has):.1f} {unit}"
    )


def _frees(plan: PowerPlan, load: PlannedLoad, feeding: Feeding, left: dict[Channel, float]) -> Iterator[Free]:
    """Dimming it, dimming or moving what hangs there, another source of the kind."""
    able = [channel for channel in plan.channels if plan.takes(load, channel)]
    dimmed = replace(load, level=load.level * _STOP)
    for channel in able:
        short = taken(channel, load) - left[channel]
        if short <= 0.0:
            continue
        saved = taken(channel, load) - taken(channel, dimmed)
        if saved >= short:
            yield Free(what=f"dim {load.load_id} 1 stop, on {_name(channel)}", amps=_amps(plan, channel, saved))
        for other in (each for each in plan.loads if feeding.get(each.load_id) == channel):
            eased = taken(channel, other) - taken(channel, replace(other, level=other.level * _STOP))
            if eased >= short:
                yield Free(what=f"dim {other.load_id} 1 stop, on {_name(channel)}", amps=_amps(plan, channel, eased))
            if taken(channel, other) < short:
                continue
            for there in plan.channels:
                if there != channel and plan.takes(other, there) and taken(there, other) <= left[there]:
                    what = f"move {other.load_id} from {_name(channel)} to {_name(there)}"
                    yield Free(what=what, amps=_amps(plan, channel, taken(channel, other)))
    for source_id in dict.fromkeys(channel.source_id for channel in able):
        source = plan.source(source_id)
        one = source.channels[0]
        if isinstance(source, (CircuitSource, BatterySource, StationSource)) and taken(one, load) <= _empty(source):
            yield Free(what=f"a second source like {source_id}", amps=_amps(plan, one, taken(one, load)))


def _empty(source: CircuitSource | BatterySource | StationSource) -> float:
    """What one of its kind bears with nothing on it."""
    if isinstance(source, CircuitSource):
        return source.circuit.limit_a * source.voltage_v
    return source.channels[0].limit


def _name(channel: Channel) -> str:
    return f"{channel.source_id}, leg {channel.leg}" if channel.leg else channel.source_id


def _unit(plan: PowerPlan, channel: Channel) -> str:
    return "W" if channel.counts_watts else "A"


def _in_unit(plan: PowerPlan, channel: Channel, amount: float) -> float:
    return amount if channel.counts_watts else amount / _voltage_v(plan, channel)


def _amps(plan: PowerPlan, channel: Channel, amount: float) -> float | None:
    return None if channel.counts_watts else amount / _voltage_v(plan, channel)


def _voltage_v(plan: PowerPlan, channel: Channel) -> float:
    source = plan.source(channel.source_id)
    return 1.0 if isinstance(source, StationSource) else source.voltage_v
