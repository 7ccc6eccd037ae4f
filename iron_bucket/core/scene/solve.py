"""Dimmers set for several targets at once: bounded least squares in stops, and which target fights which."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.optimize import least_squares

from iron_bucket.core.arrays import Array
from iron_bucket.core.checks import require_between, require_positive
from iron_bucket.core.errors import BadValue

#: No lamp is held to burn lower.
FAINTEST = 1e-4
#: A miss up to this much no eye and hardly a meter tells; more is said.
TELL_STOPS = 0.1
#: How much a stop of dimmer movement weighs beside a stop of miss: enough to choose between ways that serve alike, too
#: little to be seen.
_STAY = 0.003
#: Starts with one lamp up and the rest down, beside three with all alike; the best end is taken, because the sum of
#: squares has more than one valley.
_MOST_STARTS = 12


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SolvedLevels:
    """Shapes: with L lamps and M targets, levels (L,), the rest (M,). ``miss_stops``: above 0 is too bright.

    ``fights``: pairs (missed, other) of targets by index, where the first would be met at least twice as well without
    the other.
    ``least_lx`` and ``most_lx``: with every lamp that is on at its lowest, and at full.
    """

    levels: Array
    illuminance_lx: Array
    miss_stops: Array
    least_lx: Array
    most_lx: Array
    fights: tuple[tuple[int, int], ...]


def solve_levels(unit_lx: Array, wanted_lx: Array, now: Array, lowest: Array, names: Sequence[str]) -> SolvedLevels:
    """Levels of the lamps that come nearest to all targets; of several ways the one that moves the dimmers least.

    Shapes: ``unit_lx`` (L, M), every lamp at full output at the targets; ``wanted_lx`` (M,); ``now`` and ``lowest``
        (L,), shares of full.
    ``names``: of the targets, for what is refused. A lamp that is off now stays off.
    Raises: BadValue for a target not above 0, or one that no lamp which is on reaches; for a lowest level outside
        ``FAINTEST`` to 1.
    Source: least sum over the targets of (log2 E - log2 wanted)^2, levels between lowest and 1.
    """
    is_on = now > 0.0
    for target in wanted_lx:
        require_positive("wanted", float(target), unit="lx")
    for share in lowest:
        require_between("lowest", float(share), low=FAINTEST, high=1.0, unit="of full output")
    reaching = unit_lx[is_on]
    most_lx = reaching.sum(axis=0)
    if not (most_lx > 0.0).all():
        raise BadValue("target", repr(names[int(np.argmin(most_lx))]), "a place that some lamp which is on reaches")
    problem = _Problem(
        unit_lx=reaching,
        wanted_lx=wanted_lx,
        now=np.log2(np.clip(now[is_on], lowest[is_on], 1.0)),
        floor=np.log2(lowest[is_on]),
    )
    stops = problem.nearest()
    miss = problem.miss_stops(stops)
    levels = np.zeros(len(now))
    levels[is_on] = np.exp2(stops)
    return SolvedLevels(
        levels=levels,
        illuminance_lx=levels @ unit_lx,
        miss_stops=miss,
        least_lx=lowest[is_on] @ reaching,
        most_lx=most_lx,
        fights=_fights(problem, miss),
    )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Problem:
    """Lamps that are on, their levels as stops under full.

    Shapes: unit_lx (L, M), wanted_lx (M,), now and floor (L,).
    """

    unit_lx: Array
    wanted_lx: Array
    now: Array
    floor: Array

    def miss_stops(self, stops: Array) -> Array:
        """Of each target. Shape (M,)."""
        return np.asarray(np.log2(np.exp2(stops) @ self.unit_lx) - np.log2(self.wanted_lx))

    def nearest(self) -> Array:
        """The best of the valleys. Shape (L,)."""
        ceiling = np.maximum(0.0, self.floor + 1e-9)  # the solver wants some room
        ends = (
            least_squares(self._residuals, start, self._slopes, bounds=(self.floor, ceiling), x_scale=1.0)
            for start in self._starts()
        )
        best = min(ends, key=lambda end: float(end.cost))
        return np.asarray(np.minimum(best.x, 0.0), dtype=float)

    def _starts(self) -> list[Array]:
        """Levels within the bounds."""
        alone = np.where(np.eye(len(self.floor), dtype=bool), 0.0, self.floor)[:_MOST_STARTS]
        return [self.now, np.zeros(len(self.floor)), self.floor / 2.0, *alone]

    def _residuals(self, stops: Array) -> Array:
        return np.concatenate([self.miss_stops(stops), _STAY * (stops - self.now)])

    def _slopes(self, stops: Array) -> Array:
        """d log2 E / d stops is a lamp's share of the level there. Shape (M + L, L)."""
        part = np.exp2(stops)[:, None] * self.unit_lx
        return np.concatenate([(part / part.sum(axis=0)).T, _STAY * np.eye(len(stops))])

    def without(self, target: int) -> "_Problem":
        """The same with one target fewer."""
        return _Problem(
            unit_lx=np.delete(self.unit_lx, target, axis=1),
            wanted_lx=np.delete(self.wanted_lx, target),
            now=self.now,
            floor=self.floor,
        )


def _fights(problem: _Problem, miss_stops: Array) -> tuple[tuple[int, int], ...]:
    """Each other target left out once: whose going would halve a miss."""
    missed = np.flatnonzero(np.abs(miss_stops) > TELL_STOPS)
    if not len(missed):
        return ()
    found = []
    for other in range(len(miss_stops)):
        if len(miss_stops) > 1:
            freed = np.insert(problem.without(other).miss_stops(problem.without(other).nearest()), other, np.inf)
            found += [(int(at), other) for at in missed if abs(freed[at]) <= abs(miss_stops[at]) / 2.0]
    return tuple(sorted(found))
