"""Levels of chosen lamps, as near to the light of today as the targets and the amps let them."""

import numpy as np
from scipy.optimize import linprog
from scipy.sparse import coo_array

from iron_bucket.core.bucket.best.problem import PassLight, Problem, light_of

#: Below this nobody sees whether a mark is lit otherwise.
_DARK_LX = 0.1
#: A hair over what was found.
_HAIR = 1e-6


class _Lines:
    """Rows of ``values @ columns <= end``."""

    def __init__(self) -> None:
        self.terms: list[tuple[int, int, float]] = []
        self.ends: list[float] = []

    def add(self, terms: list[tuple[int, float]], end: float) -> None:
        self.terms += [(len(self.ends), column, value) for column, value in terms]
        self.ends.append(end)


def settled_levels(
    problem: Problem, chosen: tuple[int, ...], levels: tuple[float, ...], *, is_amps_kept: bool
) -> tuple[float, ...]:
    """``levels`` hold every target; so do these. ``is_amps_kept``: no time draws more than with those."""
    picked = [seat.choices[at] for seat, at in zip(problem.seats, chosen, strict=True)]
    now = light_of(problem, [seat.today for seat in problem.seats], [seat.level for seat in problem.seats])
    lines, width = _Lines(), len(picked)
    for light in problem.lights:
        of_pass = [at for at, seat in enumerate(problem.seats) if seat.pass_id == light.pass_id]
        for mark in range(len(light.base_lx)):
            terms = [(at, float(picked[at].lux[mark])) for at in of_pass if picked[at].lux[mark]]
            if terms:
                width = _mark(lines, terms, light, mark, max(float(now[light.pass_id][mark]), _DARK_LX), width)
    for together in problem.times if is_amps_kept else ():
        terms = [(at, picked[at].span_va) for at, seat in enumerate(problem.seats) if seat.pass_id in together]
        lines.add(terms, sum(levels[at] * value for at, value in terms) + _HAIR)
    cost = np.zeros(width)
    cost[len(picked) :] = 1.0
    rows, columns, values = (list(each) for each in zip(*lines.terms, strict=True)) if lines.terms else ([], [], [])
    found = (
        linprog(
            cost,
            A_ub=coo_array((values, (rows, columns)), shape=(len(lines.ends), width)).tocsr(),
            b_ub=lines.ends,
            bounds=[(choice.lowest, choice.highest) for choice in picked] + [(0.0, None)] * (width - len(picked)),
        )
        if lines.ends
        else None
    )
    if found is None or not found.success:
        return levels
    return tuple(
        min(max(level, choice.lowest), choice.highest) for level, choice in zip(found.x.tolist(), picked, strict=False)
    )


def _mark(lines: _Lines, terms: list[tuple[int, float]], light: PassLight, mark: int, now_lx: float, width: int) -> int:
    """Its target, and a column more for how far it lies from today's light, as a share."""
    base, low, high = float(light.base_lx[mark]), float(light.low_lx[mark]), float(light.high_lx[mark])
    scaled = [(at, value / now_lx) for at, value in terms]
    if low > 0.0:
        lines.add([(at, -value) for at, value in scaled], (base - low) / now_lx + _HAIR)
    if np.isfinite(high):
        lines.add(scaled, (high - base) / now_lx + _HAIR)
    lines.add([*scaled, (width, -1.0)], 1.0 - base / now_lx)
    lines.add([*((at, -value) for at, value in scaled), (width, -1.0)], base / now_lx - 1.0)
    return width + 1
