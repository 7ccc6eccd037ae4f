"""What no choice can go below: the same program with lamps that may be shared out in parts, by an interior point."""

import numpy as np
from scipy.optimize import linprog
from scipy.sparse import vstack

from iron_bucket.core.bucket.best.model import Model
from iron_bucket.core.bucket.best.problem import Goal, Measure, Problem


def least_cost(problem: Problem, goal: Goal, today: dict[Measure, float], seconds: float) -> float | None:
    """None where it was not found within so many seconds, or where nothing holds at all."""
    model = Model(problem)
    rows = model.constraints(goal)
    matrix = vstack([each.A for each in rows]).tocsr()
    low, high = (np.concatenate([getattr(each, end) for each in rows]) for end in ("lb", "ub"))
    is_equal, is_below, is_above = low == high, np.isfinite(high), np.isfinite(low)
    below, above = ~is_equal & is_below, ~is_equal & is_above
    bounds = model.bounds(may_hire=goal.may_hire)
    found = linprog(
        model.cost(goal, today),
        A_ub=vstack([matrix[below], -matrix[above]]),
        b_ub=np.concatenate([high[below], -low[above]]),
        A_eq=matrix[is_equal],
        b_eq=low[is_equal],
        bounds=np.column_stack([bounds.lb, bounds.ub]),
        method="highs-ipm",
        options={"time_limit": seconds},
    )
    return float(found.fun) if found.success else None
