"""A head: what it burns, what it draws, what it can be fed from, how it dims."""

from dataclasses import dataclass, field
from enum import StrEnum

from iron_bucket.core.bench.dimming import Dimming
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bench.mode import Mode
from iron_bucket.core.checks import require_between, require_cct, require_not_negative, require_positive
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Figure
from iron_bucket.core.power.load import Draw

#: What a head that is set to nothing is taken to burn at.
DAYLIGHT_K = 5600.0


class Technology(StrEnum):
    """What makes the light."""

    LED_DAY = "LED day"
    LED_TUNGSTEN = "LED tungsten"
    LED_BICOLOUR = "LED bicolour"
    LED_COLOUR = "LED full colour"
    TUNGSTEN = "tungsten"
    HMI = "HMI"
    FLUORESCENT = "fluorescent"

    @property
    def is_led(self) -> bool:
        """Any of the LED kinds."""
        return self.value.startswith("LED")

    @property
    def head_class(self) -> "HeadClass":
        """The kind of light that a modifier is measured with."""
        return HeadClass.LED if self.is_led else HeadClass(self.value)


class HeadClass(StrEnum):
    """A gel on an LED is not the same gel on tungsten: modifiers are measured for each of these."""

    LED = "LED"
    TUNGSTEN = "tungsten"
    HMI = "HMI"
    FLUORESCENT = "fluorescent"


#: The mount of what has mains outlets of its own.
POWER_STATION, BUILT_IN = "station", "built-in"


@dataclass(frozen=True, slots=True, kw_only=True)
class BatteryPlate:
    """Batteries that a head takes. ``level_limit``: the most output it gives from them; ``is_separate``: their plates
    are no part of the head, and have to be brought.
    """

    mount: str
    plates: int = 1
    level_limit: float = 1.0
    is_separate: bool = False

    def __post_init__(self) -> None:
        if self.plates < 1:
            raise BadValue("plates", self.plates, "1 or more")
        require_between("level_limit", self.level_limit, low=0.01, high=1.0, unit="of full output")


@dataclass(frozen=True, slots=True, kw_only=True)
class MainsRange:
    """Supply voltages that a head accepts."""

    low_v: float
    high_v: float

    def __post_init__(self) -> None:
        require_positive("low_v", self.low_v, unit="V")
        require_between("high_v", self.high_v, low=self.low_v, high=480.0, unit="V")

    def takes(self, voltage_v: float) -> bool:
        """Whether the head runs on that mains; 5 % either way is the mains' own tolerance."""
        return self.low_v * 0.95 <= voltage_v <= self.high_v * 1.05


@dataclass(frozen=True, slots=True, kw_only=True)
class Head(Item):
    """One model of lamp. ``lowest_level`` 1 means that it does not dim; ``tint`` 1 is one full plus green.

    ``setting_points``: settings in kelvins and the share of the best output at each, as they were read; none: typical.
    ``draw``, ``fan_db`` and ``lumens`` are those of full output; ``modes`` are the other ways to run it. ``charge_w``:
    what its driver
    charges batteries with. ``weight_kg`` is the head's alone; driver and cable lie beside the stand.
    """

    technology: Technology
    draw: Draw
    lumens: Figure
    lowest_cct_k: float
    highest_cct_k: float
    tint: float = 0.0
    drift_mired: float = 0.0
    lowest_level: float = 1.0
    mains: MainsRange | None = None
    battery_plates: tuple[BatteryPlate, ...] = ()
    fan_db: float = 0.0
    fitting: str = ""  # of boxes, reflectors and grids, such as "S-type"
    scrim_ring_mm: float = 0.0
    takes_gel: bool = True
    spigot_mm: float = 16.0
    is_hot: bool = False
    warm_up_min: float = 0.0
    restrike_min: float = 0.0
    nameplate_w: float | None = None
    modes: tuple[Mode, ...] = ()
    inrush_a: float = 0.0
    charge_w: float = 0.0
    lowest_tint: float = 0.0
    highest_tint: float = 0.0
    dimming: Dimming = field(default_factory=Dimming)
    driver_kg: float = 0.0
    cable_kg: float = 0.0
    weather: str = ""
    control: tuple[str, ...] = ()
    channels: int = 0
    effects: tuple[str, ...] = ()
    globe: str = ""
    globe_life_h: float = 0.0
    setting_points: tuple[tuple[float, float], ...] = ()

    def __post_init__(self) -> None:
        Item.__post_init__(self)
        for name in (
            "warm_up_min",
            "restrike_min",
            "inrush_a",
            "charge_w",
            "driver_kg",
            "cable_kg",
            "globe_life_h",
            "channels",
        ):
            require_not_negative(name, getattr(self, name), unit="")
        if self.nameplate_w is not None:
            require_positive("nameplate_w", self.nameplate_w, unit="W")
        require_between("lowest_tint", self.lowest_tint, low=-3.0, high=0.0, unit="full gels")
        require_between("highest_tint", self.highest_tint, low=0.0, high=3.0, unit="full gels")
        require_positive("lumens", self.lumens.value, unit="lm")
        require_cct("lowest_cct_k", self.lowest_cct_k)
        require_cct("highest_cct_k", self.highest_cct_k, low_k=self.lowest_cct_k)
        require_between("lowest_level", self.lowest_level, low=0.0001, high=1.0, unit="of full output")
        require_between("drift_mired", self.drift_mired, low=-100.0, high=100.0, unit="mired")
        require_between("tint", self.tint, low=-2.0, high=2.0, unit="full gels")

    @property
    def total_kg(self) -> float:
        """All that has to be carried: head, driver and cable."""
        return self.weight_kg + self.driver_kg + self.cable_kg

    def nearest_cct_k(self, asked_k: float) -> float:
        """What it is set to for a colour temperature: the nearest that it goes to; with none asked (0) for daylight."""
        return min(max(asked_k or DAYLIGHT_K, self.lowest_cct_k), self.highest_cct_k)

    @property
    def tint_left(self) -> float:
        """The tint that remains when its own control has done what it can, in full plus greens."""
        return self.tint + min(max(-self.tint, self.lowest_tint), self.highest_tint)

    @property
    def quietest_db(self) -> float:
        """Fan noise of the quietest way to run it."""
        return min((self.fan_db, *(mode.fan_db for mode in self.modes)))

    def quiet_share(self, most_db: float) -> float:
        """The most output, as a share of full, that it gives within a noise limit; 0 where it is never that quiet."""
        if self.fan_db <= most_db:
            return 1.0
        return max((mode.output_share for mode in self.modes if mode.fan_db <= most_db), default=0.0)

    @property
    def lumens_per_watt(self) -> float:
        """What reaches the air for each watt drawn."""
        return self.lumens.value / self.draw.full_w.value

    def plate_for(self, mount: str) -> BatteryPlate | None:
        """How the head takes that battery mount, if it does; a power station feeds whatever runs on mains."""
        found = next((plate for plate in self.battery_plates if plate.mount == mount), None)
        if found is None and mount == POWER_STATION and self.mains is not None:
            return BatteryPlate(mount=mount)
        return found
