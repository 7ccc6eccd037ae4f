"""Of every circuit the worst minute of a day: what burns in several passes at once counts together."""

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass

from iron_bucket.core.power.job.burning_bars import CircuitKey, burning_bars
from iron_bucket.core.power.job.load_board import LoadBoard
from iron_bucket.core.power.job.shooting_day import ShootingDay

#: The continuous-load school asks for its share from so many hours on: docs/craft.md, section 6.
CONTINUOUS_FROM_H = 3.0


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
        found = burning_bars(day, phase, boards)
        for key in set(stretch_min) - set(found):
            stretch_min[key] = 0
        for key, each in found.items():
            stretch_min[key] += phase.minutes
            longest_min[key] = max(longest_min[key], stretch_min[key])
            if key not in worst or each.bar.amps > worst[key][0]:
                worst[key] = (each.bar.amps, phase.start_min, each.passes)
    return {
        key: WorstMinute(amps=amps, minute=minute, passes=passes, burns_h=longest_min[key] / 60.0)
        for key, (amps, minute, passes) in worst.items()
    }
