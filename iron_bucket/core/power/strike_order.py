"""In which order lamps are struck: one at a time, so that no start meets more than it must, what warms up first where
nothing speaks against it.
"""

from dataclasses import dataclass

from iron_bucket.core.checks import require_not_negative


@dataclass(frozen=True, slots=True, kw_only=True)
class Starter:
    """``running_a`` when it burns, ``peak_a`` while it starts, no less than that; ``warm_up_min`` until it is right."""

    load_id: str
    running_a: float
    peak_a: float
    warm_up_min: float = 0.0

    def __post_init__(self) -> None:
        require_not_negative("running_a", self.running_a, unit="A")
        require_not_negative("warm_up_min", self.warm_up_min, unit="min")
        require_not_negative("peak_a beyond running_a", self.peak_a - self.running_a, unit="A")


@dataclass(frozen=True, slots=True, kw_only=True)
class StrikeOrder:
    """``steps``: each load with what is drawn while it starts; ``standing_a``: what hangs there already."""

    steps: tuple[tuple[Starter, float], ...]
    standing_a: float = 0.0

    @property
    def peak_a(self) -> float:
        """The most that is drawn at any start: what a generator must bear for a moment."""
        return max((drawn for _, drawn in self.steps), default=self.standing_a)

    @property
    def running_a(self) -> float:
        """With all of them lit."""
        return self.standing_a + sum(each.running_a for each, _ in self.steps)

    @property
    def ready_min(self) -> float:
        """When the last of them is right, with all struck one right after the other."""
        return max((each.warm_up_min for each, _ in self.steps), default=0.0)


def strike_order(starters: tuple[Starter, ...], standing_a: float = 0.0) -> StrikeOrder:
    """The order with the lowest peak: what jumps highest over its running current first, of those that jump alike what
    warms up longest.

    Source: exchanging two neighbours that stand otherwise never lowers the peak.
    """
    order = sorted(starters, key=lambda each: (each.running_a - each.peak_a, -each.warm_up_min, each.load_id))
    steps, running_a = [], standing_a
    for each in order:
        steps.append((each, running_a + each.peak_a))
        running_a += each.running_a
    return StrikeOrder(steps=tuple(steps), standing_a=standing_a)
