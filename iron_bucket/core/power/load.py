"""What a lamp draws at a dim level."""

from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from iron_bucket.core.arrays import Array, Floats
from iron_bucket.core.checks import require_between, require_not_negative, require_positive
from iron_bucket.core.colour.tungsten import FLUX_EXPONENT, WATTS_EXPONENT
from iron_bucket.core.figure import Figure
from iron_bucket.core.power.apparent import a_from_va, va_from_w


class DrawCurve(StrEnum):
    """How watts follow the level."""

    ELECTRONIC = "electronic"  # idle watts plus a share that follows the level
    FILAMENT = "filament"  # watts ~ level^(1.6/3.4), from the voltage exponents


@dataclass(frozen=True, slots=True, kw_only=True)
class Draw:
    """What a head takes from its supply."""

    full_w: Figure
    idle_w: float
    power_factor: float
    curve: DrawCurve

    def __post_init__(self) -> None:
        require_positive("full_w", self.full_w.value, unit="W")
        require_between("idle_w", self.idle_w, low=0.0, high=self.full_w.value, unit="W")
        require_between("power_factor", self.power_factor, low=0.1, high=1.0, unit="")

    @property
    def level_exponent(self) -> float:
        """p in watts = idle + (full - idle) level^p."""
        return WATTS_EXPONENT / FLUX_EXPONENT if self.curve is DrawCurve.FILAMENT else 1.0

    def watts(self, level: Floats) -> Array:
        """Real watts at a level from 0 to 1."""
        require_not_negative("level", level, unit="of full output")
        return np.asarray(self.idle_w + (self.full_w.value - self.idle_w) * np.power(level, self.level_exponent))

    def draw_va(self, level: Floats) -> Array:
        """Apparent power at a level. Source: VA = W / PF."""
        return np.asarray(self.va_from_w(self.watts(level)))

    def va_from_w(self, watts: Floats) -> Floats:
        """Apparent power of some real watts. Source: VA = W / PF."""
        return va_from_w(watts, self.power_factor)

    def current_a(self, level: Floats, voltage_v: float) -> Array:
        """Amps at a level on a supply. Source: A = VA / V."""
        require_positive("voltage_v", voltage_v, unit="V")
        return np.asarray(a_from_va(self.draw_va(level), voltage_v))
