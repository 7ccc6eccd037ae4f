"""Claimed, measured and typical side by side, by distance: who says what, and whose word is taken."""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.head import Head
from iron_bucket.core.bench.measured_configuration import MeasuredConfiguration
from iron_bucket.core.bench.output import level_lx
from iron_bucket.core.bench.typical_output import typical_level_lx
from iron_bucket.core.figure import Origin


@dataclass(frozen=True, slots=True, kw_only=True)
class FigureOrigins:
    """One distance. ``measured_lx`` and ``band_stops`` (half width at 95 %) are None where no meter was;

    ``is_carried``: beyond the readings.
    """

    throw_m: float
    claimed_lx: float
    typical_lx: float
    measured_lx: float | None
    band_stops: float | None
    is_carried: bool
    wins: Origin

    @property
    def measured_over_claimed_stops(self) -> float | None:
        """Positive: the lamp gives more than it promised."""
        return None if self.measured_lx is None else float(np.log2(self.measured_lx / self.claimed_lx))

    @property
    def typical_over_claimed_stops(self) -> float:
        """Positive: the maker promises less than such lamps usually give."""
        return float(np.log2(self.typical_lx / self.claimed_lx))


def voices(
    claimed: Configuration, head: Head, measured: MeasuredConfiguration | None, throws_m: tuple[float, ...]
) -> tuple[FigureOrigins, ...]:
    """At some distances. A meter wins wherever it was; else the maker's word is taken, as what it is."""
    rows = []
    for throw_m in throws_m:
        band = measured.fit.band_stops(throw_m) if measured else None
        rows.append(
            FigureOrigins(
                throw_m=throw_m,
                claimed_lx=level_lx(claimed, throw_m),
                typical_lx=typical_level_lx(claimed, head, throw_m),
                measured_lx=float(measured.fit.illuminance_lx(throw_m)) if measured else None,
                band_stops=float(band) if band is not None else None,
                is_carried=measured is not None and not measured.fit.nearest_m <= throw_m <= measured.fit.farthest_m,
                wins=Origin.MEASURED if measured else claimed.origin,
            )
        )
    return tuple(rows)
