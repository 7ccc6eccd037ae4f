"""By how much each candidate misses each wish. A miss above 0 rules out; its unit is that of the wish.

Pair misses run over (configuration, front); stack misses over (pair, sheet set). Bulk arrays are float32: a level that
is out by 1e-6 rules nothing out that a meter would let through.
"""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.colour.tungsten import CCT_EXPONENT, FLUX_EXPONENT
from iron_bucket.core.power.apparent import a_from_va, va_from_w
from iron_bucket.core.power.circuit import Circuit
from iron_bucket.core.quantities.mired import mired_from_k
from iron_bucket.core.rigging.headroom import needed_height_m
from iron_bucket.core.selection.levels import Levels, sheet_coverage_m
from iron_bucket.core.selection.need import LEVEL_TOLERANCE_STOPS, BatteryFeed, Need
from iron_bucket.core.selection.packing import PackedBench
from iron_bucket.core.selection.reasons import Reason

#: Of rounding.
_SAME_TINT = 1e-6
#: A miss smaller than this is rounding, not a miss.
HAIR = 1e-4
FLAG = 1.0  # the miss of a wish that is met or not, without a measure


def plate_figures(bench: PackedBench, feed: BatteryFeed) -> tuple[np.ndarray, Array]:
    """Plates of the feed's mount on each head (0: none), and the output limit that they impose. Shapes (C,)."""
    plates = [head.plate_for(feed.kind.mount) for head in bench.heads]
    count = np.array([plate.plates if plate else 0 for plate in plates])
    return count, np.array([plate.level_limit if plate else 1.0 for plate in plates])


def pair_misses(bench: PackedBench, need: Need, found: Levels) -> dict[Reason, Array]:
    """Misses that no sheet can mend. Shapes (C, F)."""
    shape = found.full_lx.shape
    per_head: dict[Reason, Array] = {}
    if need.technologies:
        per_head[Reason.TECHNOLOGY] = np.array(
            [0.0 if head.technology in need.technologies else FLAG for head in bench.heads]
        )
    if need.most_noise_db is not None:
        per_head[Reason.NOISE] = np.array([head.quietest_db for head in bench.heads]) - need.most_noise_db
    if need.feed is not None:
        per_head[Reason.SUPPLY] = _supply_miss(bench, need)
    misses = {reason: np.broadcast_to(miss[:, None], shape) for reason, miss in per_head.items()}
    if need.front is not None:
        unwanted = np.array([0.0 if need.front.allows(front) else FLAG for front in bench.fronts])
        misses[Reason.FRONT] = np.broadcast_to(unwanted, shape)
    if need.own_only:
        misses[Reason.NOT_OURS] = np.where(bench.is_owned[:, None] & bench.front_is_owned[None, :], 0.0, FLAG)
    misses[Reason.HEAT] = _heat_miss(bench)
    if need.ceiling_m is not None:
        misses[Reason.HEIGHT] = _needed_heights_m(bench) - need.ceiling_m
    if need.least_apparent_deg is not None:
        misses[Reason.HARD] = need.least_apparent_deg - found.apparent_deg
    if need.width_m is not None:
        narrow = need.width_m - found.coverage_m
        narrow = np.where(bench.sheets_decide_width, 0.0, narrow)
        misses[Reason.NARROW] = narrow
    return misses


def _supply_miss(bench: PackedBench, need: Need) -> Array:
    if isinstance(need.feed, Circuit):
        voltage_v = need.feed.voltage_v
        return np.array([0.0 if head.mains and head.mains.takes(voltage_v) else FLAG for head in bench.heads])
    if need.feed is None:
        return np.zeros(len(bench.heads))
    plates, _ = plate_figures(bench, need.feed)
    return np.where((plates > 0) & (plates <= need.feed.count), 0.0, FLAG)


def _heat_miss(bench: PackedBench) -> Array:
    """Watts of a hot lamp above what the box is rated for. Shape (C, F)."""
    rated = np.array([front.face.hottest_w if front.face else np.inf for front in bench.fronts])
    hot_w = np.array([head.draw.full_w.value if head.is_hot else 0.0 for head in bench.heads])
    return np.asarray(np.maximum(hot_w[:, None] - rated[None, :], 0.0))


def _needed_heights_m(bench: PackedBench) -> Array:
    """Ceiling that head and front need. Shape (C, F)."""
    standing = [
        max((part.height_m for part in (front.face, front.frame, front.board) if part), default=0.0)
        for front in bench.fronts
    ]
    return needed_height_m(np.maximum(bench.face_height_m[:, None], np.array(standing)[None, :]))


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class StackFigures:
    """What a block of candidates does. Shapes: with P pairs and S sheet sets, all (P, S), float32."""

    headroom_stops: np.ndarray
    level: np.ndarray
    light_mired: np.ndarray
    watts: np.ndarray

    def of_pairs(self, pairs: np.ndarray) -> "StackFigures":
        """The same for some of the pairs."""
        return StackFigures(
            headroom_stops=self.headroom_stops[pairs],
            level=self.level[pairs],
            light_mired=self.light_mired[pairs],
            watts=self.watts[pairs],
        )


def stack_figures(
    bench: PackedBench, need: Need, rows: np.ndarray, fronts: np.ndarray, full_stops: Array, sheet_stops: Array
) -> StackFigures:
    """Headroom, dim level, colour and watts of pairs (configuration ``rows``, front index) with every sheet set.

    ``full_stops``: log2 of each pair's full level in lux, shape (P,); ``sheet_stops`` (P, S).
    """
    base = (full_stops - np.log2(need.illuminance_lx)).astype(np.float32)
    headroom = base[:, None] + sheet_stops.astype(np.float32)
    limit_stops = _limit_stops(bench, need, rows)
    available = headroom + limit_stops[:, None]
    below_full = np.maximum(headroom, 0.0)
    floor = -np.log2(bench.lowest_level[rows]).astype(np.float32)
    dimmed_stops = np.minimum(below_full, floor[:, None])
    exponent = bench.level_exponent[rows].astype(np.float32)[:, None]
    idle, full = (values[rows].astype(np.float32)[:, None] for values in (bench.idle_w, bench.full_w))
    watts = idle + (full - idle) * np.exp2(-dimmed_stops * exponent)
    return StackFigures(
        headroom_stops=available,
        level=np.exp2(-dimmed_stops),
        light_mired=_light_mired(bench, need, rows, fronts, dimmed_stops),
        watts=watts,
    )


def _light_mired(
    bench: PackedBench, need: Need, rows: np.ndarray, fronts: np.ndarray, dimmed_stops: np.ndarray
) -> np.ndarray:
    """Colour at the subject: the lamp set as near as it goes to what is wanted behind all shifts; a filament warms as
    it dims.
    """
    kind = bench.head_class[rows]
    shift = (bench.front_shift_mired[kind, fronts][:, None] + bench.sheet_shift_mired[kind]).astype(np.float32)
    coolest, warmest = (
        values[rows].astype(np.float32)[:, None] for values in (bench.coolest_mired, bench.warmest_mired)
    )
    wanted = (
        np.float32(mired_from_k(need.cct_k)) - shift
        if need.cct_k
        else np.broadcast_to((coolest + warmest) / 2.0, shift.shape)
    )
    lamp = np.clip(wanted, coolest, warmest)
    filament = bench.is_filament[rows]
    if filament.any():
        lamp[filament] *= np.exp2(dimmed_stops[filament] * np.float32(CCT_EXPONENT / FLUX_EXPONENT))
    return np.asarray(lamp + shift)


def stack_misses(
    bench: PackedBench, need: Need, found: Levels, rows: np.ndarray, fronts: np.ndarray, figures: StackFigures
) -> dict[Reason, np.ndarray]:
    """Misses that depend on the sheets. Shapes (P, S)."""
    lowest_stops = np.log2(bench.lowest_level[rows]).astype(np.float32)[:, None]
    misses = {
        Reason.WEAK: -figures.headroom_stops,
        Reason.HOT: figures.headroom_stops
        - _limit_stops(bench, need, rows)[:, None]
        + lowest_stops
        - np.float32(LEVEL_TOLERANCE_STOPS),
    }
    if need.cct_k is not None:
        misses[Reason.COLOUR] = np.abs(figures.light_mired - np.float32(mired_from_k(need.cct_k))) - np.float32(
            need.tolerance_mired
        )
    if need.most_tint is not None:
        tint = bench.tint[rows][:, None] + bench.sheet_tint[bench.head_class[rows]]
        misses[Reason.TINT] = (np.abs(tint) - need.most_tint).astype(np.float32) - np.float32(_SAME_TINT)
    if isinstance(need.feed, Circuit):
        amps = a_from_va(va_from_w(1.0, bench.power_factor[rows]), need.feed.voltage_v)
        amps_per_watt = np.asarray(amps, dtype=np.float32)[:, None]
        misses[Reason.CIRCUIT] = figures.watts * amps_per_watt - np.float32(need.feed.free_a)
    elif need.feed is not None:
        misses |= _battery_misses(bench, need.feed, rows, figures.watts)
    if need.most_weight_kg is not None:
        weight = bench.brought_kg(rows, fronts)[:, None] + bench.sheet_weight_kg[None, :]
        misses[Reason.WEIGHT] = weight - need.most_weight_kg
    if need.most_day_price is not None:
        price = bench.price_to_pay(rows, fronts)[:, None] + bench.sheet_day_price[None, :]
        misses[Reason.PRICE] = price - need.most_day_price
    if need.width_m is not None and bench.sheets_decide_width.any():
        narrow = need.width_m - sheet_coverage_m(bench, found, rows, fronts)
        misses[Reason.NARROW] = np.where(bench.sheets_decide_width[fronts][:, None], narrow, 0.0)
    if need.own_only:
        misses[Reason.NOT_OURS] = np.broadcast_to(
            np.where(bench.sheet_is_owned, 0.0, FLAG)[None, :], figures.watts.shape
        )
    return misses


def _limit_stops(bench: PackedBench, need: Need, rows: np.ndarray) -> np.ndarray:
    """What battery or a quiet mode leave of full output, in stops of 0 or below. Shape (P,)."""
    limit = np.ones(len(bench.heads))
    if isinstance(need.feed, BatteryFeed):
        limit = plate_figures(bench, need.feed)[1]
    if need.most_noise_db is not None:
        quiet = np.array([head.quiet_share(need.most_noise_db) for head in bench.heads])
        # One that is never quiet has been ruled out already.
        limit = np.minimum(limit, np.where(quiet > 0.0, quiet, np.inf))
    return np.asarray(np.log2(limit[rows]).astype(np.float32))


def _battery_misses(
    bench: PackedBench, feed: BatteryFeed, rows: np.ndarray, watts: np.ndarray
) -> dict[Reason, np.ndarray]:
    """Amps over what one battery delivers, and hours short with all of them burnt one fill after the other."""
    plates = np.maximum(plate_figures(bench, feed)[0][rows], 1)[:, None].astype(np.float32)
    single = feed.kind.supply(1)
    current = watts / np.float32(single.efficiency * single.nominal_v) / plates
    burn_h = np.float32(feed.energy_wh) / watts
    return {Reason.BATTERY_CURRENT: current - np.float32(single.most_a), Reason.DARK: feed.burn_h - burn_h}
