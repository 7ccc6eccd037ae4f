"""What a search for the best kit is asked for: how much each measure counts, and the most of each."""

from typing import Any

from iron_bucket.core.bucket.best.problem import Goal, Measure
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.web.shared.typed_fields import Takes, TypedField, field, read_row

#: Money above all, weight next to it.
TYPICAL_WEIGHTS = {Measure.MONEY: 10.0, Measure.WEIGHT: 3.0, Measure.CASES: 0.0, Measure.AMPS: 1.0}
_MOST = {
    Measure.MONEY: "Hire at most",
    Measure.WEIGHT: "Weight at most",
    Measure.CASES: "Cases at most",
    Measure.AMPS: "Amps at most",
}
WEIGHT_FIELDS = tuple(field(f"weight_{each.value}", each.value.capitalize()) for each in Measure)
CAP_FIELDS = tuple(
    field(f"cap_{each.value}", words, Takes.MASS if each is Measure.WEIGHT else Takes.NUMBER, may_be_empty=True)
    for each, words in _MOST.items()
)
GOAL_FIELDS: tuple[TypedField, ...] = (*WEIGHT_FIELDS, *CAP_FIELDS)


def goal_values(goal: Goal) -> dict[str, Any]:
    """As the form shows it."""
    weights = {f"weight_{each.value}": goal.weights.get(each, 0.0) for each in Measure}
    return weights | {f"cap_{each.value}": goal.caps.get(each) for each in Measure}


def read_goal(form: Any, units: UnitSystem) -> Goal:
    """Raises: BadValue."""
    row = read_row(GOAL_FIELDS, form, units)
    caps = {each: row.get(f"cap_{each.value}") for each in Measure}
    return Goal(
        weights={each: float(row.get(f"weight_{each.value}") or 0.0) for each in Measure},
        caps={each: float(cap) for each, cap in caps.items() if cap is not None},
    )
