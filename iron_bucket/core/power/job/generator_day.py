"""A generator through a day: what it bears, how it starts, what it burns, and how loud it is where it is listened.

Figures only: earth, exhaust and refuelling are a trained person's work.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import shapely

from iron_bucket.core.arrays import Array
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.apparent import a_from_va
from iron_bucket.core.power.generator import sound_level_db
from iron_bucket.core.power.job.burning_bars import burning_bars
from iron_bucket.core.power.job.kit import Generator
from iron_bucket.core.power.job.load_board import CircuitBar, LoadBoard
from iron_bucket.core.power.job.shooting_day import ShootingDay
from iron_bucket.core.power.strike_order import Starter, StrikeOrder, strike_order
from iron_bucket.core.quantities.rounding import at_most
from iron_bucket.core.typical import typical

#: Nearer than this the free field says nothing.
NEAREST_M = 1.0


def start_order(bar: CircuitBar) -> StrikeOrder:
    """In which order the lamps of a circuit are struck, what hangs on it already burning."""
    volts = bar.circuit.voltage_v
    return strike_order(
        tuple(
            Starter(
                load_id=load.load_id,
                running_a=bar.amps_of(load),
                peak_a=bar.amps_of(load) + float(a_from_va(load.jump_va, volts)),
                warm_up_min=load.head.warm_up_min if load.head else 0.0,
            )
            for load in bar.loads
            if load.watts > 0.0
        ),
        standing_a=bar.circuit.used_a,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class GeneratorDay:
    """``most_va`` of all its legs in the worst phase; ``start_a`` on the leg with the highest start; ``fuel_l`` while
    it runs for ``runs_h``.
    """

    generator: Generator
    most_va: float
    start_a: float
    fuel_l: float
    runs_h: float

    @property
    def share(self) -> float:
        """Of its continuous watts, in the worst phase."""
        return self.most_va / self.generator.continuous_w

    @property
    def tanks(self) -> float:
        """How many fillings the day takes."""
        return self.fuel_l / self.generator.tank_l

    @property
    def starts(self) -> bool:
        """Whether it bears the highest start, one lamp after the other."""
        return at_most(self.start_a, self.generator.peak_a)


def generator_day(generator: Generator, day: ShootingDay, boards: Mapping[int, LoadBoard]) -> GeneratorDay:
    """It runs whenever anything on it burns. ``boards`` by the numbers of the passes."""
    most_va = start_a = fuel_l = hours = 0.0
    for phase in day.phases:
        every = (each.bar for each in burning_bars(day, phase, boards).values())
        bars = [bar for bar in every if bar.generator and bar.generator.piece_id == generator.piece_id]
        va = sum(bar.ours_a * bar.circuit.voltage_v for bar in bars)
        if not va:
            continue
        most_va = max(most_va, va)
        start_a = max(start_a, *(start_order(bar).peak_a for bar in bars))
        hours += phase.minutes / 60.0
        fuel_l += generator.burns_l_h(va / generator.continuous_w) * phase.minutes / 60.0
    return GeneratorDay(generator=generator, most_va=most_va, start_a=start_a, fuel_l=fuel_l, runs_h=hours)


def loudness_dba(generator: Generator, spots_m: Array, heard_at_m: Array, surroundings: Surroundings) -> Array:
    """At each place where it is listened, for each where it may stand. Shapes: spots_m (S, 2), heard_at_m (H, 2); gives
    (S, H). Walls in the way take off a typical amount each, and together no more than sound finds a way round.

    Source: Lp(d) = Lp(7 m) - 20 lg(d / 7 m); docs/craft.md, section 6.
    """
    away_m = np.maximum(np.linalg.norm(spots_m[:, None] - heard_at_m[None], axis=2), NEAREST_M)
    at_one_m = sound_level_db((generator.noise_dba or 0.0,), reference_m=generator.noise_at_m, distance_m=1.0)
    free = at_one_m - 20.0 * np.log10(away_m)
    return np.asarray(free - _behind_walls_db(spots_m, heard_at_m, surroundings))


def _behind_walls_db(spots_m: Array, heard_at_m: Array, surroundings: Surroundings) -> Array:
    """By how many walls a straight line crosses. Shape (S, H)."""
    crossed = np.zeros((len(spots_m), len(heard_at_m)))
    start, end = spots_m[:, None, :], heard_at_m[None, :, :]
    for one, other in _walls(surroundings):
        is_between = _sides(start, end, one) * _sides(start, end, other) < 0.0
        crossed += is_between & (_sides(one, other, start) * _sides(one, other, end) < 0.0)
    table = typical("power")
    return np.asarray(np.minimum(crossed * float(table["wall_db"]), float(table["most_walls_db"])))


def _walls(surroundings: Surroundings) -> Iterator[tuple[Array, Array]]:
    """Stretches of wall; what two rooms share is there once."""
    outlines = [shapely.LinearRing(shape.corners_m) for shape in surroundings.rooms]
    for line in shapely.get_parts(shapely.unary_union(outlines)) if outlines else ():
        yield from pairwise(shapely.get_coordinates(line))


def _sides(a: Array, b: Array, at: Array) -> Array:
    """On which side of a line a place lies; shapes broadcast, the last axis holds x and y."""
    return np.asarray(
        (b[..., 0] - a[..., 0]) * (at[..., 1] - a[..., 1]) - (b[..., 1] - a[..., 1]) * (at[..., 0] - a[..., 0])
    )
