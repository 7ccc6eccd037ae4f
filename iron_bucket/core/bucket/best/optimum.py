"""The choice that is best for all set-ups at once, by mixed-integer programming (HiGHS, through scipy).

For each seat one choice is 1 and the others 0; the level of the chosen one is free between its ends. Of each thing
there are as many as are out at any time, of which those beyond what is ready are hired.
"""

import math
from collections import Counter, defaultdict
from dataclasses import dataclass, replace

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.sparse import coo_array

from iron_bucket.core.arrays import Array
from iron_bucket.core.bucket.best.problem import Goal, Measure, Problem, counted, measured
from iron_bucket.core.bucket.best.settle import settled_levels
from iron_bucket.core.bucket.best.windows import in_windows
from iron_bucket.core.bucket.need import Sort
from iron_bucket.core.errors import NoAnswer

#: A hair of light that rounding may cost.
_HAIR = 1e-6
#: What HiGHS says where nothing holds.
_INFEASIBLE = 2
#: Beyond it nobody waits for the last of the gap.
SECONDS, GAP = 10.0, 0.002
#: With more lamps than that a job is chosen by parts.
_WHOLE = 150


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


class _Rows:
    """Sparse rows of constraints, with their ends."""

    def __init__(self) -> None:
        self.row: list[int] = []
        self.column: list[int] = []
        self.value: list[float] = []
        self.low: list[float] = []
        self.high: list[float] = []

    def add(self, terms: list[tuple[int, float]], low: float, high: float) -> None:
        self.row += [len(self.low)] * len(terms)
        self.column += [column for column, _ in terms]
        self.value += [value for _, value in terms]
        self.low.append(low)
        self.high.append(high)

    def constraint(self, width: int) -> LinearConstraint:
        matrix = coo_array((self.value, (self.row, self.column)), shape=(len(self.low), width)).tocsr()
        return LinearConstraint(matrix, self.low, self.high)


class _Model:
    """Columns: a 0 or 1 and a level for each choice, then how many of each thing, how many hired, amps."""

    def __init__(self, problem: Problem) -> None:
        self.problem, self.rows = problem, _Rows()
        sizes = [len(seat.choices) for seat in problem.seats]
        self.first = np.concatenate([[0], np.cumsum(sizes)]).astype(int).tolist()
        self.choices = self.first[-1]
        sorts = {sort for seat in problem.seats for choice in seat.choices for sort in choice.pieces}
        sorts |= {sort for some in (*problem.fixed.values(), problem.anyway) for sort in some}
        self.sorts: dict[Sort, int] = {sort: at for at, sort in enumerate(sorted(sorts))}
        self.counts = 2 * self.choices
        self.hired = self.counts + len(self.sorts)
        self.amps = self.hired + len(self.sorts)
        self.width = self.amps + 1
        #: Without any choice.
        self.least = counted(replace(problem, seats=()), [])

    def choose(self) -> None:
        """One of each, its level between its ends; the same for all of a group."""
        leads: dict[str, int] = {}
        for at, seat in enumerate(self.problem.seats):
            places = range(self.first[at], self.first[at + 1])
            lead = leads.setdefault(seat.group, self.first[at]) if seat.group else self.first[at]
            for place in places if lead != self.first[at] else ():
                self.rows.add([(place, 1.0), (lead + place - self.first[at], -1.0)], 0.0, 0.0)
            self.rows.add([(place, 1.0) for place in places], 1.0, 1.0)
            for place, choice in zip(places, seat.choices, strict=True):
                level = self.choices + place
                self.rows.add([(level, 1.0), (place, -choice.highest)], -np.inf, 0.0)
                self.rows.add([(level, 1.0), (place, -choice.lowest)], 0.0, np.inf)

    def hold_targets(self) -> None:
        """At every mark where something is wanted."""
        for light in self.problem.lights:
            wanted = np.flatnonzero((light.low_lx > 0.0) | np.isfinite(light.high_lx))
            for mark in wanted.tolist():
                terms = [
                    (self.choices + self.first[at] + place, float(choice.lux[mark]))
                    for at, seat in enumerate(self.problem.seats)
                    if seat.pass_id == light.pass_id
                    for place, choice in enumerate(seat.choices)
                    if choice.lux[mark]
                ]
                base = float(light.base_lx[mark])
                scale = max(float(light.low_lx[mark]), base, 1.0)
                low = (float(light.low_lx[mark]) - base) / scale - _HAIR
                high = (float(light.high_lx[mark]) - base) / scale + _HAIR
                if terms:
                    self.rows.add([(column, value / scale) for column, value in terms], low, high)

    def count(self) -> None:
        """What is out at each time; what both passes of a chain have is out once."""
        for together in self.problem.times:
            fixed: Counter[Sort] = Counter()
            for pass_id in together:
                fixed.update(self.problem.fixed.get(pass_id, {}))
            here: dict[Sort, list[tuple[int, float]]] = defaultdict(list)
            for several in self._same(together).values():
                for sort in {
                    sort for at in several for choice in self.problem.seats[at].choices for sort in choice.pieces
                }:
                    here[sort] += self._of_one(several, sort)
            for sort in {*fixed, *here}:
                column = self.counts + self.sorts[sort]
                terms = [(column, 1.0), *((place, -count) for place, count in here[sort])]
                self.rows.add(terms, float(fixed[sort]), np.inf)
        for sort, at in self.sorts.items():
            ready = float(self.problem.figures[sort].ready)
            self.rows.add([(self.hired + at, 1.0), (self.counts + at, -1.0)], -ready, np.inf)

    def _same(self, together: tuple[int, ...]) -> dict[tuple[int, str], list[int]]:
        found: dict[tuple[int, str], list[int]] = defaultdict(list)
        for at, seat in enumerate(self.problem.seats):
            if seat.pass_id in together:
                found[seat.chain, seat.holder].append(at)
        return found

    def _of_one(self, several: list[int], sort: Sort) -> list[tuple[int, float]]:
        """Of one lamp, which may stand in several passes at once: a column of its own bears the most of them."""
        terms = [
            [
                (self.first[at] + place, float(choice.pieces[sort]))
                for place, choice in enumerate(self.problem.seats[at].choices)
                if choice.pieces.get(sort)
            ]
            for at in several
        ]
        if len(several) == 1:
            return terms[0]
        column, self.width = self.width, self.width + 1
        for each in terms:
            self.rows.add([(column, 1.0), *((place, -count) for place, count in each)], 0.0, np.inf)
        return [(column, 1.0)]

    def draw(self) -> None:
        """Amps at the time that takes most."""
        for together in self.problem.times:
            terms = [(self.amps, 1.0)]
            for at, seat in enumerate(self.problem.seats):
                for place, choice in enumerate(seat.choices if seat.pass_id in together else ()):
                    column = self.first[at] + place
                    terms += [
                        (column, -choice.idle_va / self.problem.voltage_v),
                        (self.choices + column, -choice.span_va / self.problem.voltage_v),
                    ]
            drawn_va = sum(self.problem.drawn_va.get(pass_id, 0.0) for pass_id in together)
            self.rows.add([term for term in terms if term[1]], drawn_va / self.problem.voltage_v, np.inf)

    def measure(self, measure: Measure) -> Array:
        """What each column adds to it. Shape (W,)."""
        found = np.zeros(self.width)
        if measure is Measure.AMPS:
            found[self.amps] = 1.0
            return found
        begin = self.hired if measure is Measure.MONEY else self.counts
        names = {Measure.MONEY: "price", Measure.WEIGHT: "weight_kg", Measure.CASES: "case_share"}
        for sort, at in self.sorts.items():
            found[begin + at] = getattr(self.problem.figures[sort], names[measure])
        return found

    def bounds(self, *, may_hire: bool) -> Bounds:
        """Nothing below 0; of choices no more than one; hired nothing but what is for hire, and where that is not
        wanted nothing but what no choice can do away with.
        """
        low, high = np.zeros(self.width), np.full(self.width, np.inf)
        high[: self.choices] = 1.0
        for sort, count in self.problem.anyway.items():
            low[self.counts + self.sorts[sort]] = count
        for sort, at in self.sorts.items():
            figures = self.problem.figures[sort]
            anyway = max(self.least.get(sort, 0) - figures.ready, 0)
            high[self.hired + at] = max(anyway, figures.for_hire if may_hire else 0.0)
        return Bounds(low, high)


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
    else:
        left = 1.0
        chosen, levels = in_windows(problem, lambda part, most: _solved(part, goal, today, most, gap)[:2], seconds)
    is_amps_kept = bool(goal.weights.get(Measure.AMPS)) or Measure.AMPS in goal.caps
    levels = settled_levels(problem, chosen, levels, is_amps_kept=is_amps_kept)
    return Best(
        chosen=chosen, levels=levels, measures=measured(problem, list(chosen), list(levels)), today=today, gap=left
    )


def _solved(
    problem: Problem, goal: Goal, today: dict[Measure, float], seconds: float, gap: float
) -> tuple[tuple[int, ...], tuple[float, ...], float]:
    """Chosen, levels, and the gap that is left. Raises: NoAnswer."""
    model = _Model(problem)
    for step in (model.choose, model.hold_targets, model.count, model.draw):
        step()
    cost = sum(
        (weight / max(today[measure], _HAIR)) * model.measure(measure)
        for measure, weight in goal.weights.items()
        if weight
    )
    caps = _Rows()
    for measure, cap in goal.caps.items():
        figures = model.measure(measure)
        caps.add([(int(at), float(figures[at])) for at in np.flatnonzero(figures)], -np.inf, cap + _HAIR)
    constraints = [model.rows.constraint(model.width)] + ([caps.constraint(model.width)] if goal.caps else [])
    whole = np.zeros(model.width)
    whole[: model.choices] = 1
    found = milp(
        np.asarray(cost),
        constraints=constraints,
        bounds=model.bounds(may_hire=goal.may_hire),
        integrality=whole,
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


def _read(model: _Model, columns: Array) -> tuple[tuple[int, ...], tuple[float, ...]]:
    chosen, levels = [], []
    for at, seat in enumerate(model.problem.seats):
        begin, end = model.first[at], model.first[at + 1]
        best = int(np.argmax(columns[begin:end]))
        choice = seat.choices[best]
        level = float(columns[model.choices + begin + best])
        chosen.append(best)
        levels.append(min(max(level, choice.lowest), choice.highest))
    return tuple(chosen), tuple(levels)
