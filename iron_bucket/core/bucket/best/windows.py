"""A large job by parts: the passes of a few chains are chosen while all others stay as they are, one part after the
other, and round again as long as that helps and there is time.
"""

import time
from collections import Counter
from collections.abc import Callable, Iterator
from dataclasses import replace

from iron_bucket.core.bucket.best.problem import Problem, Seat
from iron_bucket.core.bucket.need import Sort

#: So many lamps are chosen at once: within a second, nearly to the optimum.
_SEATS = 45
#: The shortest that a part is given.
_LEAST_S = 0.3
#: Chosen and levels of the seats of a problem.
Chosen = tuple[tuple[int, ...], tuple[float, ...]]


def in_windows(problem: Problem, solve: Callable[[Problem, float], Chosen], seconds: float) -> Chosen:
    """``solve`` a part within so many seconds. Raises what it raises where some part has no answer at all."""
    ends = time.monotonic() + seconds
    parts = list(_parts(problem.seats))
    chosen: dict[int, tuple[int, float]] = {}
    for at, part in enumerate(parts):
        left = (ends - time.monotonic()) / 2.0 / (len(parts) - at)
        _choose(problem, part, chosen, solve, left)
    before: dict[int, tuple[int, float]] = {}
    while before != chosen:
        before = dict(chosen)
        for part in parts:
            left = ends - time.monotonic()
            if left < _LEAST_S:
                return _told(chosen)
            _choose(problem, part, chosen, solve, min(left, seconds / len(parts)))
    return _told(chosen)


def _told(chosen: dict[int, tuple[int, float]]) -> Chosen:
    ordered = [chosen[at] for at in sorted(chosen)]
    return tuple(choice for choice, _ in ordered), tuple(level for _, level in ordered)


def _parts(seats: tuple[Seat, ...]) -> Iterator[list[int]]:
    """Whole chains, in the order of their first passes."""
    chains: dict[int, list[int]] = {}
    for at, seat in enumerate(seats):
        chains.setdefault(seat.chain, []).append(at)
    part: list[int] = []
    for chain in chains.values():
        if part and len(part) + len(chain) > _SEATS:
            yield part
            part = []
        part = part + chain
    if part:
        yield part


def _choose(
    problem: Problem,
    part: list[int],
    chosen: dict[int, tuple[int, float]],
    solve: Callable[[Problem, float], Chosen],
    seconds: float,
) -> None:
    """The seats of a part, what was chosen for the others being there anyway."""
    here = set(part)
    fixed: dict[int, Counter[Sort]] = {number: Counter(counts) for number, counts in problem.fixed.items()}
    drawn: dict[int, float] = dict(problem.drawn_va)
    for at, (choice_at, level) in chosen.items():
        if at not in here:
            seat = problem.seats[at]
            choice = seat.choices[choice_at]
            fixed.setdefault(seat.pass_id, Counter()).update(choice.pieces)
            drawn[seat.pass_id] = drawn.get(seat.pass_id, 0.0) + choice.idle_va + choice.span_va * level
    passes = {problem.seats[at].pass_id for at in part}
    smaller = replace(
        problem,
        seats=tuple(problem.seats[at] for at in part),
        lights=tuple(light for light in problem.lights if light.pass_id in passes),
        fixed=fixed,
        drawn_va=drawn,
    )
    choices, levels = solve(smaller, max(seconds, _LEAST_S))
    chosen.update(zip(part, zip(choices, levels, strict=True), strict=True))
