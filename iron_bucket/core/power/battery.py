"""Batteries: whether they can deliver at all, and when it goes dark."""

from dataclasses import dataclass, replace

import numpy as np

from iron_bucket.core.arrays import Array, Floats
from iron_bucket.core.checks import require_between, require_positive
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities.rounding import at_most

#: docs/craft.md, section 6: cold takes capacity, typically 20 % at 0 C.
COLD_LOSS_PER_DEGREE = 0.01
FULL_CAPACITY_FROM_C = 20.0
LEAST_COLD_SHARE = 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Supply:
    """One battery, or several alike that share the load."""

    capacity_wh: float
    nominal_v: float
    most_a: float
    usable: float = 1.0
    efficiency: float = 1.0
    count: int = 1

    def __post_init__(self) -> None:
        require_positive("capacity_wh", self.capacity_wh, unit="Wh")
        require_positive("nominal_v", self.nominal_v, unit="V")
        require_positive("most_a", self.most_a, unit="A")
        for field, value in (("usable", self.usable), ("efficiency", self.efficiency)):
            if not 0.0 < value <= 1.0:
                raise BadValue(field, value, "a share above 0, up to 1")
        if self.count < 1:
            raise BadValue("count", self.count, "1 battery or more")

    def in_the_cold(self, temperature_c: float) -> "Supply":
        """With what a temperature leaves of the capacity."""
        return replace(self, capacity_wh=self.capacity_wh * cold_share(temperature_c))

    @property
    def energy_wh(self) -> float:
        """Watt-hours that reach the lamp."""
        return self.capacity_wh * self.usable * self.efficiency * self.count

    @property
    def most_w(self) -> float:
        """Watts at the lamp that the batteries may deliver continuously."""
        return self.most_a * self.nominal_v * self.efficiency * self.count

    def current_a(self, load_w: Floats) -> Array:
        """Amps from each battery. Source: I = P / (efficiency V), shared evenly."""
        return np.asarray(load_w / (self.efficiency * self.nominal_v * self.count))

    def delivers(self, load_w: Floats) -> np.ndarray:
        """Whether the continuous current allows that load at all."""
        return at_most(self.current_a(load_w), self.most_a)

    def burn_time_h(self, load_w: Floats) -> Array:
        """Hours until it goes dark; 0 where the batteries cannot deliver. Source: Wh usable efficiency / W."""
        require_positive("load_w", load_w, unit="W")
        return np.where(self.delivers(load_w), self.energy_wh / np.asarray(load_w), 0.0)


def require_temperature(field: str, temperature_c: float) -> None:
    """One that people work in."""
    require_between(field, temperature_c, low=-40.0, high=60.0, unit="°C")


def cold_share(temperature_c: float) -> float:
    """Share of the capacity left in the cold, typical: 1 % per degree below 20 C, never under half."""
    return float(np.clip(1.0 - COLD_LOSS_PER_DEGREE * (FULL_CAPACITY_FROM_C - temperature_c), LEAST_COLD_SHARE, 1.0))
