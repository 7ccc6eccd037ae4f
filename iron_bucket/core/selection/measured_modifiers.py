"""What readings with a modifier on say of it, computed through the same chain that a pick uses.

The level behind every modifier is proportional to its own figure (transmittance, efficiency, cells, reflectance). So
that figure is the level that
was read, over the level that would be there if the figure were 1.
"""

from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import Head, HeadClass
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bench.measured_configuration import FEWEST_ASIDE, SAME_SETTING_K, at_full_lx
from iron_bucket.core.bench.output import level_lx
from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.figure import Figure, Origin
from iron_bucket.core.modifiers.kinds import Board, Cloth, Face, Frame, Grid, Sheet
from iron_bucket.core.modifiers.measured_pass import MeasuredPass
from iron_bucket.core.quantities.mired import mired_from_k
from iron_bucket.core.selection.fronts import Front, FrontKind
from iron_bucket.core.selection.levels import through_fronts
from iron_bucket.core.selection.measured_beam import MeasuredBeam, lone_bench, measured_beam
from iron_bucket.core.selection.packing import CLASSES

#: Two readings are taken for the same distance within this share of it.
SAME_DISTANCE = 0.02
_WHOLE = Figure(value=1.0, origin=Origin.TYPICAL)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Lamp:
    """A configuration as it is in use, its head, and all readings of it."""

    head: Head
    configuration: Configuration
    readings: tuple[Reading, ...]

    def alike(self, reading: Reading, modifier_slug: str) -> tuple[Reading, ...]:
        """Readings on the axis at the same distance and colour, with another thing on (or nothing)."""
        return tuple(
            each
            for each in self.readings
            if each.modifier_slug == modifier_slug
            and each.is_on_axis
            and abs(each.throw_m - reading.throw_m) <= SAME_DISTANCE * reading.throw_m
            and each.unit_slug == reading.unit_slug
            and _same_colour(each.set_cct_k, reading.set_cct_k)
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class _Row:
    """A reading with a modifier on: what stood there and what passed."""

    lamp: _Lamp
    reading: Reading
    front: Front | None
    passes: float


def _same_colour(one_k: float | None, other_k: float | None) -> bool:
    return one_k is None or other_k is None or abs(one_k - other_k) < SAME_SETTING_K


def measured_passes(gear: Gear, readings: Iterable[Reading]) -> tuple[MeasuredPass, ...]:
    """Every modifier that somebody measured, for each class of head. ``gear``: configurations as they are in use.

    Readings that cannot be computed (a cloth without its frame, a grid without its box alone) count for nothing.
    """
    return _measured_passes(gear, tuple(readings))


@lru_cache(maxsize=8)
def _measured_passes(gear: Gear, readings: tuple[Reading, ...]) -> tuple[MeasuredPass, ...]:
    lamps = _lamps(gear, readings)
    modifiers = {item.slug: item for item in gear.modifiers()}
    parts = _Parts(frames={frame.slug: frame for frame in gear.frames}, faces={face.slug: face for face in gear.faces})
    found: dict[tuple[str, HeadClass], list[_Row]] = defaultdict(list)
    for lamp in lamps:
        for reading in lamp.readings:
            modifier = modifiers.get(reading.modifier_slug)
            if modifier is None or not reading.is_on_axis:
                continue
            front = parts.whole_front(reading, modifier)
            whole_lx = _whole_lx(lamp, reading, modifier, front)
            if whole_lx:
                passes = float(at_full_lx((reading,), lamp.head)[0]) / whole_lx
                found[reading.modifier_slug, lamp.head.technology.head_class].append(
                    _Row(lamp=lamp, reading=reading, front=front, passes=passes)
                )
    return tuple(
        _pass(slug, kind, found[slug, kind])
        for slug, kind in sorted(found, key=lambda each: (each[0], CLASSES.index(each[1])))
    )


def _lamps(gear: Gear, readings: tuple[Reading, ...]) -> list[_Lamp]:
    by_configuration: dict[str, list[Reading]] = defaultdict(list)
    for reading in readings:
        by_configuration[reading.configuration_slug].append(reading)
    heads = {head.slug: head for head in gear.heads}
    return [
        _Lamp(head=heads[each.head_slug], configuration=each, readings=tuple(by_configuration[each.slug]))
        for each in gear.configurations
        if by_configuration[each.slug]
    ]


@dataclass(frozen=True, slots=True, kw_only=True)
class _Parts:
    """What a reading may name beside its modifier, by slug."""

    frames: Mapping[str, Frame]
    faces: Mapping[str, Face]

    def whole_front(self, reading: Reading, modifier: Item) -> Front | None:
        """What stood before the head, with the modifier's figure at 1; None where the reading does not tell."""
        match modifier:
            case Sheet():
                return Front(kind=FrontKind.OPEN)
            case Grid() if not modifier.face_slug:
                return Front(kind=FrontKind.GRID, grid=replace(modifier, on_axis=_WHOLE))
            case Grid() if modifier.face_slug in self.faces:
                grid = replace(modifier, on_axis=_WHOLE)
                return Front(kind=FrontKind.FACE, face=self.faces[modifier.face_slug], grid=grid)
            case Face():
                return Front(kind=FrontKind.FACE, face=replace(modifier, efficiency=_WHOLE))
            case Board():
                return Front(kind=FrontKind.BOARD, board=replace(modifier, reflectance=_WHOLE))
            case Cloth() if reading.frame_slug in self.frames and reading.head_to_frame_m:
                return Front(
                    kind=FrontKind.FRAME,
                    frame=self.frames[reading.frame_slug],
                    cloth=replace(modifier, transmittance=_WHOLE),
                    head_share=reading.head_to_frame_m / reading.throw_m,
                )
        return None


def _whole_lx(lamp: _Lamp, reading: Reading, modifier: Item, front: Front | None) -> float | None:
    """The level there would be if the modifier's figure were 1; None where the readings do not tell."""
    match modifier:
        case Grid() if modifier.face_slug:
            return _median_lx(lamp, lamp.alike(reading, modifier.face_slug))
        case Sheet() | Grid():
            return _median_lx(lamp, lamp.alike(reading, "")) or level_lx(lamp.configuration, reading.throw_m)
    if front is None:
        return None
    bench = lone_bench(lamp.head, lamp.configuration, front)
    return float(through_fronts(bench, reading.throw_m, np.zeros(1)).profile_lx[0, 0, 0])


def _median_lx(lamp: _Lamp, readings: tuple[Reading, ...]) -> float | None:
    return float(np.median(at_full_lx(readings, lamp.head))) if readings else None


def _pass(slug: str, kind: HeadClass, rows: list[_Row]) -> MeasuredPass:
    """Means in stops, so that a half and a double balance."""
    stops = np.log2([row.passes for row in rows])
    shifts, duvs = _colour_shifts(rows)
    beam = _beam(rows)
    return MeasuredPass(
        modifier_slug=slug,
        head_class=kind,
        passes=float(2.0 ** np.median(stops)),
        count=len(rows),
        spread_stops=float(stops.std(ddof=1)) if len(rows) > 1 else None,
        shift_mired=float(np.mean(shifts)) if shifts else None,
        duv_shift=float(np.mean(duvs)) if duvs else None,
        beam_deg=beam.beam_deg if beam else None,
        spread=beam.spread if beam else None,
    )


def _colour_shifts(rows: list[_Row]) -> tuple[list[float], list[float]]:
    """Mireds and Duv with the modifier less those without it, where both were read."""
    shifts, duvs = [], []
    for row in rows:
        lamp, reading = row.lamp, row.reading
        bare = [
            each for each in lamp.readings if not each.modifier_slug and _same_colour(each.set_cct_k, reading.set_cct_k)
        ]
        ccts = [each.cct_k for each in bare if each.cct_k is not None]
        if reading.cct_k is not None and ccts:
            shifts.append(float(mired_from_k(reading.cct_k) - np.mean(mired_from_k(np.array(ccts)))))
        known = [each.duv for each in bare if each.duv is not None]
        if reading.duv is not None and known:
            duvs.append(float(reading.duv - np.mean(known)))
    return shifts, duvs


def _beam(rows: list[_Row]) -> MeasuredBeam | None:
    """The beam through it, of the first lamp that was read beside the axis often enough."""
    for row in rows:
        lamp, on_axis = row.lamp, row.reading
        aside = tuple(
            each
            for each in lamp.readings
            if each.modifier_slug == on_axis.modifier_slug
            and not each.is_on_axis
            and abs(each.throw_m - on_axis.throw_m) <= SAME_DISTANCE * each.throw_m
        )
        if row.front is not None and len(aside) >= FEWEST_ASIDE:
            gamma: Array = np.arctan(np.abs([each.aside_m for each in aside]) / on_axis.throw_m)
            shares = at_full_lx(aside, lamp.head) / at_full_lx((on_axis,), lamp.head)[0] / np.cos(gamma) ** 3
            bench = lone_bench(lamp.head, lamp.configuration, row.front)
            return measured_beam(bench, on_axis.throw_m, np.degrees(gamma), shares)
    return None
