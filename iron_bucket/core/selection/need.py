"""What light is needed, and from what."""

from dataclasses import dataclass

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.head import Technology
from iron_bucket.core.checks import HIGHEST_CCT_K, LOWEST_CCT_K, require_between, require_not_negative, require_positive
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.kinds import ScrimSchool
from iron_bucket.core.power.battery import FULL_CAPACITY_FROM_C, require_temperature
from iron_bucket.core.power.circuit import Circuit
from iron_bucket.core.selection.front_wish import FrontWish

#: docs/craft.md, section 2: what a meter reading may be off by before it is pointed out.
LEVEL_TOLERANCE_STOPS = 1.0 / 3.0
#: What can be asked for.
FAINTEST_LX, BRIGHTEST_LX, NEAREST_M, FARTHEST_M = 0.01, 1e6, 0.2, 200.0
#: docs/craft.md, section 5: about 10 mired is hardly seen, 50 is clear; 25 is the house's middle.
TYPICAL_TOLERANCE_MIRED = 25.0


@dataclass(frozen=True, slots=True, kw_only=True)
class BatteryFeed:
    """``count`` batteries of one kind in all, for so many hours, in the cold or not."""

    kind: BatteryKind
    count: int
    burn_h: float
    temperature_c: float = FULL_CAPACITY_FROM_C

    def __post_init__(self) -> None:
        if not 1 <= self.count <= 200:
            raise BadValue("count", self.count, "1 to 200 batteries")
        require_positive("burn_h", self.burn_h, unit="h")
        require_temperature("temperature_c", self.temperature_c)

    @property
    def energy_wh(self) -> float:
        """Of all of them, as far as the cold leaves it."""
        return self.kind.supply(self.count).in_the_cold(self.temperature_c).energy_wh


Feed = Circuit | BatteryFeed


@dataclass(frozen=True, slots=True, kw_only=True)
class Need:
    """Missing wishes are None; nothing is ruled out by a wish nobody has.

    ``throw_m`` is the distance from head to subject; before a bounce, from board to subject. ``most_tint``: green or
    magenta, in full gels.
    """

    illuminance_lx: float
    throw_m: float
    width_m: float | None = None
    evenness_stops: float = 1.0
    least_apparent_deg: float | None = None
    cct_k: float | None = None
    tolerance_mired: float = TYPICAL_TOLERANCE_MIRED
    most_tint: float | None = None
    feed: Feed | None = None
    ceiling_m: float | None = None
    most_weight_kg: float | None = None
    own_only: bool = False
    most_day_price: float | None = None
    technologies: tuple[Technology, ...] = ()
    most_noise_db: float | None = None
    scrim_school: ScrimSchool = ScrimSchool.HALF_AND_ONE
    front: FrontWish | None = None

    def __post_init__(self) -> None:
        require_between("illuminance_lx", self.illuminance_lx, low=FAINTEST_LX, high=BRIGHTEST_LX, unit="lx")
        require_between("throw_m", self.throw_m, low=NEAREST_M, high=FARTHEST_M, unit="m")
        require_between("evenness_stops", self.evenness_stops, low=0.1, high=6.0, unit="stops")
        require_between("tolerance_mired", self.tolerance_mired, low=1.0, high=500.0, unit="mired")
        for field, value, low, high, unit in (
            ("width_m", self.width_m, 0.05, 100.0, "m"),
            ("least_apparent_deg", self.least_apparent_deg, 0.1, 170.0, "degrees"),
            ("cct_k", self.cct_k, LOWEST_CCT_K, HIGHEST_CCT_K, "K"),
            ("most_tint", self.most_tint, 0.01, 3.0, "full gels"),
            ("ceiling_m", self.ceiling_m, 0.5, 100.0, "m"),
            ("most_weight_kg", self.most_weight_kg, 0.05, 5000.0, "kg"),
        ):
            if value is not None:
                require_between(field, value, low=low, high=high, unit=unit)
        for field, value in (("most_day_price", self.most_day_price), ("most_noise_db", self.most_noise_db)):
            if value is not None:
                require_not_negative(field, value, unit="")
