"""Of every circuit the worst minute of a day: what burns in several passes at once counts together."""

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass

from iron_bucket.core.power.job.load_board import LoadBoard
from iron_bucket.core.power.job.shooting_day import Phase, ShootingDay

#: The continuous-load school asks for its share from so many hours on: docs/craft.md, section 6.
CONTINUOUS_FROM_H = 3.0
#: A circuit by the number of its place and its name.
CircuitKey = tuple[int, str]


@dataclass(frozen=True, slots=True, kw_only=True)
class WorstMinute:
    """``amps`` with what hangs on it already, from ``minute`` of the day on; ``passes``: numbers of those that burn
    then; ``burns_h``: the longest that our lamps burn on it without a break.
    """

    amps: float
    minute: int
    passes: tuple[int, ...]
    burns_h: float

    @property
    def is_continuous(self) -> bool:
        """Whether it burns so long that the school of four fifths asks for its share."""
        return self.burns_h > CONTINUOUS_FROM_H


def worst_minutes(day: ShootingDay, boards: Mapping[int, LoadBoard]) -> dict[CircuitKey, WorstMinute]:
    """``boards`` by the numbers of the passes."""
    worst: dict[CircuitKey, tuple[float, int, tuple[int, ...]]] = {}
    stretch_min: dict[CircuitKey, int] = defaultdict(int)
    longest_min: dict[CircuitKey, int] = defaultdict(int)
    for phase in day.phases:
        found = _drawn(day, phase, boards)
        for key in set(stretch_min) - set(found):
            stretch_min[key] = 0
        for key, (amps, passes) in found.items():
            stretch_min[key] += phase.minutes
            longest_min[key] = max(longest_min[key], stretch_min[key])
            if key not in worst or amps > worst[key][0]:
                worst[key] = (amps, phase.start_min, passes)
    return {
        key: WorstMinute(amps=amps, minute=minute, passes=passes, burns_h=longest_min[key] / 60.0)
        for key, (amps, minute, passes) in worst.items()
    }


def _drawn(
    day: ShootingDay, phase: Phase, boards: Mapping[int, LoadBoard]
) -> dict[CircuitKey, tuple[float, tuple[int, ...]]]:
    """Amps of each circuit on which anything of ours burns in a phase, and by which passes. A lamp that two passes of
    one set-up share counts once, at its higher level.
    """
    of_load: dict[CircuitKey, dict[object, float]] = defaultdict(dict)
    passes: dict[CircuitKey, list[int]] = defaultdict(list)
    used: dict[CircuitKey, float] = {}
    for burning in phase.burning:
        own = day.passes[burning.at].of
        for bar in boards[own.setup_id].bars:
            key = (own.place_id, bar.name)
            if not any(load.watts > 0.0 for load in bar.loads):
                continue
            used[key] = bar.circuit.used_a
            passes[key].append(own.setup_id)
            for load in bar.loads:
                name = (own.chain, load.load_id) if load.lamp else load.load_id
                of_load[key][name] = max(bar.amps_of(load), of_load[key].get(name, 0.0))
    return {key: (used[key] + sum(each.values()), tuple(passes[key])) for key, each in of_load.items()}
