"""Candidates judged in blocks: which wish rules each one out, and which sheet set serves each pair best."""

from dataclasses import dataclass

import numpy as np
from numba import njit

from iron_bucket.core.arrays import Array
from iron_bucket.core.selection.criteria import HAIR, StackFigures, pair_misses, stack_figures, stack_misses
from iron_bucket.core.selection.levels import Levels, by_scatter
from iron_bucket.core.selection.need import Need
from iron_bucket.core.selection.packing import PackedBench
from iron_bucket.core.selection.ranking import Weights, stack_points
from iron_bucket.core.selection.reasons import KINDS, Reason

#: A pair this much too weak with nothing on the head is not looked at with sheets: they only take more.
HOPELESS_STOPS = 1.0
#: In the place of a reason: this cannot be put together at all, so it is no candidate.
CANNOT_BE_BUILT = 255


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class PairVerdict:
    """Shapes (C, F): the pair reason (FITS where sheets decide), its miss, and how many pair wishes are unmet."""

    reason: np.ndarray
    miss: np.ndarray
    failures: np.ndarray


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class StackVerdict:
    """Pairs ``rows`` x ``fronts`` with every sheet set. Shapes: rows, fronts (P,); the rest (P, S)."""

    rows: np.ndarray
    fronts: np.ndarray
    figures: StackFigures
    reason: np.ndarray
    miss: np.ndarray
    failures: np.ndarray


def judge_pairs(bench: PackedBench, need: Need, found: Levels) -> PairVerdict:
    """What no sheet can mend."""
    misses = pair_misses(bench, need, found)
    reason, miss, failures = _first_reasons(misses, bench.mounts.shape)
    short = np.log2(need.illuminance_lx / found.full_lx).astype(np.float32)
    hopeless = _is_hopeless(need, short, reason == Reason.FITS)
    reason[hopeless] = Reason.WEAK
    miss = np.where(hopeless, short, miss)
    reason[~bench.mounts] = CANNOT_BE_BUILT
    return PairVerdict(reason=reason, miss=miss, failures=failures)


def _is_hopeless(need: Need, short: np.ndarray, alive: np.ndarray) -> np.ndarray:
    """Which of the pairs that no wish ruled out are too weak with nothing on the head, by stops short.

    The strongest are kept for near misses. Shapes (C, F).
    """
    if need.own_only or not alive.any():  # a sheet that is not ours is named before weakness
        return np.zeros_like(alive)
    return np.asarray(alive & (short > HOPELESS_STOPS + max(float(short[alive].min()), 0.0)))


def judge_stacks(bench: PackedBench, need: Need, found: Levels, pairs: np.ndarray) -> StackVerdict:
    """Every sheet set on some pairs. ``pairs``: shape (P, 2), configuration and front."""
    rows, fronts = pairs[:, 0], pairs[:, 1]
    full_stops = np.log2(found.full_lx[rows, fronts])
    sheet_stops = bench.sheet_stops(need.scrim_school)[bench.head_class[rows]]
    sheet_stops = sheet_stops + by_scatter(bench, found.scatter_stops, rows, fronts)
    figures = stack_figures(bench, need, rows, fronts, full_stops, sheet_stops)
    misses = stack_misses(bench, need, found, rows, fronts, figures)
    reason, miss, failures = _first_reasons(misses, figures.watts.shape)
    reason[~bench.wears[rows]] = CANNOT_BE_BUILT
    return StackVerdict(rows=rows, fronts=fronts, figures=figures, reason=reason, miss=miss, failures=failures)


def _first_reasons(misses: dict[Reason, Array], shape: tuple[int, ...]) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """The first unmet wish of each, by how much, and how many are unmet. Later reasons are laid first and covered."""
    reason = np.zeros(shape, dtype=np.uint8)
    miss = np.zeros(shape, dtype=np.float32)
    failures = np.zeros(shape, dtype=np.uint8)
    for kind in sorted(misses, reverse=True):
        _lay_over(reason, miss, failures, np.ascontiguousarray(misses[kind], dtype=np.float32), np.uint8(kind))
    return reason, miss, failures


@njit("void(uint8[:,::1], float32[:,::1], uint8[:,::1], float32[:,::1], uint8)", cache=True, nogil=True)
def _lay_over(reason, miss, failures, misses, kind):  # type: ignore[no-untyped-def]
    for row in range(misses.shape[0]):
        for column in range(misses.shape[1]):
            if misses[row, column] > HAIR:
                reason[row, column] = kind
                miss[row, column] = misses[row, column]
                failures[row, column] += 1


def best_sets(
    bench: PackedBench, need: Need, verdict: StackVerdict, weights: Weights
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """For each pair that fits: its place in the block, its best sheet set, and that one's points. Shapes (N,)."""
    fits = verdict.reason == Reason.FITS
    pairs = np.flatnonzero(fits.any(axis=1))
    figures = verdict.figures.of_pairs(pairs)
    points = stack_points(bench, need, verdict.rows[pairs], verdict.fronts[pairs], figures, weights)
    sets = np.where(fits[pairs], points, np.float32(np.inf)).argmin(axis=1)
    return pairs, sets, points[np.arange(len(pairs)), sets]


def nearest_single_misses(verdict: StackVerdict) -> list[tuple[Reason, int, int, float]]:
    """For each reason and head in its configuration the candidate of the block that misses that wish alone, and by
    least: reason, pair, sheet set, miss.

    A pair that fits with other sheets is no near miss.
    """
    heads, head_of = np.unique(verdict.rows, return_inverse=True)
    least, at = _least_single_misses(verdict.reason, verdict.miss, verdict.failures, head_of, len(heads))
    return [
        (Reason(int(kind)), *at[kind, head].tolist(), float(least[kind, head]))
        for kind, head in np.argwhere(least < np.inf)
    ]


@njit(
    "Tuple((float32[:,::1], int64[:,:,::1]))(uint8[:,::1], float32[:,::1], uint8[:,::1], int64[::1], int64)",
    cache=True,
    nogil=True,
)
def _least_single_misses(reason, miss, failures, head_of, heads):  # type: ignore[no-untyped-def]
    """By reason and head the least, and its pair and sheet set."""
    least = np.full((CANNOT_BE_BUILT, heads), np.float32(np.inf))
    at = np.zeros((CANNOT_BE_BUILT, heads, 2), dtype=np.int64)
    pairs, sets = reason.shape
    for pair in range(pairs):
        if (reason[pair] == 0).any():
            continue
        head = head_of[pair]
        for chosen in range(sets):
            kind = reason[pair, chosen]
            is_single = failures[pair, chosen] == 1 and kind != CANNOT_BE_BUILT
            if is_single and miss[pair, chosen] < least[kind, head]:
                least[kind, head] = miss[pair, chosen]
                at[kind, head] = pair, chosen
    return least, at


def reason_ranges(verdict: StackVerdict) -> list[tuple[Reason, int, float, float]]:
    """Each reason of the block, how often it was the first unmet, and between which misses."""
    counts, least, most = _ranges(verdict.reason, verdict.miss)
    return [
        (reason, int(counts[reason]), float(least[reason]), float(most[reason])) for reason in KINDS if counts[reason]
    ]


@njit("Tuple((int64[::1], float32[::1], float32[::1]))(uint8[:,::1], float32[:,::1])", cache=True, nogil=True)
def _ranges(reason, miss):  # type: ignore[no-untyped-def]
    counts = np.zeros(CANNOT_BE_BUILT + 1, dtype=np.int64)
    least, most = np.full(len(counts), np.float32(np.inf)), np.full(len(counts), np.float32(-np.inf))
    pairs, sets = reason.shape
    for pair in range(pairs):
        for chosen in range(sets):
            kind = reason[pair, chosen]
            counts[kind] += 1
            least[kind] = min(least[kind], miss[pair, chosen])
            most[kind] = max(most[kind], miss[pair, chosen])
    return counts, least, most
