"""What a job brings to feed its lamps, and how long its passes last: the document of the Power station.

Figures only: tie-ins and distribution are a licensed electrician's work.
"""

from collections import Counter
from dataclasses import dataclass, replace
from enum import StrEnum

from iron_bucket.core.checks import (
    require_at_most,
    require_between,
    require_not_negative,
    require_positive,
    require_showable,
)
from iron_bucket.core.errors import BadValue
from iron_bucket.core.places.place import LONGEST_NAME, require_named, require_on_plan
from iron_bucket.core.power.battery_day import Charger
from iron_bucket.core.power.job.pace import Pace, PassTaken, crew_share
from iron_bucket.core.power.lead_choice import HOUSE_PLUG, Laid
from iron_bucket.core.power.trip import BreakerCurve
from iron_bucket.core.typical import typical

#: More than a full day's lights; with all of it a page still answers while somebody waits.
MOST = {
    "generators": 4,
    "boards": 6,
    "batteries": 40,
    "chargers": 20,
    "loads": 60,
    "times": 200,
    "pins": 400,
    "taken": 200,
}
LONGEST_PASS_MIN = 16 * 60
LONGEST_SLUG = 120


class Phases(StrEnum):
    """How many legs there are beside the neutral."""

    ONE = "one phase"
    SPLIT = "split phase"
    THREE = "three phases"

    @property
    def legs(self) -> tuple[str, ...]:
        """By their letters."""
        return ("a", "b", "c")[: {"one phase": 1, "split phase": 2, "three phases": 3}[self.value]]


class BoardKind(StrEnum):
    BOX = "distribution box"
    TIE_IN = "tie-in"
    VEHICLE = "vehicle socket"


@dataclass(frozen=True, slots=True, kw_only=True)
class Brought:
    """Anything that the job brings to a place; ``place_id`` by the place's number; ``item``: which piece of the bench
    it is, by its slug, empty where nobody says.
    """

    piece_id: str
    name: str
    place_id: int
    x_m: float = 0.0
    y_m: float = 0.0
    item: str = ""

    def __post_init__(self) -> None:
        require_named("name", self.name)
        require_showable("id", self.piece_id, longest=LONGEST_NAME)
        require_on_plan("position", self.x_m, self.y_m)
        require_showable("item", self.item, longest=LONGEST_SLUG)

    @property
    def is_carried(self) -> bool:
        """Whether it has to be on the truck."""
        return True


@dataclass(frozen=True, slots=True, kw_only=True)
class BroughtSource(Brought):
    """What has outlets of its own; ``voltage_v`` from leg to neutral."""

    voltage_v: float = 230.0
    phases: Phases = Phases.ONE
    outlet: str = HOUSE_PLUG

    def __post_init__(self) -> None:
        Brought.__post_init__(self)
        require_named("outlet", self.outlet)
        require_between("voltage_v", self.voltage_v, low=12.0, high=480.0, unit="V")


@dataclass(frozen=True, slots=True, kw_only=True)
class Generator(BroughtSource):
    """Its watts are taken for apparent power, because an alternator bears amps.

    Burns ``idle_l_h`` with nothing on it, ``full_l_h`` with all; ``noise_dba`` at ``noise_at_m``, None where nobody
    measured it.
    """

    continuous_w: float = 2000.0
    peak_w: float = 2200.0
    tank_l: float = 4.0
    idle_l_h: float = 0.3
    full_l_h: float = 1.2
    noise_dba: float | None = None
    noise_at_m: float = 7.0

    def __post_init__(self) -> None:
        BroughtSource.__post_init__(self)
        require_between("continuous_w", self.continuous_w, low=100.0, high=1e6, unit="W")
        require_between("peak_w", self.peak_w, low=self.continuous_w, high=2e6, unit="W")
        require_positive("tank_l", self.tank_l, unit="l")
        require_not_negative("idle_l_h", self.idle_l_h, unit="l/h")
        require_between("full_l_h", self.full_l_h, low=max(self.idle_l_h, 0.01), high=1000.0, unit="l/h")
        require_between("noise_at_m", self.noise_at_m, low=1.0, high=50.0, unit="m")
        if self.noise_dba is not None:
            require_between("noise_dba", self.noise_dba, low=20.0, high=120.0, unit="dB(A)")

    @property
    def rated_a(self) -> float:
        """Amps of each leg that it gives all day. Source: A = VA / V."""
        return self.continuous_w / self.voltage_v / len(self.phases.legs)

    @property
    def peak_a(self) -> float:
        """Amps of each leg that it gives for a moment."""
        return self.peak_w / self.voltage_v / len(self.phases.legs)

    def burns_l_h(self, share: float) -> float:
        """At a share of its continuous watts, on a straight line between its two figures."""
        return self.idle_l_h + (self.full_l_h - self.idle_l_h) * share


@dataclass(frozen=True, slots=True, kw_only=True)
class Board(BroughtSource):
    """A box, a tie-in or a vehicle's socket: ``breaker_a`` of each leg, ``used_a`` drawn from each already."""

    kind: BoardKind = BoardKind.BOX
    breaker_a: float = 32.0
    used_a: float = 0.0
    curve: BreakerCurve = BreakerCurve.C
    rcd_ma: float = 30.0

    def __post_init__(self) -> None:
        BroughtSource.__post_init__(self)
        require_between("breaker_a", self.breaker_a, low=1.0, high=400.0, unit="A")
        require_between("used_a", self.used_a, low=0.0, high=self.breaker_a, unit="A")
        require_between("rcd_ma", self.rcd_ma, low=0.0, high=1000.0, unit="mA")

    @property
    def is_carried(self) -> bool:
        """A tie-in is there, a vehicle's socket comes by itself."""
        return self.kind is BoardKind.BOX


@dataclass(frozen=True, slots=True, kw_only=True)
class BatteryStock:
    """``count`` batteries of a ``kind``, by its slug, alike in ``health``, the share of their capacity that is left."""

    piece_id: str
    kind: str
    name: str = ""
    count: int = 1
    health: float = 1.0
    cycles: int = 0

    def __post_init__(self) -> None:
        require_showable("name", self.name, longest=LONGEST_NAME)
        require_between("count", self.count, low=0, high=400, unit="batteries")
        require_between("health", self.health, low=0.2, high=1.0, unit="of the capacity")
        require_between("cycles", self.cycles, low=0, high=10_000, unit="cycles")


@dataclass(frozen=True, slots=True, kw_only=True)
class ChargerKit(Brought):
    """A charger that stands in a place: ``kinds`` of batteries by their slugs; ``feed``: a socket's id, or nothing."""

    kinds: tuple[str, ...] = ()
    bays: int = 2
    bay_w: float = 90.0
    efficiency: float = 0.9
    slow_from: float = 0.8
    slow_share: float = 0.5
    feed: str = ""

    def __post_init__(self) -> None:
        Brought.__post_init__(self)
        _ = self.charger  # its bounds are this one's

    @property
    def charger(self) -> Charger:
        """As the day on batteries takes it."""
        return Charger(
            charger_id=self.piece_id,
            kind_ids=self.kinds,
            bays=self.bays,
            bay_w=self.bay_w,
            efficiency=self.efficiency,
            slow_from=self.slow_from,
            slow_share=self.slow_share,
        )

    @property
    def mains_w(self) -> float:
        """With every bay full."""
        return self.bays * self.bay_w / self.efficiency


@dataclass(frozen=True, slots=True, kw_only=True)
class OtherLoad(Brought):
    """Anything else with watts; ``setup_id`` 0: all day. ``start_va``: what it takes as it starts, 0 where that is
    no more than it draws.
    """

    setup_id: int = 0
    watts: float = 100.0
    power_factor: float = 0.95
    start_va: float = 0.0
    feed: str = ""

    def __post_init__(self) -> None:
        Brought.__post_init__(self)
        require_between("watts", self.watts, low=0.1, high=1e5, unit="W")
        require_between("power_factor", self.power_factor, low=0.1, high=1.0, unit="")
        require_between("start_va", self.start_va, low=0.0, high=1e6, unit="VA")


@dataclass(frozen=True, slots=True, kw_only=True)
class PassTime:
    """Minutes of one pass. ``overlap_min`` of its rig lie in the shoot before it; ``lit_share``: of the shoot that its
    lamps burn, standing by in the rest.
    """

    piece_id: str
    setup_id: int
    rig_min: int
    shoot_min: int
    strike_min: int
    overlap_min: int = 0
    lit_share: float = 1.0

    def __post_init__(self) -> None:
        for field in ("rig_min", "shoot_min", "strike_min"):
            require_between(field, getattr(self, field), low=0, high=LONGEST_PASS_MIN, unit="min")
        require_between("overlap_min", self.overlap_min, low=0, high=self.rig_min, unit="min, within the rig")
        require_between("lit_share", self.lit_share, low=0.0, high=1.0, unit="of the shoot")


@dataclass(frozen=True, slots=True, kw_only=True)
class Pin:
    """A load that sharing out leaves where it hangs, as ``pin_of`` names it."""

    piece_id: str


def pin_of(setup_id: int, load_id: str) -> str:
    """What a pinned load of a pass is called."""
    return f"{setup_id}:{load_id}"


@dataclass(frozen=True, slots=True, kw_only=True)
class JobPower:
    """All of it. ``is_straight``: leads lie the straight way and not along the walls; ``laid``: how they lie; ``crew``:
    how many rig and strike; ``taken``: what passes really took, and what has been learned of earlier ones.
    """

    generators: tuple[Generator, ...] = ()
    boards: tuple[Board, ...] = ()
    batteries: tuple[BatteryStock, ...] = ()
    chargers: tuple[ChargerKit, ...] = ()
    loads: tuple[OtherLoad, ...] = ()
    times: tuple[PassTime, ...] = ()
    pins: tuple[Pin, ...] = ()
    taken: tuple[PassTaken, ...] = ()
    is_straight: bool = False
    laid: Laid = Laid.FREE
    crew: int = typical("power")["crew"]
    rig_pace: float = 1.0
    shoot_pace: float = 1.0
    strike_pace: float = 1.0

    def __post_init__(self) -> None:
        for field, most in MOST.items():
            require_at_most(field, len(getattr(self, field)), most)
        ids = [each.piece_id for field in MOST for each in getattr(self, field)]
        twice = next((name for name, count in Counter(ids).items() if count > 1), None)
        if twice is not None:
            raise BadValue("id", repr(twice), "an id that is used once")
        require_between("crew", self.crew, low=1, high=60, unit="people")
        _ = self.pace  # its bounds are this one's

    @property
    def pace(self) -> Pace:
        """As earlier passes went."""
        return Pace(rig=self.rig_pace, shoot=self.shoot_pace, strike=self.strike_pace)

    def paced(self, usual: PassTime) -> PassTime:
        """What this crew takes for what typically takes so long."""
        share, pace = crew_share(self.crew), self.pace
        return replace(
            usual,
            rig_min=round(usual.rig_min * share * pace.rig),
            shoot_min=round(usual.shoot_min * pace.shoot),
            strike_min=round(usual.strike_min * share * pace.strike),
        )

    @property
    def sources(self) -> tuple[Generator | Board, ...]:
        """All that has outlets."""
        return (*self.generators, *self.boards)

    def is_pinned(self, setup_id: int, load_id: str) -> bool:
        """Whether sharing out leaves that load alone."""
        return any(each.piece_id == pin_of(setup_id, load_id) for each in self.pins)

    def time_of(self, setup_id: int) -> PassTime | None:
        """Of one pass, where it was set."""
        return next((each for each in self.times if each.setup_id == setup_id), None)
