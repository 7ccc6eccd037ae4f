"""Loads shared out over sources: as many watts as can be fed, legs balanced, by short ways, from what is best drawn
from, with as little moved as that allows.

Source: a mixed-integer programme in two stages, solved by branch and bound (scipy.optimize.milp, HiGHS).
"""

import math
from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp

from iron_bucket.core.arrays import Array
from iron_bucket.core.power.power_plan import Feeding, PowerPlan, plates_of, taken

#: The first stage is mostly quick; what the two are given together stays under two seconds.
_FEEDING_S, _BALANCING_S = 0.6, 1.2
#: Watts that the second stage may give up against the first: what rounding takes.
_HAIR_W = 1e-3
#: Beside a board with everything on one leg weigh so much: the longest way for all, the most unwelcome source for all,
#: and all hung otherwise than they are.
_WAY_WEIGHT, _BURDEN_WEIGHT, _MOVE_WEIGHT = 0.01, 0.02, 0.002


@dataclass(frozen=True, slots=True, kw_only=True)
class Shared:
    """``feeding``: what is fed, and from where; ``gap``: how far this may be from the best there is, as a share."""

    feeding: Feeding
    gap: float


def shared_out(plan: PowerPlan) -> Shared:
    """Pins are kept. First as many watts as possible are fed, then the fullest legs made as light as possible, ways
    short, unwelcome sources spared and little moved, in one weighted sum. Where starts are looked at, whatever burns on
    a channel bears each of them, one at a time.
    """
    loads, channels = plan.loads, plan.channels
    if not loads or not channels:
        return Shared(feeding={}, gap=0.0)
    watts = np.array([load.drawn_w for load in loads])
    size = np.array([[taken(channel, load) for channel in channels] for load in loads])
    may = np.array([[plan.takes(load, channel) for channel in channels] for load in loads])
    rules = _rules(plan, size)
    fed = np.repeat(watts, len(channels))
    boards = _boards(plan)
    first = _solved(-fed, rules, may, len(boards), _FEEDING_S)
    placed = np.concatenate([fed, np.zeros(len(boards))])
    keep = LinearConstraint(placed[None], float(placed @ first.values) - _HAIR_W, np.inf)
    fullest = _fullest(boards, size)
    second = _solved(_costs(plan), [*rules, keep, *fullest], may, len(boards), _BALANCING_S)
    best = second if second.is_found else first  # time may end before the second stage finds any
    chosen = best.values[: size.size].reshape(size.shape) > 0.5
    chosen |= (watts <= 0.0)[:, None] & may  # what draws nothing hangs wherever it may
    feeding = {load.load_id: channels[int(row.argmax())] for load, row in zip(loads, chosen, strict=True) if row.any()}
    return Shared(feeding=feeding, gap=max(first.gap, second.gap))


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Solution:
    """Nothing hangs anywhere, and nothing is known, where no solution ``is_found`` in time."""

    values: Array
    gap: float
    is_found: bool


def _solved(cost: Array, rules: list[LinearConstraint], may: np.ndarray, boards: int, most_s: float) -> _Solution:
    """Least cost of which load hangs where, and of the fullest leg of each board, which costs 1 in full."""
    whole = np.concatenate([cost, np.ones(boards)])
    kinds = np.concatenate([np.ones(len(cost)), np.zeros(boards)])
    bounds = Bounds(0.0, np.concatenate([may.ravel().astype(float), np.full(boards, np.inf)]))
    found = milp(whole, integrality=kinds, bounds=bounds, constraints=rules, options={"time_limit": most_s})
    if found.x is None:
        return _Solution(values=np.zeros(len(whole)), gap=1.0, is_found=False)
    return _Solution(values=np.asarray(found.x), gap=float(found.mip_gap or 0.0), is_found=True)


def _rules(plan: PowerPlan, size: Array) -> list[LinearConstraint]:
    """Each load hangs in one place at most; no channel bears more than its limit, or gives more than it has."""
    loads, channels = size.shape
    boards = len(_boards(plan))
    once = np.kron(np.eye(loads), np.ones(channels))
    per_channel = np.zeros((channels, loads, channels))
    per_channel[np.arange(channels), :, np.arange(channels)] = size.T
    rows, limits = (
        [once, per_channel.reshape(channels, -1)],
        [np.ones(loads), np.array([c.limit for c in plan.channels])],
    )
    for row, limit in (*_held(plan), *_starts(plan, size)):
        rows.append(row)
        limits.append(limit)
    matrix = np.concatenate(rows)
    matrix = np.concatenate([matrix, np.zeros((len(matrix), boards))], axis=1)
    return [
        LinearConstraint(matrix, -np.inf, np.concatenate(limits))
    ]  # rounding lies within the solver's own tolerance


def _held(plan: PowerPlan) -> Iterator[tuple[Array, Array]]:
    """What hangs on batteries takes no more energy and no more of them than there are."""
    energy = np.array([load.energy_wh for load in plan.loads])
    for at, channel in enumerate(plan.channels):
        plates = np.array([plates_of(channel, load) for load in plan.loads], dtype=float)
        for column, limit in ((energy, channel.energy_wh), (plates, channel.plates)):
            if limit is not None:
                row = np.zeros((len(plan.loads), len(plan.channels)))
                row[:, at] = column
                yield row.ravel()[None], np.array([float(limit)])


def _starts(plan: PowerPlan, size: Array) -> Iterator[tuple[Array, Array]]:
    """What burns on a channel and the jump of one load that starts there stay within what it bears for a moment."""
    for at, channel in enumerate(plan.channels):
        if channel.start_limit is None:
            continue
        for number, load in enumerate(plan.loads):
            if load.jump_va > 0.0 and load.drawn_va > 0.0:
                row = np.zeros(size.shape)
                row[:, at] = size[:, at]
                row[number, at] += load.jump_va
                yield row.ravel()[None], np.array([channel.start_limit])


def _boards(plan: PowerPlan) -> list[list[int]]:
    """Of each source with legs, the numbers of its channels."""
    found: dict[str, list[int]] = defaultdict(list)
    for at, channel in enumerate(plan.channels):
        if channel.leg:
            found[channel.source_id].append(at)
    return list(found.values())


def _fullest(boards: list[list[int]], size: Array) -> list[LinearConstraint]:
    """The share of all that is asked for on the fullest leg of each board is no less than on any of its legs."""
    shares = _shares(size, float(size.max(axis=1).sum()))
    rules = []
    for number, legs in enumerate(boards):
        for leg in legs:
            row = np.zeros(size.shape)
            row[:, leg] = shares[:, leg]
            own = -(np.arange(len(boards)) == number).astype(float)
            rules.append(LinearConstraint(np.concatenate([row.ravel(), own])[None], -np.inf, 0.0))
    return rules


def _costs(plan: PowerPlan) -> Array:
    """What each load costs on each channel. Shape (N * C,)."""
    watts = np.array([load.drawn_w for load in plan.loads])
    burdens = np.outer(_shares(watts, watts.sum()), [channel.burden for channel in plan.channels])
    moves = [[bool(load.stays) and load.stays != channel.source_id for channel in plan.channels] for load in plan.loads]
    moved = np.array(moves, dtype=float).ravel() / len(plan.loads)
    return np.asarray(_WAY_WEIGHT * _ways(plan) + _BURDEN_WEIGHT * burdens.ravel() + _MOVE_WEIGHT * moved)


def _ways(plan: PowerPlan) -> Array:
    """How far each load stands from each source, as a share of the longest of all; 0 where either is not known."""
    places = [plan.source(channel.source_id).at_m for channel in plan.channels]
    ways = np.array([[math.dist(load.at_m, at) if load.at_m and at else 0.0 for at in places] for load in plan.loads])
    return _shares(ways.ravel(), ways.max()) / len(plan.loads)


def _shares(some: Array, of: float) -> Array:
    """Of a whole; as they are where that is nothing."""
    return some / of if of else some
