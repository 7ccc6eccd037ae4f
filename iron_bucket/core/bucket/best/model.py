"""A choice for all set-ups at once as a mixed-integer program.

For each seat one choice is 1 and the others 0; the level of the chosen one is free between its ends. Of each thing
there are as many as are out at any time, of which those beyond what is ready are hired.
"""

from collections import Counter, defaultdict
from dataclasses import replace

import numpy as np
from scipy.optimize import Bounds, LinearConstraint
from scipy.sparse import coo_array

from iron_bucket.core.arrays import Array
from iron_bucket.core.bucket.best.problem import Goal, Measure, Problem, counted
from iron_bucket.core.bucket.need import Sort

#: A hair of light that rounding may cost.
_HAIR = 1e-6


class Rows:
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


class Model:
    """Columns: a 0 or 1 and a level for each choice, then how many of each thing, how many hired, amps."""

    def __init__(self, problem: Problem) -> None:
        self.problem, self.rows = problem, Rows()
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
        for step in (self._choose, self._hold_targets, self._count, self._draw):
            step()

    def _choose(self) -> None:
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

    def _hold_targets(self) -> None:
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

    def _count(self) -> None:
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

    def _draw(self) -> None:
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

    def whole(self) -> Array:
        """1 for each column that takes whole numbers only. Shape (W,)."""
        found = np.zeros(self.width)
        found[: self.choices] = 1
        return found

    def cost(self, goal: Goal, today: dict[Measure, float]) -> Array:
        """Of each column, in shares of today. Shape (W,)."""
        found = np.zeros(self.width)
        for measure, weight in goal.weights.items():
            if weight:
                found += share_of(weight, today[measure]) * self.measure(measure)
        return found

    def constraints(self, goal: Goal) -> list[LinearConstraint]:
        """What holds for every choice, and the caps."""
        found = [self.rows.constraint(self.width)]
        if goal.caps:
            caps = Rows()
            for measure, cap in goal.caps.items():
                figures = self.measure(measure)
                caps.add([(int(at), float(figures[at])) for at in np.flatnonzero(figures)], -np.inf, cap + _HAIR)
            found.append(caps.constraint(self.width))
        return found


def share_of(weight: float, today: float) -> float:
    """What one unit of a measure counts that is ``today`` now."""
    return weight / max(today, _HAIR)


def cost_of(goal: Goal, measures: dict[Measure, float], today: dict[Measure, float]) -> float:
    """What is made little, of a choice that comes to ``measures``."""
    return sum(share_of(weight, today[measure]) * measures[measure] for measure, weight in goal.weights.items())
