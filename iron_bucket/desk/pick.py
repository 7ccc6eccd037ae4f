"""Picking: a need against the whole shelf, and one candidate of it opened."""

from collections.abc import Hashable
from dataclasses import dataclass

import numpy as np
from sqlalchemy.orm import Session

from iron_bucket.core.cautions.rules import Caution, lamp_cautions
from iron_bucket.core.figure import Origin
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.selection.chain import Chain, chain_of
from iron_bucket.core.selection.changes import Change, single_change
from iron_bucket.core.selection.fit import Fit, candidate_of, fit_of
from iron_bucket.core.selection.holding import Holding, holding
from iron_bucket.core.selection.measured_gear import UnitTrim
from iron_bucket.core.selection.narrow import narrowed
from iron_bucket.core.selection.need import Need
from iron_bucket.core.selection.pick import (
    Candidate,
    Fits,
    LaidOut,
    PassedOver,
    Picked,
    geometry_of,
    laid_out,
    pick,
    sorted_fits,
    spread,
)
from iron_bucket.core.selection.ranking import SortBy
from iron_bucket.core.selection.reasons import KINDS
from iron_bucket.core.selection.wording import range_text, shortfall
from iron_bucket.desk.bench import Shelf, shelf_in
from iron_bucket.desk.bounded_cache import BoundedCache
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.transaction import one_transaction

#: Seen at once, and at most; the rest is worked out when somebody gets there.
FIRST_ROWS, ROWS = 8, 24
PER_HEAD = 2
MOST_COMPARED = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class FitView:
    """One fit with its chain and cautions, and what our own very lamps give against the model."""

    fit: Fit
    chain: Chain
    cautions: tuple[Caution, ...]
    trims: tuple[UnitTrim, ...]
    holding: Holding | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ReasonView:
    """One reason: how many candidates it ruled out, and between which figures."""

    code: str
    title: str
    count: int
    span: str


@dataclass(frozen=True, slots=True, kw_only=True)
class NearMissView:
    """A candidate that one change would make fit."""

    fit: Fit
    text: str
    change: Change | None


@dataclass(frozen=True, slots=True, kw_only=True)
class PickView:
    """The answer as a page shows it. ``heads``: different heads that fit; ``ways``: everything that fits; ``rows``: the
    first of the list, which ``further`` more follow.
    """

    need: Need
    tried: int
    ways: int
    heads: int
    rows: tuple[FitView, ...]
    further: int
    reasons: tuple[ReasonView, ...]
    near_misses: tuple[NearMissView, ...]
    measured_share: float


def _view(shelf: Shelf, picked: Picked, candidate: Candidate, units: UnitSystem, ways: int = 1) -> FitView:
    fit = fit_of(picked, candidate, ways)
    chain = chain_of(picked.bench, picked.need, candidate, picked.found, units)
    parts = (*fit.sheets, *fit.front.parts)
    return FitView(
        trims=shelf.measured.trims.get(fit.configuration.slug, ()),
        holding=holding(fit, picked.need),
        fit=fit,
        chain=chain,
        cautions=lamp_cautions(
            fit.head, parts, subject_lx=min(chain.steps[-1].illuminance_lx, picked.need.illuminance_lx), units=units
        ),
    )


def pick_view(shelf: Shelf, need: Need, sort_by: SortBy, units: UnitSystem) -> PickView:
    """Rank, spread over the heads, and put the rest in words."""
    return _ANSWERS.get_or_make((shelf.stamp, need, sort_by, units), lambda: _answered(shelf, need, sort_by, units))


def further_rows(shelf: Shelf, need: Need, sort_by: SortBy, units: UnitSystem) -> tuple[FitView, ...]:
    """What follows the first rows of the list."""
    picked = _picked(shelf, need)
    return _views(shelf, picked, _listed(picked, sort_by), slice(FIRST_ROWS, ROWS), units)


#: By the stamp of the shelf, which is another one after every change of it.
_ANSWERS: BoundedCache[Hashable, PickView] = BoundedCache(48)
_PICKED: BoundedCache[Hashable, Picked] = BoundedCache(12)
_LAID_OUT: BoundedCache[Hashable, LaidOut] = BoundedCache(12)


def _picked(shelf: Shelf, need: Need) -> Picked:
    return _PICKED.get_or_make((shelf.stamp, need), lambda: _pick_of(shelf, need))


def _pick_of(shelf: Shelf, need: Need) -> Picked:
    laid = _LAID_OUT.get_or_make((shelf.stamp, geometry_of(need)), lambda: laid_out(shelf.packed, need))
    return pick(shelf.packed, need, laid=laid)


def _listed(picked: Picked, sort_by: SortBy) -> Fits:
    return spread(picked, sorted_fits(picked, sort_by), per_head=PER_HEAD).ordered(np.s_[:ROWS])


def _views(shelf: Shelf, picked: Picked, listed: Fits, part: slice, units: UnitSystem) -> tuple[FitView, ...]:
    return tuple(
        _view(shelf, picked, listed.candidate(place), units, int(listed.ways[place]))
        for place in range(len(listed))[part]
    )


def _answered(shelf: Shelf, need: Need, sort_by: SortBy, units: UnitSystem) -> PickView:
    picked = _picked(shelf, need)
    listed = _listed(picked, sort_by)
    configurations = [picked.bench.configurations[row] for row in listed.row]
    return PickView(
        need=need,
        tried=picked.tried,
        ways=picked.fitting,
        heads=len({picked.bench.heads[row].slug for row in picked.fits.row}),
        rows=_views(shelf, picked, listed, slice(FIRST_ROWS), units),
        further=max(len(listed) - FIRST_ROWS, 0),
        reasons=_reasons(picked, units),
        near_misses=tuple(_near_miss(picked, each, units) for each in picked.near_misses),
        measured_share=sum(each.origin is Origin.MEASURED for each in configurations) / max(len(configurations), 1),
    )


def _reasons(picked: Picked, units: UnitSystem) -> tuple[ReasonView, ...]:
    counted = sorted(picked.tally.counts.items(), key=lambda each: -each[1])
    return tuple(
        ReasonView(
            code=KINDS[reason].code,
            title=KINDS[reason].title,
            count=count,
            span=range_text(picked.need, reason, *picked.tally.ranges[reason], units),
        )
        for reason, count in counted
    )


def _near_miss(picked: Picked, passed: PassedOver, units: UnitSystem) -> NearMissView:
    return NearMissView(
        fit=fit_of(picked, passed.candidate),
        text=shortfall(picked, passed, units),
        change=single_change(picked.need, passed, units),
    )


@one_transaction
def answer(session: Session, need: Need, sort_by: SortBy, units: UnitSystem) -> PickView:
    """The need against everything on the shelf."""
    return pick_view(shelf_in(session), need, sort_by, units)


def opened(shelf: Shelf, need: Need, key: str, units: UnitSystem) -> FitView:
    """One candidate, computed alone. Raises: NotFound where the shelf no longer has it."""
    picked = only_this(shelf, need, key)
    candidate = candidate_of(picked, key)
    if candidate is None:
        raise NotFound("that combination is no longer on the bench")
    return _view(shelf, picked, candidate, units)


def only_this(shelf: Shelf, need: Need, key: str) -> Picked:
    """A pick from a shelf that holds only what a key names; far quicker than the whole."""
    return pick(narrowed(shelf.packed, key), need)


@one_transaction
def compare(session: Session, need: Need, keys: tuple[str, ...], units: UnitSystem) -> tuple[FitView, ...]:
    """Up to three candidates on the same work; those that the shelf no longer has are left out."""
    views = []
    for key in keys[:MOST_COMPARED]:
        try:
            views.append(opened(shelf_in(session), need, key, units))
        except NotFound:
            continue
    return tuple(views)
