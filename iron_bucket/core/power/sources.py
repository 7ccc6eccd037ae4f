"""What a plan can feed loads from, each as one or more channels that bear so much.

A channel is what is loaded by itself: a circuit, one leg of a board, a battery. ``at_m``: where a source stands on the
plan, where that is known. Figures only: tie-ins and distribution are a licensed person's work.
"""

from dataclasses import dataclass

from iron_bucket.core.checks import require_between, require_positive
from iron_bucket.core.power.battery import FULL_CAPACITY_FROM_C, Supply, require_temperature
from iron_bucket.core.power.circuit import EIGHTY_PERCENT, Circuit, planned_a
from iron_bucket.core.power.planned_load import LEGS, Spot


@dataclass(frozen=True, slots=True, kw_only=True)
class Channel:
    """``limit`` in VA, or in W where ``counts_watts``: what is left of it under the house rule. ``energy_wh``: what may
    be drawn in all, None from the mains; ``leg`` of a board, else empty. ``start_limit``: VA of what burns and what
    starts together, None where that is not looked at; ``burden``: from 0 to 1, how much rather something else is drawn
    from, such as for a generator that is heard. ``plates``: how many batteries or outlets it has, None for no end.
    """

    source_id: str
    limit: float
    leg: str = ""
    counts_watts: bool = False
    energy_wh: float | None = None
    start_limit: float | None = None
    burden: float = 0.0
    plates: int | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class CircuitSource:
    """A circuit of the house, what hangs on it already counted. ``start_a``: the amps that it bears for a moment."""

    source_id: str
    circuit: Circuit
    at_m: Spot | None = None
    start_a: float | None = None
    burden: float = 0.0

    @property
    def voltage_v(self) -> float:
        """At the socket."""
        return self.circuit.voltage_v

    @property
    def channels(self) -> tuple[Channel, ...]:
        """One."""
        limit, start = max(self.circuit.free_a, 0.0), _start_limit(self.start_a, self.circuit.used_a, self.voltage_v)
        own = {"limit": limit * self.voltage_v, "start_limit": start, "burden": self.burden}
        return (Channel(source_id=self.source_id, **own),)  # type: ignore[arg-type]


@dataclass(frozen=True, slots=True, kw_only=True)
class ThreePhaseSource:
    """A board of three legs, or of two; ``voltage_v`` from leg to neutral, ``breaker_a`` of each leg, of which
    ``used_a`` is drawn already.
    """

    source_id: str
    voltage_v: float
    breaker_a: float
    planned_share: float = EIGHTY_PERCENT
    at_m: Spot | None = None
    used_a: float = 0.0
    legs: tuple[str, ...] = LEGS
    start_a: float | None = None
    burden: float = 0.0

    def __post_init__(self) -> None:
        self._leg  # noqa: B018  its bounds are the board's

    @property
    def _leg(self) -> Circuit:
        return Circuit(
            voltage_v=self.voltage_v, breaker_a=self.breaker_a, planned_share=self.planned_share, used_a=self.used_a
        )

    @property
    def limit_a(self) -> float:
        """Amps that the house plans to use of each leg."""
        return planned_a(self.breaker_a, self.planned_share)

    @property
    def channels(self) -> tuple[Channel, ...]:
        """One a leg."""
        start = _start_limit(self.start_a, self.used_a, self.voltage_v)
        limit = max(self._leg.free_a, 0.0) * self.voltage_v
        return tuple(
            Channel(source_id=self.source_id, leg=leg, limit=limit, start_limit=start, burden=self.burden)
            for leg in self.legs
        )


def _start_limit(start_a: float | None, used_a: float, voltage_v: float) -> float | None:
    """VA that are left for what burns and what starts."""
    return None if start_a is None else max(start_a - used_a, 0.0) * voltage_v


@dataclass(frozen=True, slots=True, kw_only=True)
class BatterySource:
    """Batteries alike that share their loads, as warm as they are. ``plates``: how many loads may take, None for no
    end; ``surge_w``: what they bear for a moment, None where that is not looked at.
    """

    source_id: str
    supply: Supply
    temperature_c: float = FULL_CAPACITY_FROM_C
    at_m: Spot | None = None
    burden: float = 0.0
    plates: int | None = None
    surge_w: float | None = None

    def __post_init__(self) -> None:
        require_temperature("temperature_c", self.temperature_c)

    @property
    def voltage_v(self) -> float:
        """Nominal."""
        return self.supply.nominal_v

    @property
    def in_the_cold(self) -> Supply:
        """With what the cold leaves of the capacity."""
        return self.supply.in_the_cold(self.temperature_c)

    @property
    def channels(self) -> tuple[Channel, ...]:
        """One."""
        cold = self.in_the_cold
        return (
            Channel(
                source_id=self.source_id,
                limit=cold.most_w,
                counts_watts=True,
                energy_wh=cold.energy_wh,
                start_limit=self.surge_w,
                burden=self.burden,
                plates=self.plates,
            ),
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class StationSource:
    """A power station; ``efficiency`` from its cells to its outlets."""

    source_id: str
    capacity_wh: float
    continuous_w: float
    surge_w: float
    efficiency: float = 1.0
    at_m: Spot | None = None

    def __post_init__(self) -> None:
        require_positive("capacity_wh", self.capacity_wh, unit="Wh")
        require_positive("continuous_w", self.continuous_w, unit="W")
        require_between("surge_w", self.surge_w, low=self.continuous_w, high=1e7, unit="W")
        require_between("efficiency", self.efficiency, low=0.1, high=1.0, unit="")

    @property
    def energy_wh(self) -> float:
        """At its outlets."""
        return self.capacity_wh * self.efficiency

    @property
    def channels(self) -> tuple[Channel, ...]:
        """One."""
        return (
            Channel(source_id=self.source_id, limit=self.continuous_w, counts_watts=True, energy_wh=self.energy_wh),
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class GeneratorSource:
    """``continuous_w`` and ``peak_w`` are taken for apparent power: what an alternator bears is amps. ``noise_dba`` at
    ``noise_at_m`` from it.
    """

    source_id: str
    voltage_v: float
    continuous_w: float
    peak_w: float
    noise_dba: float | None = None
    noise_at_m: float = 7.0
    at_m: Spot | None = None

    def __post_init__(self) -> None:
        require_between("voltage_v", self.voltage_v, low=12.0, high=480.0, unit="V")
        require_positive("continuous_w", self.continuous_w, unit="W")
        require_between("peak_w", self.peak_w, low=self.continuous_w, high=1e7, unit="W")
        require_positive("noise_at_m", self.noise_at_m, unit="m")
        if self.noise_dba is not None:
            require_between("noise_dba", self.noise_dba, low=10.0, high=130.0, unit="dB(A)")

    @property
    def channels(self) -> tuple[Channel, ...]:
        """One."""
        return (Channel(source_id=self.source_id, limit=self.continuous_w),)


Source = CircuitSource | ThreePhaseSource | BatterySource | StationSource | GeneratorSource
