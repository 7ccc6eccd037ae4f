"""The choice itself: every configuration x front x sheet set against one need, ranked, and the rest with its reason."""

from collections.abc import Iterator
from dataclasses import dataclass, field, fields, replace
from functools import lru_cache
from typing import NamedTuple

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.selection.blocks import (
    CANNOT_BE_BUILT,
    PairVerdict,
    StackVerdict,
    best_sets,
    judge_pairs,
    judge_stacks,
    nearest_single_misses,
    reason_ranges,
)
from iron_bucket.core.selection.levels import Levels, levels
from iron_bucket.core.selection.narrow import cut_to
from iron_bucket.core.selection.need import Need
from iron_bucket.core.selection.packing import PackedBench, at_colour
from iron_bucket.core.selection.ranking import SortBy, Weights, house_weights
from iron_bucket.core.selection.reasons import KINDS, PAIR_REASONS, Reason
from iron_bucket.core.threads import in_threads

#: Candidates in one block: small enough for the cache, large enough that Python does not show.
BLOCK = 60_000
#: Of each pair reason, how many of the nearest pairs are looked at for a near miss.
NEAR_PAIRS = 30
NEAR_MISSES = 6


@dataclass(frozen=True, slots=True, kw_only=True)
class Candidate:
    """One head in one configuration with one front and one sheet set, by index into the packed bench."""

    row: int
    front: int
    sheets: int


@dataclass(frozen=True, slots=True, kw_only=True)
class PassedOver:
    """A candidate, the first wish it does not meet, and by how much in that wish's unit."""

    candidate: Candidate
    reason: Reason
    miss: float

    @property
    def steps(self) -> float:
        """The miss in steps, so that stops can be compared with kilos."""
        return self.miss / KINDS[self.reason].near


@dataclass(slots=True)
class Tally:
    """How often each reason was the first, and between which misses."""

    counts: dict[Reason, int] = field(default_factory=dict)
    ranges: dict[Reason, tuple[float, float]] = field(default_factory=dict)

    def add(self, reason: Reason, count: int, least: float, most: float) -> None:
        """Take in a group of candidates with one reason."""
        low, high = self.ranges.get(reason, (least, most))
        self.counts[reason] = self.counts.get(reason, 0) + count
        self.ranges[reason] = (min(low, least), max(high, most))

    def take(self, other: "Tally") -> None:
        """Take in what was counted elsewhere."""
        for reason, count in other.counts.items():
            self.add(reason, count, *other.ranges[reason])


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Fits:
    """The best sheet set of every pair that fits. Shapes: all (N,). ``ways``: how many sheet sets fit that pair."""

    row: np.ndarray
    front: np.ndarray
    sheets: np.ndarray
    ways: np.ndarray
    points: Array
    headroom_stops: Array
    level: Array
    light_mired: Array
    watts: Array

    def ordered(self, order: np.ndarray | slice) -> "Fits":
        """The same in another order, or fewer of them."""
        return Fits(**{each.name: getattr(self, each.name)[order] for each in fields(self)})

    def __len__(self) -> int:
        """How many pairs fit."""
        return len(self.row)

    def candidate(self, place: int) -> Candidate:
        """The one at a place in the list."""
        return Candidate(row=int(self.row[place]), front=int(self.front[place]), sheets=int(self.sheets[place]))


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Picked:
    """The answer to a need. ``fitting`` counts every sheet set that fits, ``tried`` all that can be put together."""

    need: Need
    bench: PackedBench
    found: Levels
    pairs: PairVerdict
    tried: int
    fitting: int
    fits: Fits
    tally: Tally
    near_misses: tuple[PassedOver, ...]


class LaidOut(NamedTuple):
    """A bench at the colour that is asked, and what all of it gives at one distance: most of the work of a pick, and
    the same for every need of one geometry.
    """

    bench: PackedBench
    found: Levels


def geometry_of(need: Need) -> tuple[float | None, ...]:
    """All that ``laid_out`` looks at."""
    return need.cct_k, need.throw_m, need.width_m, need.evenness_stops


def laid_out(bench: PackedBench, need: Need) -> LaidOut:
    """Every head at the colour that is asked, as near to it as it can be set, through every front."""
    bench = at_colour(bench, need.cct_k)
    return LaidOut(bench, levels(bench, need))


def pick(bench: PackedBench, need: Need, weights: Weights | None = None, laid: LaidOut | None = None) -> Picked:
    """Rank what fits the need and count, by reason, what does not. ``laid``: where the bench is laid out already for
    the geometry of the need.
    """
    bench, found = laid or laid_out(bench, need)
    pairs = judge_pairs(bench, need, found)
    tally = Tally()
    sheet_stops = (bench.wears * bench.sheet_stops(need.scrim_school)[bench.head_class]).min(axis=1, initial=0.0)
    _tally_pairs(bench, pairs, -(sheet_stops[:, None] + found.scatter_stops.min(axis=0)), tally)
    near, parts = _near_pairs(bench, need, found, pairs), []

    def judged(block: _Block) -> tuple[Tally, list[PassedOver], Fits]:
        verdict = judge_stacks(block.bench, need, block.found, block.pairs)
        fits = _fits_of(block.bench, need, verdict, weights or house_weights())
        return _tally_of(verdict), _single_misses(verdict, block.sets), replace(fits, sheets=block.sets[fits.sheets])

    for counted, missed, fits in in_threads(judged, _blocks(bench, found, pairs.reason == Reason.FITS)):
        tally.take(counted)
        near += missed
        parts.append(fits)
    fits = _joined(parts)
    tried = int((bench.mounts * bench.wears.sum(axis=1)[:, None]).sum())
    return Picked(
        need=need,
        bench=bench,
        found=found,
        pairs=pairs,
        tried=tried,
        fitting=int(fits.ways.sum()),
        fits=fits.ordered(np.lexsort((fits.front, fits.row, fits.points))),
        tally=tally,
        near_misses=_nearest(bench, near, fits),
    )


class _Block(NamedTuple):
    """Pairs that wear the same ``sets`` of sheets, by index, and the bench as if there were no others."""

    bench: PackedBench
    found: Levels
    sets: np.ndarray
    pairs: np.ndarray


def _blocks(bench: PackedBench, found: Levels, alive: np.ndarray) -> list[_Block]:
    """Of the pairs that sheets decide; a hot lamp's scrims are half of all sets, and nothing else wears them."""
    blocks = []
    for sets, is_worn_by, cut in _by_what_they_wear(bench):
        pairs = np.argwhere(alive & is_worn_by[:, None])
        if not len(sets) or not len(pairs):
            continue
        size = max(1, BLOCK // len(sets))
        with_these = replace(found, behind_sheets_m=found.behind_sheets_m[:, sets])
        blocks += [_Block(cut, with_these, sets, pairs[start : start + size]) for start in range(0, len(pairs), size)]
    return blocks


@lru_cache(maxsize=4)
def _by_what_they_wear(bench: PackedBench) -> tuple[tuple[np.ndarray, np.ndarray, PackedBench], ...]:
    """The sheet sets that some heads wear alike, which heads these are (C,), and the bench with these sets alone."""
    every_row, every_front = (np.arange(count) for count in bench.mounts.shape)
    kinds, kind_of = np.unique(bench.wears, axis=0, return_inverse=True)
    each_sets = [np.flatnonzero(wears) for wears in kinds]
    return tuple(
        (sets, kind_of == kind, cut_to(bench, every_row, every_front, sets)) for kind, sets in enumerate(each_sets)
    )


def _tally_pairs(bench: PackedBench, pairs: PairVerdict, darkest: Array, tally: Tally) -> None:
    """A pair that is ruled out takes all its sheet sets with it; a hopelessly weak one is weaker still with each of
    them, by up to ``darkest`` stops (C, F).
    """
    sets = np.broadcast_to(bench.wears.sum(axis=1)[:, None], pairs.reason.shape)
    for reason in (*PAIR_REASONS, Reason.WEAK):
        ruled_out = pairs.reason == reason
        if ruled_out.any():
            misses = pairs.miss[ruled_out]
            if reason is Reason.WEAK:
                misses = np.concatenate([misses, (pairs.miss + darkest)[ruled_out]])
            tally.add(reason, int(sets[ruled_out].sum()), float(misses.min()), float(misses.max()))


def _tally_of(verdict: StackVerdict) -> Tally:
    tally = Tally()
    for each in reason_ranges(verdict):
        tally.add(*each)
    return tally


def _fits_of(bench: PackedBench, need: Need, verdict: StackVerdict, weights: Weights) -> Fits:
    pairs, sets, points = best_sets(bench, need, verdict, weights)
    figures = verdict.figures
    return Fits(
        row=verdict.rows[pairs],
        front=verdict.fronts[pairs],
        sheets=sets,
        points=points,
        ways=(verdict.reason[pairs] == Reason.FITS).sum(axis=1),
        headroom_stops=figures.headroom_stops[pairs, sets].astype(float),
        level=figures.level[pairs, sets].astype(float),
        light_mired=figures.light_mired[pairs, sets].astype(float),
        watts=figures.watts[pairs, sets].astype(float),
    )


def _joined(parts: list[Fits]) -> Fits:
    whole = ("row", "front", "sheets", "ways")
    empty = {each.name: np.zeros(0, dtype=int if each.name in whole else float) for each in fields(Fits)}
    return Fits(
        **{name: np.concatenate([none, *(getattr(part, name) for part in parts)]) for name, none in empty.items()}
    )


def _single_misses(verdict: StackVerdict, sets: np.ndarray) -> list[PassedOver]:
    return [
        PassedOver(
            candidate=Candidate(row=int(verdict.rows[pair]), front=int(verdict.fronts[pair]), sheets=int(sets[sheets])),
            reason=reason,
            miss=miss,
        )
        for reason, pair, sheets, miss in nearest_single_misses(verdict)
    ]


def _near_pairs(bench: PackedBench, need: Need, found: Levels, pairs: PairVerdict) -> list[PassedOver]:
    """Pairs with one unmet pair wish that some sheet set would otherwise serve."""
    near = []
    for reason in PAIR_REASONS:
        where = np.argwhere((pairs.reason == reason) & (pairs.failures == 1))
        nearest = where[np.argsort(pairs.miss[where[:, 0], where[:, 1]], kind="stable")[:NEAR_PAIRS]]
        if not len(nearest):
            continue
        serves = judge_stacks(bench, need, found, nearest).reason == Reason.FITS
        near += [
            PassedOver(
                candidate=Candidate(row=int(row), front=int(front), sheets=int(serves[place].argmax())),
                reason=reason,
                miss=float(pairs.miss[row, front]),
            )
            for place, (row, front) in enumerate(nearest)
            if serves[place].any()
        ]
    return near


def _nearest(bench: PackedBench, near: list[PassedOver], fits: Fits) -> tuple[PassedOver, ...]:
    """The fewest steps away, each head once, no head that fits anyway, no reason more than twice."""
    serving = {bench.heads[row].slug for row in np.unique(fits.row)}
    chosen: list[PassedOver] = []
    for miss in sorted(
        near, key=lambda each: (each.steps, each.candidate.row, each.candidate.front, each.candidate.sheets)
    ):
        head = bench.heads[miss.candidate.row].slug
        is_new = head not in serving and all(bench.heads[other.candidate.row].slug != head for other in chosen)
        if is_new and sum(other.reason is miss.reason for other in chosen) < 2:
            chosen.append(miss)
    return tuple(chosen[:NEAR_MISSES])


def sorted_fits(picked: Picked, by: SortBy) -> Fits:
    """The fits in another order; equal ones keep their rank."""
    fits, bench = picked.fits, picked.bench
    keys = {
        SortBy.RANK: fits.points,
        SortBy.HEADROOM: -fits.headroom_stops,
        SortBy.DRAW: fits.watts,
        SortBy.WEIGHT: bench.brought_kg(fits.row, fits.front) + bench.sheet_weight_kg[fits.sheets],
        SortBy.PRICE: bench.price_to_pay(fits.row, fits.front) + bench.sheet_day_price[fits.sheets],
        SortBy.SOFTNESS: -picked.found.apparent_deg[fits.row, fits.front],
    }
    return fits.ordered(np.argsort(np.round(keys[by], 6), kind="stable"))


def spread(picked: Picked, fits: Fits, *, per_head: int) -> Fits:
    """At most so many of each head, each with another kind of front, in the order given: choices, not one lamp in
    forty coats.
    """
    seen: dict[str, set[str]] = {}
    keep = []
    for place, (row, front) in enumerate(zip(fits.row, fits.front, strict=True)):
        kinds = seen.setdefault(picked.bench.heads[row].slug, set())
        kind = picked.bench.fronts[front].kind.value
        if len(kinds) < per_head and kind not in kinds:
            kinds.add(kind)
            keep.append(place)
    return fits.ordered(np.array(keep, dtype=int))


def passed_over(picked: Picked) -> Iterator[PassedOver]:
    """Every candidate that does not fit, with its reason, in the order of the bench."""
    bench, sheet_stops = picked.bench, picked.bench.sheet_stops(picked.need.scrim_school)
    for row, front in np.argwhere(picked.pairs.reason != CANNOT_BE_BUILT):
        reason = Reason(int(picked.pairs.reason[row, front]))
        verdict = None if reason else judge_stacks(bench, picked.need, picked.found, np.array([[row, front]]))
        for sheets in np.flatnonzero(bench.wears[row]):
            stack_reason = reason if verdict is None else Reason(int(verdict.reason[0, sheets]))
            if stack_reason:
                miss = picked.pairs.miss[row, front] if verdict is None else verdict.miss[0, sheets]
                if verdict is None and reason is Reason.WEAK:
                    kind = bench.head_class[row]
                    spread = picked.found.scatter_stops[bench.sheet_scatter[kind, sheets], row, front]
                    miss = miss - sheet_stops[kind, sheets] - spread
                yield PassedOver(
                    candidate=Candidate(row=int(row), front=int(front), sheets=int(sheets)),
                    reason=stack_reason,
                    miss=float(miss),
                )
