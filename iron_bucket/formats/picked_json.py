"""The answer to a need as JSON. The format is described in docs/need-format.md."""

from itertools import islice
from typing import Any

from iron_bucket.core.selection.chain import chain_of
from iron_bucket.core.selection.changes import single_change
from iron_bucket.core.selection.fit import candidate_key, fit_of
from iron_bucket.core.selection.pick import PassedOver, Picked, passed_over, sorted_fits
from iron_bucket.core.selection.ranking import SortBy
from iron_bucket.core.selection.reasons import KINDS
from iron_bucket.core.selection.wording import shortfall


def picked_json(picked: Picked, *, sort_by: SortBy = SortBy.RANK, limit: int | None = 100) -> dict[str, Any]:
    """Fits best first, passed-over candidates with their reasons, and the counts.

    ``limit`` None lists every one of both.
    """
    fits = sorted_fits(picked, sort_by)
    shown = len(fits) if limit is None else min(limit, len(fits))
    return {
        "tried": picked.tried,
        "fitting": picked.fitting,
        "fitting_pairs": len(fits),
        "sorted_by": sort_by.value,
        "fits": [_fit(picked, fits.candidate(place), int(fits.ways[place])) for place in range(shown)],
        "passed_over": [_passed(picked, each) for each in islice(passed_over(picked), limit)],
        "reasons": {KINDS[reason].code: count for reason, count in sorted(picked.tally.counts.items())},
        "near_misses": [
            {**_passed(picked, each), "change": change.text if (change := single_change(picked.need, each)) else None}
            for each in picked.near_misses
        ],
    }


def _fit(picked: Picked, candidate: Any, ways: int) -> dict[str, Any]:
    fit = fit_of(picked, candidate, ways)
    chain = chain_of(picked.bench, picked.need, candidate, picked.found)
    return {
        "key": fit.key,
        "head": fit.head.slug,
        "configuration": fit.configuration.slug,
        "front": [part.slug for part in fit.front.parts],
        "sheets": [sheet.slug for sheet in fit.sheets],
        "headroom_stops": fit.headroom_stops,
        "level": fit.level,
        "coverage_m": fit.coverage_m,
        "coverage_is_at_least": fit.covers_more,
        "apparent_deg": fit.apparent_deg,
        "light_k": fit.light_k,
        "colour_error_mired": fit.colour_error_mired,
        "tint": fit.tint,
        "watts": fit.watts,
        "amps": fit.amps,
        "burn_h": fit.burn_h,
        "weight_kg": fit.weight_kg,
        "of_it_stands_and_bags_kg": fit.grip_kg,
        "day_price": fit.day_price,
        "owned": fit.is_owned,
        "origin": fit.origin.value,
        "ways": fit.ways,
        "points": fit.points,
        "chain": [
            {
                "label": step.label,
                "stops": step.stops,
                "illuminance_lx": step.illuminance_lx,
                "formula": step.formula,
                "origin": step.origin.value,
            }
            for step in chain.steps
        ],
    }


def _passed(picked: Picked, passed: PassedOver) -> dict[str, Any]:
    return {
        "key": candidate_key(picked, passed.candidate),
        "reason": KINDS[passed.reason].code,
        "miss": passed.miss,
        "text": shortfall(picked, passed),
    }
