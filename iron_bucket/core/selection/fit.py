"""One fit with all that a row of the list, or a line of JSON, says about it."""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.head import Head
from iron_bucket.core.figure import Origin
from iron_bucket.core.modifiers.kinds import Sheet
from iron_bucket.core.power.apparent import a_from_va
from iron_bucket.core.power.circuit import Circuit
from iron_bucket.core.quantities.mired import k_from_mired, mired_from_k
from iron_bucket.core.selection.blocks import judge_stacks
from iron_bucket.core.selection.criteria import StackFigures, plate_figures
from iron_bucket.core.selection.fronts import Front
from iron_bucket.core.selection.levels import sheet_coverage_m
from iron_bucket.core.selection.need import BatteryFeed
from iron_bucket.core.selection.pick import Candidate, Picked
from iron_bucket.core.selection.ranking import PARTS, Weights, house_weights, penalty_parts


@dataclass(frozen=True, slots=True, kw_only=True)
class Fit:
    """``amps`` on a circuit, ``burn_h`` on batteries, None on the other;

    ``colour_error_mired`` None where no colour was asked for.
    """

    key: str
    head: Head
    configuration: Configuration
    front: Front
    sheets: tuple[Sheet, ...]
    headroom_stops: float
    level: float
    coverage_m: float
    covers_more: bool  # coverage was not looked for any further out
    apparent_deg: float
    light_k: float
    colour_error_mired: float | None
    tint: float
    watts: float
    amps: float | None
    burn_h: float | None
    batteries_at_once: int
    weight_kg: float  # all that is brought, stands and bags too
    grip_kg: float  # of it stands and bags
    day_price: float
    is_owned: bool
    origin: Origin
    share_caught: float
    lit_size_m: float
    lux_per_watt: float  # at the level wanted
    points: dict[str, float]
    ways: int


def candidate_key(picked: Picked, candidate: Candidate) -> str:
    """Head, front and sheets as one text for an address; ``candidate_of`` finds it again."""
    bench = picked.bench
    return "~".join(
        (
            bench.configurations[candidate.row].slug,
            bench.fronts[candidate.front].key,
            bench.sheet_sets[candidate.sheets].key,
        )
    )


def candidate_of(picked: Picked, key: str) -> Candidate | None:
    """The candidate that a key names; None where the bench no longer has it."""
    configuration, front, sheets = [*key.split("~"), "", ""][:3]
    rows = [index for index, each in enumerate(picked.bench.configurations) if each.slug == configuration]
    fronts = [index for index, each in enumerate(picked.bench.fronts) if each.key == front]
    sets = [index for index, each in enumerate(picked.bench.sheet_sets) if each.key == sheets]
    if not (
        rows and fronts and sets and picked.bench.mounts[rows[0], fronts[0]] and picked.bench.wears[rows[0], sets[0]]
    ):
        return None
    return Candidate(row=rows[0], front=fronts[0], sheets=sets[0])


def fit_of(picked: Picked, candidate: Candidate, ways: int = 1, weights: Weights | None = None) -> Fit:
    """All figures of one candidate, whether it fits or not."""
    bench, need = picked.bench, picked.need
    row, front, sets = candidate.row, candidate.front, candidate.sheets
    head, configuration = bench.heads[row], bench.configurations[row]
    figures = judge_stacks(bench, need, picked.found, np.array([[row, front]])).figures
    watts, mired = float(figures.watts[0, sets]), float(figures.light_mired[0, sets])
    pair = np.array([row]), np.array([front])
    coverage_m = float(sheet_coverage_m(bench, picked.found, *pair)[0, sets])
    parts = _points(picked, candidate, figures, weights or house_weights())
    return Fit(
        key=candidate_key(picked, candidate),
        head=head,
        configuration=configuration,
        front=bench.fronts[front],
        sheets=bench.sheet_sets[sets].sheets,
        headroom_stops=float(figures.headroom_stops[0, sets]),
        level=float(figures.level[0, sets]),
        coverage_m=coverage_m,
        covers_more=bool(coverage_m >= np.float32(picked.found.widest_m)),
        apparent_deg=float(picked.found.apparent_deg[row, front]),
        light_k=float(k_from_mired(max(mired, 10.0))),
        colour_error_mired=mired - float(mired_from_k(need.cct_k)) if need.cct_k else None,
        tint=float(bench.tint[row] + bench.sheet_tint[bench.head_class[row], sets]),
        watts=watts,
        amps=_amps(picked, row, watts),
        burn_h=_burn_h(picked, watts),
        batteries_at_once=int(plate_figures(bench, need.feed)[0][row]) if isinstance(need.feed, BatteryFeed) else 0,
        weight_kg=float(bench.brought_kg(*pair)[0] + bench.sheet_weight_kg[sets]),
        grip_kg=float(bench.grip_weight_kg[row, front]),
        day_price=float(bench.price_to_pay(*pair)[0] + bench.sheet_day_price[sets]),
        is_owned=bool(bench.is_owned[row] and bench.front_is_owned[front] and bench.sheet_is_owned[sets]),
        origin=configuration.origin,
        share_caught=float(picked.found.share_caught[row, front]),
        lit_size_m=float(picked.found.lit_size_m[row, front]),
        lux_per_watt=need.illuminance_lx / watts,
        points=parts,
        ways=ways,
    )


def _amps(picked: Picked, row: int, watts: float) -> float | None:
    feed = picked.need.feed
    if not isinstance(feed, Circuit):
        return None
    return float(a_from_va(picked.bench.heads[row].draw.va_from_w(watts), feed.voltage_v))


def _burn_h(picked: Picked, watts: float) -> float | None:
    feed = picked.need.feed
    return feed.energy_wh / watts if isinstance(feed, BatteryFeed) else None


def _points(picked: Picked, candidate: Candidate, figures: StackFigures, weights: Weights) -> dict[str, float]:
    one = StackFigures(
        **{
            name: getattr(figures, name)[:, [candidate.sheets]]
            for name in ("headroom_stops", "level", "light_mired", "watts")
        }
    )
    parts = penalty_parts(
        picked.bench,
        picked.need,
        np.array([candidate.row]),
        np.array([candidate.front]),
        np.array([candidate.sheets]),
        one,
        weights,
    )
    return {name: float(np.asarray(part).item()) for name, part in zip(PARTS, parts, strict=True)}
