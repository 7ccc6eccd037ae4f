"""The choice that is best for all set-ups at once, by mixed-integer programming (HiGHS, through scipy)."""

import math
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np
from scipy.optimize import milp

from iron_bucket.core.arrays import Array
from iron_bucket.core.bucket.best.bound import least_cost
from iron_bucket.core.bucket.best.model import Model, cost_of
from iron_bucket.core.bucket.best.problem import Goal, Measure, Problem, measured
from iron_bucket.core.bucket.best.settle import settled_levels
from iron_bucket.core.bucket.best.windows import in_windows
from iron_bucket.core.errors import NoAnswer

#: What HiGHS says where nothing holds.
_INFEASIBLE = 2
#: Beyond it nobody waits for the last of the gap.
SECONDS, GAP = 10.0, 0.002
#: With more lamps than that a job is chosen by parts.
_WHOLE = 75
#: Nothing to divide by.
_LEAST_COST = 1e-9


@dataclass(frozen=True, slots=True, kw_only=True)
class Best:
    """``chosen`` and ``levels`` seat by seat; ``measures`` of it and of ``today``; ``gap``: how much better, as a
    share, another could still be; 1 where that is not known.
    """

    chosen: tuple[int, ...]
    levels: tuple[float, ...]
    measures: dict[Measure, float]
    today: dict[Measure, float]
    gap: float


def today_of(problem: Problem) -> dict[Measure, float]:
    """What it comes to as it stands."""
    return measured(problem, [seat.today for seat in problem.seats], [seat.level for seat in problem.seats])


def best_for(
    problem: Problem,
    goal: Goal,
    *,
    today: dict[Measure, float] | None = None,
    seconds: float = SECONDS,
    gap: float = GAP,
) -> Best:
    """Within so many seconds, a large job by parts; levels as near to today's light as the choice lets them. ``today``
    where the problem does not hold what stands there. Raises: NoAnswer where no choice holds every target within the
    caps, or none was found in time.
    """
    today = today or today_of(problem)
    if len(problem.seats) <= _WHOLE:
        chosen, levels, left = _solved(problem, goal, today, seconds, gap)
        bound = None
    else:
        with ThreadPoolExecutor(1) as beside:  # HiGHS lets go of the interpreter meanwhile
            least = beside.submit(least_cost, problem, goal, today, seconds)
            chosen, levels = in_windows(problem, lambda part, most: _solved(part, goal, today, most, gap)[:2], seconds)
            left, bound = 1.0, least.result()
    is_amps_kept = bool(goal.weights.get(Measure.AMPS)) or Measure.AMPS in goal.caps
    levels = settled_levels(problem, chosen, levels, is_amps_kept=is_amps_kept)
    measures = measured(problem, list(chosen), list(levels))
    if bound is not None:
        left = max(1.0 - bound / max(cost_of(goal, measures, today), _LEAST_COST), 0.0)
    return Best(chosen=chosen, levels=levels, measures=measures, today=today, gap=left)


def _solved(
    problem: Problem, goal: Goal, today: dict[Measure, float], seconds: float, gap: float
) -> tuple[tuple[int, ...], tuple[float, ...], float]:
    """Chosen, levels, and the gap that is left. Raises: NoAnswer."""
    model = Model(problem)
    found = milp(
        model.cost(goal, today),
        constraints=model.constraints(goal),
        bounds=model.bounds(may_hire=goal.may_hire),
        integrality=model.whole(),
        options={"time_limit": seconds, "mip_rel_gap": gap},
    )
    if found.x is None:
        raise NoAnswer(_refusal(goal, seconds, has_none=found.status == _INFEASIBLE))
    chosen, levels = _read(model, found.x)
    left = float(found.mip_gap) if found.mip_gap is not None and math.isfinite(found.mip_gap) else 1.0
    return chosen, levels, left


def _refusal(goal: Goal, seconds: float, *, has_none: bool) -> str:
    if not has_none:
        return f"No choice of lamps was found within {seconds:g} s."
    within = [*(["without hire"] if not goal.may_hire else []), *(["within the caps"] if goal.caps else [])]
    return " ".join(("No choice of lamps holds every target", *within)) + "."


def _read(model: Model, columns: Array) -> tuple[tuple[int, ...], tuple[float, ...]]:
    chosen, levels = [], []
    for at, seat in enumerate(model.problem.seats):
        begin, end = model.first[at], model.first[at + 1]
        best = int(np.argmax(columns[begin:end]))
        choice = seat.choices[best]
        level = float(columns[model.choices + begin + best])
        chosen.append(best)
        levels.append(min(max(level, choice.lowest), choice.highest))
    return tuple(chosen), tuple(levels)
