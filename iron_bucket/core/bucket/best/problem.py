"""What there is to choose: for the work of every lamp in every pass the lamps that could do it, and what each
brings.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.bucket.need import Sort
from iron_bucket.core.checks import require_not_negative
from iron_bucket.core.errors import BadValue

#: What decides between equals.
_TIE = 1e-3


class Measure(StrEnum):
    """What is made little of."""

    MONEY = "money"
    WEIGHT = "weight"
    CASES = "cases"
    AMPS = "amps"


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Choice:
    """One lamp for a work. ``pieces``: what it brings, stand and all; ``lowest`` to ``highest``: shares of full output
    between which it gives what is wanted there; ``idle_va`` and ``span_va``: drawn from the mains at no output and more
    at full; ``lux``: at each mark of its pass at full output. Shape (M,). ``one_kg``: the head with all that travels
    with it.
    """

    name: str
    head: str
    pieces: Mapping[Sort, int]
    lowest: float
    highest: float
    idle_va: float
    span_va: float
    lux: Array
    technology: str = ""
    is_on_battery: bool = False
    one_kg: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Seat:
    """The work of one lamp in one pass. ``chain`` and ``holder``: in passes of one chain the same lamp is there once;
    seats of one ``group`` have the same choices in the same order, and get the same one. ``today``: which choice stands
    there now, at ``level``. ``name``: what a refusal calls it.
    """

    pass_id: int
    chain: int
    holder: str
    choices: tuple[Choice, ...]
    today: int = 0
    level: float = 1.0
    group: str = ""
    name: str = ""


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class PassLight:
    """Of one pass: ``base_lx``: what everything that is not chosen gives at its marks; between ``low_lx`` and
    ``high_lx`` each has to lie, 0 and infinity where nothing is wanted. Shapes (M,).
    """

    pass_id: int
    base_lx: Array
    low_lx: Array
    high_lx: Array
    names: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Figures:
    """Of one sort of thing: of one of them weight, hire for all days, share of a case; how many are ready, and how many
    more a house has ``for_hire``.
    """

    weight_kg: float
    price: float
    case_share: float
    ready: int
    for_hire: float = math.inf


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Problem:
    """``times``: numbers of the passes that are out at one time, for each time; ``fixed``: what each pass brings beside
    the seats, ``drawn_va`` what else it draws; ``anyway``: how many there are whatever is chosen. ``voltage_v``: of the
    mains.
    """

    seats: tuple[Seat, ...]
    lights: tuple[PassLight, ...]
    times: tuple[tuple[int, ...], ...]
    figures: Mapping[Sort, Figures]
    fixed: Mapping[int, Mapping[Sort, int]] = field(default_factory=dict)
    drawn_va: Mapping[int, float] = field(default_factory=dict)
    anyway: Mapping[Sort, int] = field(default_factory=dict)
    voltage_v: float = 230.0

    def __post_init__(self) -> None:
        marks = {light.pass_id: light.base_lx.shape for light in self.lights}
        for seat in self.seats:
            if not seat.choices:
                raise BadValue("choices", f"none for {seat.holder}", "one lamp at least for every work")
            if any(choice.lux.shape != marks.get(seat.pass_id) for choice in seat.choices):
                raise BadValue("lux", seat.holder, "a figure for each mark of its pass")


@dataclass(frozen=True, slots=True, kw_only=True)
class Goal:
    """``weights``: what each measure counts, in shares of what it is today; ``caps``: the most of each. ``may_hire``
    False: with what is ready alone.
    """

    weights: Mapping[Measure, float]
    caps: Mapping[Measure, float] = field(default_factory=dict)
    may_hire: bool = True

    def with_ties_broken(self) -> "Goal":
        """Of what is equal by the weights, the one that is better by the other measures."""
        return replace(self, weights={measure: max(self.weights.get(measure, 0.0), _TIE) for measure in Measure})

    def __post_init__(self) -> None:
        for measure, weight in self.weights.items():
            require_not_negative(f"weight of {measure}", weight, unit="")
        if not any(self.weights.values()):
            raise BadValue("weights", "all 0", "one measure at least that counts")
        for measure, cap in self.caps.items():
            require_not_negative(f"cap of {measure}", cap, unit="")


def measured(problem: Problem, chosen: list[int], levels: list[float]) -> dict[Measure, float]:
    """What a choice for each seat, at its level, comes to."""
    counts = counted(problem, chosen)
    hired = {sort: max(count - problem.figures[sort].ready, 0) for sort, count in counts.items()}
    amps = 0.0
    for together in problem.times:
        va = sum(problem.drawn_va.get(pass_id, 0.0) for pass_id in together)
        for seat, at, level in zip(problem.seats, chosen, levels, strict=True):
            if seat.pass_id in together:
                va += seat.choices[at].idle_va + seat.choices[at].span_va * level
        amps = max(amps, va / problem.voltage_v)
    return {
        Measure.MONEY: sum(problem.figures[sort].price * count for sort, count in hired.items()),
        Measure.WEIGHT: sum(problem.figures[sort].weight_kg * count for sort, count in counts.items()),
        Measure.CASES: sum(problem.figures[sort].case_share * count for sort, count in counts.items()),
        Measure.AMPS: amps,
    }


def counted(problem: Problem, chosen: list[int]) -> dict[Sort, int]:
    """How many of each thing are out at most."""
    most: dict[Sort, int] = dict(problem.anyway)
    for together in problem.times:
        here: dict[Sort, int] = {}
        for pass_id in together:
            for sort, count in problem.fixed.get(pass_id, {}).items():
                here[sort] = here.get(sort, 0) + count
        same: dict[tuple[int, str, Sort], int] = {}
        for seat, at in zip(problem.seats, chosen, strict=True):
            for sort, count in seat.choices[at].pieces.items() if seat.pass_id in together else ():
                key = seat.chain, seat.holder, sort
                same[key] = max(same.get(key, 0), count)
        for (_, _, sort), count in same.items():
            here[sort] = here.get(sort, 0) + count
        for sort, count in here.items():
            most[sort] = max(most.get(sort, 0), count)
    return most


def light_of(problem: Problem, chosen: list[int], levels: list[float]) -> dict[int, Array]:
    """Lux at the marks of each pass. Shapes (M,)."""
    found = {light.pass_id: np.array(light.base_lx, dtype=float) for light in problem.lights}
    for seat, at, level in zip(problem.seats, chosen, levels, strict=True):
        found[seat.pass_id] = found[seat.pass_id] + seat.choices[at].lux * level
    return found
