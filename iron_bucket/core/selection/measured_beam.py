"""The beam that readings beside the axis found behind a modifier, against the one that a pick computes there."""

from dataclasses import dataclass, replace

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import Head
from iron_bucket.core.photometry.scaled import stretch_through
from iron_bucket.core.photometry.tabulated import PhotometryType, Tabulated
from iron_bucket.core.photometry.widths import beam_deg
from iron_bucket.core.selection.fronts import Front
from iron_bucket.core.selection.levels import through_fronts
from iron_bucket.core.selection.packing import PackedBench, pack

#: Where the computed beam is looked at.
ANGLES_DEG = np.linspace(0.0, 80.0, 161)


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasuredBeam:
    """``spread``: the beam over the computed one; ``beam_deg`` None where that never falls to half."""

    spread: float
    beam_deg: float | None


def lone_bench(head: Head, configuration: Configuration, front: Front) -> PackedBench:
    """One configuration with one front and nothing measured of it."""
    return replace(pack(Gear(heads=(head,), configurations=(configuration,))), fronts=(front,))


def measured_beam(bench: PackedBench, throw_m: float, gamma_deg: Array, shares: Array) -> MeasuredBeam:
    """The stretch of the computed beam that goes best through candela ``shares`` of the axis. Shapes: both (N,).

    ``bench``: of one configuration and one front.
    """
    gamma = np.radians(ANGLES_DEG)
    level = through_fronts(bench, throw_m, throw_m * np.tan(gamma)).profile_lx[0, 0]
    candela = level / np.cos(gamma) ** 3
    computed = Tabulated(
        kind=PhotometryType.C, vertical_deg=ANGLES_DEG, horizontal_deg=np.zeros(1), candela=candela[None, :]
    )
    spread = stretch_through(computed, gamma_deg, shares)
    beam = beam_deg(computed)
    return MeasuredBeam(spread=spread, beam_deg=None if beam is None else min(beam * spread, 175.0))
