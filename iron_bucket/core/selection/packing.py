"""A whole bench laid out in arrays, once, so that every need can be answered from it."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from math import prod
from typing import Any

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.configuration import Configuration, FaceShape
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.grip import grip_of_flat, head_grip_figures
from iron_bucket.core.bench.head import Head, HeadClass
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bench.setting_output import has_two_whites, setting_share
from iron_bucket.core.bench.stand import Stand
from iron_bucket.core.figure import TRUST
from iron_bucket.core.modifiers.kinds import Board, Cloth, Face, Frame, Grid, ScrimSchool, Sheet, SheetKind
from iron_bucket.core.modifiers.measured_pass import MeasuredPass
from iron_bucket.core.modifiers.scatter import Scatter
from iron_bucket.core.quantities.mired import mired_from_k
from iron_bucket.core.selection.directions import CELLS, candela_row
from iron_bucket.core.selection.fronts import Front, FrontKind, SheetSet, fronts_of, sheet_sets_of

#: The order of the classes of head in every (K, ...) array.
CLASSES = tuple(HeadClass)
_Meter = dict[tuple[str, HeadClass], MeasuredPass]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class PackedBench:
    """Shapes: C configurations, F fronts, S sheet sets, D directions, K classes of head.

    candela (C, D), float32 because a meter reads three digits; the other figures of heads and configurations (C,); of
    fronts (F,); of sheet sets (S,). What a modifier does differs between
    classes of head, so ``front_gain`` (what a meter found over the modifiers' own figures), ``front_spread`` and
    ``sheet_spread`` (its beam over the computed one), the shifts of colour and the stops of sheets are (K, F) and (K,
    S).
    ``grip_weight_kg`` and ``grip_day_price`` (C, F): of the stands and bags under a head and what stands before it;
    ``mounts`` (C, F): whether that front can be put before that head at all; ``wears`` (C, S): the same for sheets.
    """

    configurations: tuple[Configuration, ...]
    heads: tuple[Head, ...]  # the head of each configuration
    fronts: tuple[Front, ...]
    sheet_sets: tuple[SheetSet, ...]
    candela: np.ndarray
    lumens: Array
    offset_m: Array
    face_width_m: Array
    face_height_m: Array
    is_disc: np.ndarray
    is_lambertian: np.ndarray
    full_w: Array
    idle_w: Array
    power_factor: Array
    level_exponent: Array
    lowest_level: Array
    warmest_mired: Array
    coolest_mired: Array
    is_filament: np.ndarray
    weight_kg: Array
    day_price: Array
    is_owned: np.ndarray
    fan_db: Array
    distrust: Array  # 0 measured, 1 claimed, 2 typical
    tint: Array
    front_is_open: np.ndarray  # nothing in it
    front_is_box: np.ndarray
    front_weight_kg: Array
    front_day_price: Array
    front_is_owned: np.ndarray
    front_gain: Array
    front_spread: Array
    front_shift_mired: Array
    front_pieces: Array
    grip_weight_kg: Array
    grip_day_price: Array
    sheet_weight_kg: Array
    sheet_day_price: Array
    sheet_is_owned: np.ndarray
    sheet_shift_mired: Array
    sheet_tint: Array
    sheet_pieces: Array
    sheet_spread: Array
    sheet_scatter: np.ndarray
    scatters: tuple[Scatter, ...]
    sheet_stops_half: Array
    sheet_stops_one: Array
    head_class: np.ndarray  # index into CLASSES
    measured: tuple[MeasuredPass, ...]
    mounts: np.ndarray
    wears: np.ndarray

    def sheet_stops(self, school: ScrimSchool) -> Array:
        """Stops that each sheet set lets through on each class of head, 0 or below. Shape (K, S)."""
        return self.sheet_stops_half if school is ScrimSchool.HALF_AND_ONE else self.sheet_stops_one

    def brought_kg(self, rows: np.ndarray, fronts: np.ndarray) -> Array:
        """Heads with what stands before them, and all that they stand on. Shapes (P,)."""
        return np.asarray(self.weight_kg[rows] + self.front_weight_kg[fronts] + self.grip_weight_kg[rows, fronts])

    def price_to_pay(self, rows: np.ndarray, fronts: np.ndarray) -> Array:
        """What the same costs a day; ours costs nothing. Shapes (P,)."""
        return np.asarray(self.day_price[rows] + self.front_day_price[fronts] + self.grip_day_price[rows, fronts])

    @property
    def sheets_decide_width(self) -> np.ndarray:
        """Fronts whose coverage depends on the sheets: what stands open where a meter says so, all but boxes where
        there are diffusion sheets. Shape (F,).
        """
        return np.asarray((self.front_is_open & self.sheets_spread) | (~self.front_is_box & bool(self.scatters)))

    @property
    def sheets_spread(self) -> bool:
        """Whether a meter found any sheet to change a beam."""
        return bool((self.sheet_spread != 1.0).any())

    def found(self, slug: str, row: int) -> MeasuredPass | None:
        """What a meter found of a modifier on the class of head of one configuration."""
        head_class = CLASSES[self.head_class[row]]
        return next(
            (each for each in self.measured if each.modifier_slug == slug and each.head_class is head_class), None
        )


def pack(gear: Gear) -> PackedBench:
    """Lay the gear out. The order is by slug, so that equal results come in one order however the gear was listed."""
    configurations = tuple(sorted(gear.configurations, key=lambda configuration: configuration.slug))
    by_slug = {head.slug: head for head in gear.heads}
    heads = tuple(by_slug[configuration.head_slug] for configuration in configurations)
    modifiers = _packed_modifiers(
        gear.sheets, gear.faces, gear.grids, gear.frames, gear.cloths, gear.boards, gear.measured
    )
    fronts, sheet_sets = modifiers["fronts"], modifiers["sheet_sets"]
    together = list(zip(heads, configurations, strict=True))
    grip_weight_kg, grip_day_price, flat_stands = _packed_grip(gear, together, fronts)
    drift = _each([head.drift_mired for head in heads])
    return PackedBench(
        configurations=configurations,
        heads=heads,
        **modifiers,
        candela=np.array([candela_row(each.distribution) for each in configurations])
        .reshape(-1, CELLS)
        .astype(np.float32),
        lumens=_each([each.lumens for each in configurations]),
        offset_m=_each([each.offset_m for each in configurations]),
        face_width_m=_each([each.face.width_m for each in configurations]),
        face_height_m=_each([each.face.height_m for each in configurations]),
        is_disc=np.array([each.face.shape is FaceShape.DISC for each in configurations], dtype=bool),
        is_lambertian=np.array([each.is_lambertian for each in configurations], dtype=bool),
        full_w=_each([head.draw.full_w.value for head in heads]),
        idle_w=_each([head.draw.idle_w for head in heads]),
        power_factor=_each([head.draw.power_factor for head in heads]),
        level_exponent=_each([head.draw.level_exponent for head in heads]),
        lowest_level=_each([head.lowest_level for head in heads]),
        warmest_mired=np.asarray(mired_from_k(_each([head.lowest_cct_k for head in heads]))) + drift,
        coolest_mired=np.asarray(mired_from_k(_each([head.highest_cct_k for head in heads]))) + drift,
        is_filament=np.array([head.draw.curve.value == "filament" for head in heads], dtype=bool),
        weight_kg=_each([head.total_kg + each.weight_kg for head, each in together]),
        day_price=_each([head.price_to_pay + each.price_to_pay for head, each in together]),
        is_owned=np.array([head.is_owned and each.is_owned for head, each in together], dtype=bool),
        fan_db=_each([head.fan_db for head in heads]),
        distrust=_each([TRUST.index(each.origin) for each in configurations]),
        tint=_each([head.tint_left for head in heads]),
        grip_weight_kg=grip_weight_kg,
        grip_day_price=grip_day_price,
        front_pieces=_each([len(front.parts) for front in fronts]) + flat_stands,
        head_class=np.array([CLASSES.index(head.technology.head_class) for head in heads], dtype=int),
        mounts=_mounts(configurations, heads, fronts),
        wears=_wears(heads, sheet_sets),
    )


@lru_cache(maxsize=4)
def at_colour(bench: PackedBench, cct_k: float | None) -> PackedBench:
    """The same with every head of two whites set to a colour, or as near to it as it goes."""
    rows = [at for at, head in enumerate(bench.heads) if has_two_whites(head)] if cct_k else []
    if not rows or cct_k is None:
        return bench
    share = np.ones(len(bench.heads))
    for at in rows:
        share[at] = setting_share(bench.heads[at], cct_k, bench.configurations[at].told_at_k).value
    candela = (bench.candela * share[:, None]).astype(bench.candela.dtype)
    return replace(bench, candela=candela, lumens=bench.lumens * share)


def _packed_modifiers(
    sheets: tuple[Sheet, ...],
    faces: tuple[Face, ...],
    grids: tuple[Grid, ...],
    frames: tuple[Frame, ...],
    cloths: tuple[Cloth, ...],
    boards: tuple[Board, ...],
    measured: tuple[MeasuredPass, ...],
) -> dict[str, Any]:
    """All of a packed bench that heads have no part in: laid out once while only heads change."""
    gear = Gear(sheets=sheets, faces=faces, grids=grids, frames=frames, cloths=cloths, boards=boards)
    fronts, sheet_sets = fronts_of(gear), sheet_sets_of(gear)
    scatters = tuple(dict.fromkeys(sheet.scatter for sheet in sheets if sheet.scatter))
    meter = {(each.modifier_slug, each.head_class): each for each in measured}
    return {
        "fronts": fronts,
        "sheet_sets": sheet_sets,
        "measured": measured,
        "front_is_open": np.array([front.kind is FrontKind.OPEN for front in fronts], dtype=bool),
        "front_is_box": np.array([front.kind is FrontKind.FACE for front in fronts], dtype=bool),
        "front_weight_kg": _each([front.weight_kg for front in fronts]),
        "front_day_price": _each([front.day_price for front in fronts]),
        "front_is_owned": np.array([front.is_owned for front in fronts], dtype=bool),
        "front_gain": _by_class([[_gain(front, kind, meter) for front in fronts] for kind in CLASSES]),
        "front_spread": _by_class([[_front_spread(front, kind, meter) for front in fronts] for kind in CLASSES]),
        "front_shift_mired": _by_class(
            [[sum(_shift(part, kind, meter) for part in front.shifting) for front in fronts] for kind in CLASSES]
        ),
        "sheet_weight_kg": _each([sum(sheet.weight_kg for sheet in chosen.sheets) for chosen in sheet_sets]),
        "sheet_day_price": _each([sum(sheet.price_to_pay for sheet in chosen.sheets) for chosen in sheet_sets]),
        "sheet_is_owned": np.array(
            [all(sheet.is_owned for sheet in chosen.sheets) for chosen in sheet_sets], dtype=bool
        ),
        "sheet_shift_mired": _by_class(
            [[sum(_shift(sheet, kind, meter) for sheet in chosen.sheets) for chosen in sheet_sets] for kind in CLASSES]
        ),
        "sheet_tint": _by_class(
            [[sum(_tint(sheet, kind, meter) for sheet in chosen.sheets) for chosen in sheet_sets] for kind in CLASSES]
        ),
        "sheet_pieces": _each([sum(_pieces(sheet) for sheet in chosen.sheets) for chosen in sheet_sets]),
        "sheet_spread": _by_class(
            [
                [prod(_spread(sheet, kind, meter) for sheet in chosen.sheets) for chosen in sheet_sets]
                for kind in CLASSES
            ]
        ),
        "scatters": scatters,
        "sheet_scatter": np.array(
            [[_scatter_at(chosen, kind, meter, scatters) for chosen in sheet_sets] for kind in CLASSES], dtype=int
        ).reshape(len(CLASSES), -1),
        "sheet_stops_half": _sheet_stops(sheet_sets, ScrimSchool.HALF_AND_ONE, meter),
        "sheet_stops_one": _sheet_stops(sheet_sets, ScrimSchool.ONE_AND_TWO, meter),
    }


def _packed_grip(
    gear: Gear, together: list[tuple[Head, Configuration]], fronts: tuple[Front, ...]
) -> tuple[Array, Array, Array]:
    """Weight and price of stands and bags under each head and front (C, F), and the stands of the fronts (F,)."""
    on_head_kg = _each([head.weight_kg + each.weight_kg for head, each in together])
    payload_kg = on_head_kg[:, None] + _each([front.on_head_kg for front in fronts])
    weight_kg, price = head_grip_figures(gear, payload_kg, _each([head.spigot_mm for head, _ in together]))
    flats = [[each for flat in front.flats for each in grip_of_flat(gear, flat)] for front in fronts]
    weight_kg += _each([sum(each.weight_kg for each in grip) for grip in flats])
    price += _each([sum(each.price_to_pay for each in grip) for grip in flats])
    return weight_kg, price, _each([sum(isinstance(each, Stand) for each in grip) for grip in flats])


def _each(values: list[float]) -> Array:
    return np.array(values, dtype=float)


def _pieces(sheet: Sheet) -> float:
    """A scrim comes in its head's own bag: half of what a gel, cut and clipped, is to fetch and rig."""
    return 0.5 if sheet.kind is SheetKind.SCRIM else 1.0


def _by_class(rows: Sequence[Sequence[float]]) -> Array:
    """One row a class, also where there is nothing in it."""
    return np.array(rows, dtype=float).reshape(len(CLASSES), -1)


def _gain(front: Front, kind: HeadClass, meter: _Meter) -> float:
    """What a meter found over the figures that the front's parts bear."""
    gain = 1.0
    for part, figure in front.passing:
        found = meter.get((part.slug, kind))
        if found is not None:
            gain *= found.passes / figure.value
    return gain


def _spread(part: Item, kind: HeadClass, meter: _Meter) -> float:
    found = meter.get((part.slug, kind))
    return 1.0 if found is None or found.spread is None else found.spread


def _scatter_at(chosen: SheetSet, kind: HeadClass, meter: _Meter, scatters: tuple[Scatter, ...]) -> int:
    """Which of the scatters a set has on a class of head, from 1 on; 0: none, or a meter has its beam."""
    found = [sheet.scatter for sheet in chosen.sheets if sheet.scatter and meter.get((sheet.slug, kind)) is None]
    return scatters.index(found[0]) + 1 if found else 0


def _front_spread(front: Front, kind: HeadClass, meter: _Meter) -> float:
    """The part nearest the subject shapes the beam: a box's grid, not the box."""
    return _spread(front.passing[-1][0], kind, meter) if front.passing else 1.0


def _shift(part: Sheet | Face | Cloth | Board, kind: HeadClass, meter: _Meter) -> float:
    found = meter.get((part.slug, kind))
    return part.shift_mired if found is None or found.shift_mired is None else found.shift_mired


def _tint(sheet: Sheet, kind: HeadClass, meter: _Meter) -> float:
    found = meter.get((sheet.slug, kind))
    return sheet.tint if found is None or found.tint is None else found.tint


def _sheet_stops(sheet_sets: tuple[SheetSet, ...], school: ScrimSchool, meter: _Meter) -> Array:
    """log2 of what passes, a meter's figure before the house's. Shape (K, S)."""

    def stops(sheet: Sheet, kind: HeadClass) -> float:
        found = meter.get((sheet.slug, kind))
        return float(np.log2(sheet.passes(school).value if found is None else found.passes))

    every = {sheet.slug: [stops(sheet, kind) for kind in CLASSES] for chosen in sheet_sets for sheet in chosen.sheets}
    return _by_class(
        [
            [sum(every[sheet.slug][place] for sheet in chosen.sheets) for chosen in sheet_sets]
            for place in range(len(CLASSES))
        ]
    )


def _mounts(
    configurations: tuple[Configuration, ...], heads: tuple[Head, ...], fronts: tuple[Front, ...]
) -> np.ndarray:
    """Boxes and grids need the head's free fitting of their own kind; frames and bounces stand on their own."""
    free = np.array([head.fitting if each.takes_box else "" for head, each in zip(heads, configurations, strict=True)])
    fittings = np.array([head.fitting for head in heads])
    face = np.array([front.face.fitting if front.face else "" for front in fronts])
    grid = np.array([front.grid.fitting if front.kind is FrontKind.GRID and front.grid else "" for front in fronts])
    with_face = (free[:, None] == face[None, :]) & (free[:, None] != "")
    with_grid = (fittings[:, None] == grid[None, :]) & (fittings[:, None] != "")
    stands_free = np.array([front.kind is FrontKind.OPEN or front.kind.stands_free for front in fronts], dtype=bool)
    return np.asarray(stands_free[None, :] | with_face | with_grid)


def _wears(heads: tuple[Head, ...], sheet_sets: tuple[SheetSet, ...]) -> np.ndarray:
    """Scrims need a ring of their size; gels and nets need something to be clipped to."""
    wears = np.ones((len(heads), len(sheet_sets)), dtype=bool)
    takes_gel = np.array([head.takes_gel for head in heads], dtype=bool)
    ring = np.array([head.scrim_ring_mm for head in heads])
    for index, chosen in enumerate(sheet_sets):
        for sheet in chosen.sheets:
            wears[:, index] &= ring == sheet.ring_mm if sheet.kind is SheetKind.SCRIM else takes_gel
    return wears
