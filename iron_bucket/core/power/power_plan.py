"""Sources and loads, and which feeds which."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from iron_bucket.core.errors import BadValue
from iron_bucket.core.power.planned_load import PlannedLoad, Spot
from iron_bucket.core.power.sources import Channel, Source, ThreePhaseSource
from iron_bucket.core.quantities.rounding import at_most

MOST_SOURCES, MOST_LOADS = 100, 400


@dataclass(frozen=True, kw_only=True)
class PowerPlan:
    """``microphone_m``: where it is listened."""

    sources: tuple[Source, ...]
    loads: tuple[PlannedLoad, ...]
    microphone_m: Spot | None = None

    def __post_init__(self) -> None:
        for field, some, most in (("sources", self.sources, MOST_SOURCES), ("loads", self.loads, MOST_LOADS)):
            if len(some) > most:
                raise BadValue(field, f"{len(some)} of them", f"up to {most}")
        ids = [each.source_id for each in self.sources]
        for field, names in (("sources", ids), ("loads", [each.load_id for each in self.loads])):
            twice = next((name for name in names if names.count(name) > 1), None)
            if twice is not None:
                raise BadValue(f"id in {field}", repr(twice), "one that is used once")
        for load in self.loads:
            if load.fed_by and load.fed_by not in ids:
                raise BadValue("fed_by", repr(load.fed_by), "the id of a source: " + ", ".join(ids))
            if load.leg and load.fed_by and not isinstance(self.source(load.fed_by), ThreePhaseSource):
                raise BadValue("leg", repr(load.leg), "only with a source of three phases")

    def source(self, source_id: str) -> Source:
        """The one of that id."""
        return next(each for each in self.sources if each.source_id == source_id)

    @cached_property
    def channels(self) -> tuple[Channel, ...]:
        """Of all sources, in their order."""
        return tuple(channel for source in self.sources for channel in source.channels)

    def takes(self, load: PlannedLoad, channel: Channel) -> bool:
        """Whether a load may go there at all, and by where it is pinned."""
        if load.may is not None and channel.source_id not in load.may:
            return False
        return load.fed_by in ("", channel.source_id) and (not load.leg or not channel.leg or load.leg == channel.leg)


#: Where each load hangs, by its id; what hangs nowhere is missing.
Feeding = dict[str, Channel]


def as_pinned(plan: PowerPlan) -> Feeding:
    """Each load where the plan says. Raises: BadValue for a board without a leg."""
    found: Feeding = {}
    for load in plan.loads:
        if not load.fed_by:
            continue
        channels = [channel for channel in plan.source(load.fed_by).channels if plan.takes(load, channel)]
        if len(channels) > 1:
            raise BadValue("leg", f"missing for {load.load_id!r}", "a, b or c, or share_out true")
        found[load.load_id] = channels[0]
    return found


def taken(channel: Channel, load: PlannedLoad) -> float:
    """How much of a channel's limit a load takes: VA, or W where that counts."""
    return load.drawn_w if channel.counts_watts else load.drawn_va


def plates_of(channel: Channel, load: PlannedLoad) -> int:
    """How many batteries or outlets it takes there; one that is off takes none."""
    return load.plates.get(channel.source_id, 1) if load.drawn_w > 0.0 else 0


def bears(channel: Channel, hung: Iterable[PlannedLoad]) -> bool:
    """Whether loads may hang there together: within its limit, with what it holds, and each of them can start."""
    loads = tuple(hung)
    together = sum(taken(channel, load) for load in loads)
    jump = max((load.jump_va for load in loads if load.drawn_va > 0.0), default=0.0)
    return (
        at_most(together, channel.limit)
        and (channel.energy_wh is None or at_most(sum(load.energy_wh for load in loads), channel.energy_wh))
        and (channel.plates is None or sum(plates_of(channel, load) for load in loads) <= channel.plates)
        and (channel.start_limit is None or not jump or at_most(together + jump, channel.start_limit))
    )


def hanging(plan: PowerPlan, feeding: Feeding, channel: Channel) -> list[PlannedLoad]:
    """All that is fed from there, in the order of the plan."""
    return [load for load in plan.loads if feeding.get(load.load_id) == channel]


def left_of(plan: PowerPlan, feeding: Feeding) -> dict[Channel, float]:
    """What is left of each channel's limit; below 0 where too much hangs on it."""
    left = {channel: channel.limit for channel in plan.channels}
    for load in plan.loads:
        channel = feeding.get(load.load_id)
        if channel is not None:
            left[channel] -= taken(channel, load)
    return left
