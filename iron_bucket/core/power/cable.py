"""Voltage lost in a cable run, single phase."""

from dataclasses import dataclass

from iron_bucket.core.checks import require_not_negative, require_positive
from iron_bucket.core.colour.tungsten import flux_share
from iron_bucket.core.constants import COPPER_OHM_M


@dataclass(frozen=True, slots=True, kw_only=True)
class CableRun:
    """One two-conductor run under load, at 20 C."""

    voltage_v: float
    current_a: float
    length_m: float  # one way
    area_mm2: float
    resistivity_ohm_m: float = COPPER_OHM_M

    def __post_init__(self) -> None:
        require_positive("voltage_v", self.voltage_v, unit="V")
        require_not_negative("current_a", self.current_a, unit="A")
        require_not_negative("length_m", self.length_m, unit="m")
        require_positive("area_mm2", self.area_mm2, unit="mm2")

    @property
    def drop_v(self) -> float:
        """Volts lost there and back. Source: dV = 2 L I rho / A."""
        return 2.0 * self.length_m * self.current_a * self.resistivity_ohm_m / (self.area_mm2 * 1e-6)

    @property
    def drop_share(self) -> float:
        """The loss as a share of the supply."""
        return self.drop_v / self.voltage_v

    @property
    def loss_w(self) -> float:
        """Watts that warm the cable; a coil keeps them in."""
        return self.drop_v * self.current_a

    @property
    def tungsten_flux_share(self) -> float:
        """What a filament at the far end still puts out."""
        return float(flux_share(max(0.0, 1.0 - self.drop_share)))
