"""Wind against weight: when a stand with a sail on it goes over."""

import math
from dataclasses import dataclass

from iron_bucket.core.checks import require_not_negative, require_positive
from iron_bucket.core.constants import AIR_KG_M3, GRAVITY_M_S2


@dataclass(frozen=True, slots=True, kw_only=True)
class Sail:
    """A frame or flag on a stand. ``tipping_arm_m``: from the centre of mass to the edge it would tip over;
    ``offset_kg`` hangs ``offset_m`` out on an arm.
    """

    area_m2: float
    drag_coefficient: float
    centre_height_m: float
    total_mass_kg: float
    tipping_arm_m: float
    offset_kg: float = 0.0
    offset_m: float = 0.0

    def __post_init__(self) -> None:
        require_positive("area_m2", self.area_m2, unit="m2")
        require_positive("drag_coefficient", self.drag_coefficient, unit="")
        require_positive("centre_height_m", self.centre_height_m, unit="m")
        require_positive("total_mass_kg", self.total_mass_kg, unit="kg")
        require_positive("tipping_arm_m", self.tipping_arm_m, unit="m")
        require_not_negative("offset_kg", self.offset_kg, unit="kg")
        require_not_negative("offset_m", self.offset_m, unit="m")

    def wind_force_n(self, wind_m_s: float) -> float:
        """Newtons on the cloth. Source: F = rho/2 Cd A v^2."""
        require_not_negative("wind_m_s", wind_m_s, unit="m/s")
        return 0.5 * AIR_KG_M3 * self.drag_coefficient * self.area_m2 * wind_m_s**2

    def overturning_nm(self, wind_m_s: float) -> float:
        """Moment of the wind, and of what hangs out, about the foot."""
        return self.wind_force_n(wind_m_s) * self.centre_height_m + self.offset_kg * GRAVITY_M_S2 * self.offset_m

    @property
    def restoring_nm(self) -> float:
        """Moment of the weight that keeps it standing."""
        return self.total_mass_kg * GRAVITY_M_S2 * self.tipping_arm_m

    @property
    def critical_wind_m_s(self) -> float:
        """The wind at which it goes over: take it down well before."""
        return math.sqrt(
            self.restoring_nm / (0.5 * AIR_KG_M3 * self.drag_coefficient * self.area_m2 * self.centre_height_m)
        )

    def ballast_kg(self, wind_m_s: float, safety_factor: float) -> float:
        """Weight still missing at the tipping arm for that wind and safety factor; 0 where it stands."""
        require_positive("safety_factor", safety_factor, unit="")
        missing_nm = self.overturning_nm(wind_m_s) * safety_factor - self.restoring_nm
        return max(0.0, missing_nm / (GRAVITY_M_S2 * self.tipping_arm_m))
