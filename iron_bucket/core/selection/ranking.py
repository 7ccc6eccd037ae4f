"""How fits are ordered: a sum of small penalties, each of them shown. Fewer points stand higher."""

from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from iron_bucket.core.quantities.mired import mired_from_k
from iron_bucket.core.selection.criteria import StackFigures
from iron_bucket.core.selection.need import Need
from iron_bucket.core.selection.packing import PackedBench
from iron_bucket.core.typical import typical


class SortBy(StrEnum):
    """What the list can be put in order of."""

    RANK = "rank"
    HEADROOM = "headroom"
    DRAW = "draw"
    WEIGHT = "weight"
    PRICE = "price"
    SOFTNESS = "softness"


@dataclass(frozen=True, slots=True, kw_only=True)
class Weights:
    """Points for each thing that is held against a fit; the table says for how much of it."""

    missing_reserve_stop: float
    wasted_stop: float
    dimmed_filament_stop: float
    piece: float
    kilogram: float
    hundred_watts: float
    money: float
    hired: float
    colour: float
    full_tint: float
    distrust: float


def house_weights() -> Weights:
    """The house's own."""
    return Weights(**typical("ranking_points"))


WANTED_RESERVE_STOPS = 0.5
WASTE_FROM_STOPS = 3.0
PARTS = ("reserve", "waste", "dimmed", "pieces", "weight", "draw", "price", "hire", "colour", "tint", "trust")


def penalty_parts(
    bench: PackedBench,
    need: Need,
    rows: np.ndarray,
    fronts: np.ndarray,
    sets: np.ndarray,
    figures: StackFigures,
    weights: Weights,
) -> tuple[np.ndarray, ...]:
    """Points by part, in the order of ``PARTS``.

    Shapes: rows and fronts (P,), sets (S,), figures and each part broadcast to (P, S).
    """

    def together(of_pairs: np.ndarray, of_sheets: np.ndarray) -> np.ndarray:
        return np.asarray(of_pairs[:, None] + of_sheets[sets][None, :], dtype=np.float32)

    owned = (bench.is_owned[rows] & bench.front_is_owned[fronts])[:, None] & bench.sheet_is_owned[sets][None, :]
    wanted_mired = np.float32(mired_from_k(need.cct_k)) if need.cct_k else figures.light_mired
    return (
        np.float32(weights.missing_reserve_stop)
        * np.maximum(np.float32(WANTED_RESERVE_STOPS) - figures.headroom_stops, 0),
        np.float32(weights.wasted_stop) * np.maximum(figures.headroom_stops - np.float32(WASTE_FROM_STOPS), 0),
        np.float32(weights.dimmed_filament_stop)
        * bench.is_filament[rows][:, None]
        * np.maximum(figures.headroom_stops - np.float32(WANTED_RESERVE_STOPS), 0),
        np.float32(weights.piece) * together(bench.front_pieces[fronts], bench.sheet_pieces),
        np.float32(weights.kilogram) * together(bench.brought_kg(rows, fronts), bench.sheet_weight_kg),
        np.float32(weights.hundred_watts / 100.0) * figures.watts,
        np.float32(weights.money) * together(bench.price_to_pay(rows, fronts), bench.sheet_day_price),
        np.float32(weights.hired) * ~owned,
        np.float32(weights.colour) * np.square((figures.light_mired - wanted_mired) / np.float32(need.tolerance_mired)),
        np.float32(weights.full_tint)
        * np.abs(bench.tint[rows][:, None] + bench.sheet_tint[bench.head_class[rows]][:, sets]).astype(np.float32),
        np.float32(weights.distrust) * bench.distrust[rows][:, None].astype(np.float32),
    )


def stack_points(
    bench: PackedBench, need: Need, rows: np.ndarray, fronts: np.ndarray, figures: StackFigures, weights: Weights
) -> np.ndarray:
    """Total points of pairs with every sheet set. Shape (P, S)."""
    parts = penalty_parts(bench, need, rows, fronts, np.arange(len(bench.sheet_sets)), figures, weights)
    total = np.zeros_like(figures.watts)
    for part in parts:
        total += part
    return total
