"""What one job takes for granted. Both schools are always computed; the rule decides which leads."""

from dataclasses import dataclass, field

from iron_bucket.core.bucket.kit_rules import CrewKit
from iron_bucket.core.checks import require_between
from iron_bucket.core.errors import BadValue
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.exposure.ratio import RatioSchool
from iron_bucket.core.modifiers.kinds import ScrimSchool
from iron_bucket.core.power.circuit import EIGHTY_PERCENT, planned_a
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.typical import typical

#: Circuit presets by voltage.
BREAKERS_A = {int(volts): tuple(row["breakers_a"]) for volts, row in typical("regions").items()}


@dataclass(frozen=True, slots=True, kw_only=True)
class HouseRules:
    """``planned_share`` of a breaker; 0.8 is the continuous-load school, anything else is the house's own limit."""

    voltage_v: int = 230
    breaker_a: int = 13
    units: UnitSystem = UnitSystem.METRIC
    planned_share: float = EIGHTY_PERCENT
    scrim_school: ScrimSchool = ScrimSchool.HALF_AND_ONE
    ratio_school: RatioSchool = RatioSchool.KEY_TO_FILL
    receptor: Receptor = Receptor.DOME
    kit: CrewKit = field(default_factory=CrewKit)

    def __post_init__(self) -> None:
        if self.voltage_v not in BREAKERS_A:
            raise BadValue("voltage_v", self.voltage_v, "100, 120 or 230 V")
        if self.breaker_a not in BREAKERS_A[self.voltage_v]:
            accepted = ", ".join(str(each) for each in BREAKERS_A[self.voltage_v])
            raise BadValue("breaker_a", self.breaker_a, f"{accepted} A at {self.voltage_v} V")
        require_between("planned_share", self.planned_share, low=0.3, high=1.0, unit="of the breaker")

    @property
    def planned_a(self) -> float:
        """Amps that the house plans to draw from one breaker."""
        return planned_a(self.breaker_a, self.planned_share)
