"""What a day on batteries is made of: units, the lamps that they feed, the bays that charge them, and its phases."""

from dataclasses import dataclass

from iron_bucket.core.checks import require_between, require_positive
from iron_bucket.core.errors import BadValue
from iron_bucket.core.power.battery import FULL_CAPACITY_FROM_C, Supply, require_temperature

MINUTES_AN_HOUR = 60
_LONGEST_MIN, _MOST_UNITS = 48 * MINUTES_AN_HOUR, 1000


@dataclass(frozen=True, slots=True, kw_only=True)
class UnitKind:
    """``count`` batteries alike, ``supply`` being one, as warm as the place; all are full when the day begins.
    ``healths``: the shares of their capacity that are left, one after the other; those that are not named have all.
    """

    kind_id: str
    supply: Supply
    count: int
    temperature_c: float = FULL_CAPACITY_FROM_C
    healths: tuple[float, ...] = ()

    def __post_init__(self) -> None:
        for health in self.healths:
            require_between("health", health, low=0.05, high=1.0, unit="of the capacity")
        if not 0 <= self.count <= _MOST_UNITS:
            raise BadValue("count", self.count, f"0 to {_MOST_UNITS} batteries")
        if self.supply.count != 1:
            raise BadValue("supply", f"{self.supply.count} batteries", "one battery, with how many there are in count")
        require_temperature("temperature_c", self.temperature_c)

    @property
    def usable_wh(self) -> float:
        """In the cells of a sound one, above its reserve, as far as the cold leaves it."""
        return self.supply.in_the_cold(self.temperature_c).capacity_wh * self.supply.usable

    @property
    def capacities_wh(self) -> tuple[float, ...]:
        """The same of each."""
        shares = (*self.healths, *(1.0,) * self.count)[: self.count]
        return tuple(self.usable_wh * share for share in shares)


@dataclass(frozen=True, slots=True, kw_only=True)
class BatteryLamp:
    """``watts`` in each phase of the day at its level there, 0 where it is off; ``plates`` share them evenly, and all
    of them must be filled.
    """

    lamp_id: str
    kind_id: str
    watts: tuple[float, ...]
    plates: int = 1

    def __post_init__(self) -> None:
        for watts in self.watts:
            require_between("watts", watts, low=0.0, high=1e6, unit="W")
        if not 1 <= self.plates <= 12:
            raise BadValue("plates", self.plates, "1 to 12")


@dataclass(frozen=True, slots=True, kw_only=True)
class Charger:
    """``bays`` that each give ``bay_w`` into the cells, and from ``slow_from`` of their capacity only ``slow_share`` of
    it (typical); what it draws is more by its losses. ``rates``: the share of it in each phase, 0 where it stands
    without mains, empty for all of it all day. ``while_feeding``: it charges what hangs on a lamp, too.
    """

    charger_id: str
    kind_ids: tuple[str, ...]
    bays: int
    bay_w: float
    efficiency: float = 0.9
    slow_from: float = 0.8
    slow_share: float = 0.5
    rates: tuple[float, ...] = ()
    while_feeding: bool = False

    def __post_init__(self) -> None:
        if not 1 <= self.bays <= 64:
            raise BadValue("bays", self.bays, "1 to 64")
        require_positive("bay_w", self.bay_w, unit="W")
        for field, value in (("efficiency", self.efficiency), ("slow_share", self.slow_share)):
            require_between(field, value, low=0.05, high=1.0, unit="")
        require_between("slow_from", self.slow_from, low=0.0, high=1.0, unit="of the capacity")
        for rate in self.rates:
            require_between("rate", rate, low=0.0, high=1.0, unit="of its power")


@dataclass(frozen=True, slots=True, kw_only=True)
class BatteryDay:
    """``minutes`` of each phase: a rig, a pass that is shot, a move."""

    minutes: tuple[int, ...]
    kinds: tuple[UnitKind, ...]
    lamps: tuple[BatteryLamp, ...]
    chargers: tuple[Charger, ...] = ()

    def __post_init__(self) -> None:
        if any(each < 0 for each in self.minutes) or not 0 <= sum(self.minutes) <= _LONGEST_MIN:
            raise BadValue("minutes", list(self.minutes), f"whole minutes, {_LONGEST_MIN} at most together")
        known = {each.kind_id for each in self.kinds}
        for charger in self.chargers:
            if charger.rates and len(charger.rates) != len(self.minutes):
                raise BadValue("rates", f"{len(charger.rates)} of {charger.charger_id}", "one figure a phase, or none")
        for lamp in self.lamps:
            if len(lamp.watts) != len(self.minutes):
                raise BadValue("watts", f"{len(lamp.watts)} of {lamp.lamp_id}", "one figure a phase")
            if lamp.kind_id not in known:
                raise BadValue("kind_id", repr(lamp.kind_id), "a kind of battery of this day")
