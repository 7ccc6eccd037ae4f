"""What the last third of a stop of a target costs: the best kit once more with that much less there."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace

import numpy as np

from iron_bucket.core.bucket.best.optimum import Best, best_for
from iron_bucket.core.bucket.best.problem import Goal, Measure, PassLight, Problem
from iron_bucket.core.errors import NoAnswer

LESS_STOPS = 1.0 / 3.0
_SECONDS = 3.0
#: What rounding may be.
_NOTHING = {Measure.MONEY: 0.005, Measure.WEIGHT: 0.05, Measure.CASES: 0.005, Measure.AMPS: 0.005}


@dataclass(frozen=True, slots=True, kw_only=True)
class TargetPrice:
    """``saved`` by each measure where the mark may lie a third of a stop lower; below 0 where one measure pays for
    another.
    """

    pass_id: int
    name: str
    saved: Mapping[Measure, float]

    @property
    def is_free(self) -> bool:
        """Whether nothing would be saved."""
        return not any(self.saved.values())


def target_prices(
    problem: Problem,
    goal: Goal,
    best: Best,
    names: Mapping[int, Mapping[int, str]],
    progress: Callable[[int, int], None] = lambda done, of: None,
) -> Iterator[TargetPrice]:
    """Of each target, by the names of the marks of each pass."""
    asked = [(light, mark, name) for light in problem.lights for mark, name in names.get(light.pass_id, {}).items()]
    for done, (light, mark, name) in enumerate(asked):
        progress(done, len(asked))
        eased = replace(problem, lights=tuple(_eased(each, light, mark) for each in problem.lights))
        try:
            found = best_for(eased, goal, today=best.today, seconds=_SECONDS, gap=0.0).measures
        except NoAnswer:  # not in time
            found = best.measures
        saved = {measure: best.measures[measure] - found[measure] for measure in Measure}
        kept = {measure: value if abs(value) > _NOTHING[measure] else 0.0 for measure, value in saved.items()}
        yield TargetPrice(pass_id=light.pass_id, name=name, saved=kept)


def _eased(each: PassLight, light: PassLight, mark: int) -> PassLight:
    if each is not light:
        return each
    share = np.where(np.arange(len(each.low_lx)) == mark, 2.0**-LESS_STOPS, 1.0)
    return replace(each, low_lx=each.low_lx * share)
