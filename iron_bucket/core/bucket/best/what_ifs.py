"""What another way of working would come to: the same problem with some lamps left out, or less to carry."""

from collections.abc import Callable
from dataclasses import replace
from enum import StrEnum

from iron_bucket.core.bench.head import Technology
from iron_bucket.core.bucket.best.problem import Choice, Goal, Measure, Problem
from iron_bucket.core.errors import NoAnswer

_LED = tuple(each.value for each in Technology if each.is_led)


class WhatIf(StrEnum):
    """Each beside what is best without it."""

    BATTERY = "all from batteries"
    NO_HIRE = "no hire"
    ONE_VAN = "one van"
    ONE_CARRIES = "one person carries"
    TUNGSTEN = "tungsten only"
    LED = "LED only"


def narrowed(
    problem: Problem, goal: Goal, what_if: WhatIf, *, lift_kg: float, van_kg: float | None
) -> tuple[Problem, Goal]:
    """``lift_kg``: what one person lifts: no head weighs more, with its driver and cable. ``van_kg``: what one van
    carries of it, None without one; whether all stands in it shows the load.

    Raises: NoAnswer where some work has no such lamp, or there is no van.
    """
    if what_if is WhatIf.NO_HIRE:
        return problem, replace(goal, may_hire=False)
    if what_if is WhatIf.ONE_VAN:
        if van_kg is None:
            raise NoAnswer("There is no vehicle on the bench.")
        cap = min(van_kg, goal.caps.get(Measure.WEIGHT, van_kg))
        return problem, replace(goal, caps={**goal.caps, Measure.WEIGHT: cap})
    able: dict[WhatIf, Callable[[Choice], bool]] = {
        WhatIf.BATTERY: lambda choice: choice.is_on_battery,
        WhatIf.ONE_CARRIES: lambda choice: choice.one_kg <= lift_kg,
        WhatIf.TUNGSTEN: lambda choice: choice.technology == Technology.TUNGSTEN.value,
        WhatIf.LED: lambda choice: choice.technology in _LED,
    }
    return _only(problem, able[what_if], what_if), goal


def _only(problem: Problem, able: Callable[[Choice], bool], what_if: WhatIf) -> Problem:
    seats = []
    for seat in problem.seats:
        choices = tuple(choice for choice in seat.choices if able(choice))
        if not choices:
            raise NoAnswer(
                f"{what_if.value[:1].upper()}{what_if.value[1:]}: no such lamp can replace {seat.name or seat.holder}."
            )
        seats.append(replace(seat, choices=choices, today=0))
    return replace(problem, seats=tuple(seats))
