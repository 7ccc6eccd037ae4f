"""One circuit: what the breaker bears under the house rule, and what is left.

Two schools plan differently; neither plans to the edge. Local code and the licensed electrician come first.
"""

from dataclasses import dataclass

from iron_bucket.core.checks import require_between, require_not_negative, require_positive
from iron_bucket.core.power.apparent import a_from_va, va_from_w
from iron_bucket.core.quantities.rounding import whole_down

#: The continuous-load school: 80 % of the breaker for anything that burns longer than about three hours.
EIGHTY_PERCENT = 0.8


def planned_a(breaker_a: float, planned_share: float) -> float:
    """Amps that a house plans to draw from a breaker, whichever school its share follows."""
    return breaker_a * planned_share


@dataclass(frozen=True, slots=True, kw_only=True)
class Circuit:
    """A breaker and what already hangs on it. ``planned_share`` of the breaker is the house setting."""

    voltage_v: float
    breaker_a: float
    planned_share: float = EIGHTY_PERCENT
    used_a: float = 0.0

    def __post_init__(self) -> None:
        require_between("voltage_v", self.voltage_v, low=12.0, high=480.0, unit="V")
        require_between("breaker_a", self.breaker_a, low=0.5, high=800.0, unit="A")
        require_between("planned_share", self.planned_share, low=0.1, high=1.0, unit="of the breaker")
        require_not_negative("used_a", self.used_a, unit="A")

    @property
    def limit_a(self) -> float:
        """Amps that the house plans to use in all."""
        return planned_a(self.breaker_a, self.planned_share)

    @property
    def free_a(self) -> float:
        """Amps left under the house rule; negative where it is overloaded already."""
        return self.limit_a - self.used_a


@dataclass(frozen=True, slots=True, kw_only=True)
class Load:
    """Real watts and the power factor they are drawn with."""

    watts: float
    power_factor: float = 1.0

    def __post_init__(self) -> None:
        require_not_negative("watts", self.watts, unit="W")
        require_between("power_factor", self.power_factor, low=0.1, high=1.0, unit="")


def current_a(loads: tuple[Load, ...], voltage_v: float) -> float:
    """Amps of several loads on one circuit, added arithmetically: never less than the phasor sum."""
    require_positive("voltage_v", voltage_v, unit="V")
    # Divide once, after adding: rounding each lamp's amps up first would refuse strings of small lamps that are safe.
    return float(a_from_va(sum(va_from_w(load.watts, load.power_factor) for load in loads), voltage_v))


def lamps_on(circuit: Circuit, load: Load) -> int:
    """How many equal lamps the free part of a circuit bears under the house rule."""
    require_positive("watts", load.watts, unit="W")
    return max(0, whole_down(circuit.free_a / current_a((load,), circuit.voltage_v)))
