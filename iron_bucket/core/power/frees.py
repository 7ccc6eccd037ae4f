"""What hangs nowhere, why, and every single change that would free a place for it."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

from iron_bucket.core.power.planned_load import PlannedLoad
from iron_bucket.core.power.power_plan import Feeding, PowerPlan, bears, hanging, left_of, plates_of, taken
from iron_bucket.core.power.sources import BatterySource, Channel, CircuitSource, StationSource

_NO_NAMES: Mapping[str, str] = {}
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


def unplaced(plan: PowerPlan, feeding: Feeding, names: Mapping[str, str] = _NO_NAMES) -> tuple[Unplaced, ...]:
    """Each load that is fed by nothing, in the order of the plan. ``names`` of sources beside their ids."""
    left = left_of(plan, feeding)
    return tuple(
        Unplaced(
            load_id=load.load_id, why=_why(plan, load, feeding, left, names), frees=tuple(_frees(plan, load, feeding))
        )
        for load in plan.loads
        if load.load_id not in feeding
    )


def _why(
    plan: PowerPlan, load: PlannedLoad, feeding: Feeding, left: dict[Channel, float], names: Mapping[str, str]
) -> str:
    able = [channel for channel in plan.channels if plan.takes(load, channel)]
    if not able:
        return "there is no source for it"
    most = max(able, key=lambda channel: left[channel] - taken(channel, load))
    name = names.get(most.source_id, _name(most))
    needs, has, unit = taken(most, load), max(left[most], 0.0), _unit(plan, most)
    if needs > has:
        return f"it needs {_in_unit(plan, most, needs):.1f} {unit}, {name} has {_in_unit(plan, most, has):.1f} {unit}"
    hung = hanging(plan, feeding, most)
    if not bears(replace(most, energy_wh=None, start_limit=None), [*hung, load]):  # then it is the plates
        free = (most.plates or 0) - sum(plates_of(most, each) for each in hung)
        return f"it takes {plates_of(most, load)} of {name}, and {max(free, 0)} {'is' if free == 1 else 'are'} left"
    if not bears(replace(most, start_limit=None), [*hung, load]):
        return f"it needs {load.energy_wh:.0f} Wh, more than {name} has left"
    return f"its start is more than {name} bears beside what burns there"


def _frees(plan: PowerPlan, load: PlannedLoad, feeding: Feeding) -> Iterator[Free]:
    """Dimming it, dimming or moving what hangs there, another source of the kind."""
    able = [channel for channel in plan.channels if plan.takes(load, channel)]
    dimmed = replace(load, level=load.level * _STOP)
    for channel in able:
        hung = hanging(plan, feeding, channel)
        if bears(channel, [*hung, load]):
            continue
        if bears(channel, [*hung, dimmed]):
            yield _dimmed(plan, channel, load)
        for other in hung:
            rest = [each for each in hung if each is not other]
            if bears(channel, [*rest, replace(other, level=other.level * _STOP), load]):
                yield _dimmed(plan, channel, other)
            if not bears(channel, [*rest, load]):
                continue
            for there in plan.channels:
                at_there = hanging(plan, feeding, there)
                if there != channel and plan.takes(other, there) and bears(there, [*at_there, other]):
                    what = f"move {other.load_id} from {_name(channel)} to {_name(there)}"
                    yield Free(what=what, amps=_amps(plan, channel, taken(channel, other)))
    for source_id in dict.fromkeys(channel.source_id for channel in able):
        source = plan.source(source_id)
        one = source.channels[0]
        if isinstance(source, (CircuitSource, BatterySource, StationSource)) and bears(_empty(source), [load]):
            yield Free(what=f"a second source like {source_id}", amps=_amps(plan, one, taken(one, load)))


def _dimmed(plan: PowerPlan, channel: Channel, load: PlannedLoad) -> Free:
    saved = taken(channel, load) - taken(channel, replace(load, level=load.level * _STOP))
    return Free(what=f"dim {load.load_id} 1 stop, on {_name(channel)}", amps=_amps(plan, channel, saved))


def _empty(source: CircuitSource | BatterySource | StationSource) -> Channel:
    """One of its kind with nothing on it."""
    own = source.channels[0]
    if isinstance(source, CircuitSource):
        return replace(own, limit=source.circuit.limit_a * source.voltage_v)
    return own


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
