"""Anything with watts, as a plan feeds it."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from iron_bucket.core.checks import require_between, require_not_negative, require_positive
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Figure, Origin
from iron_bucket.core.power.load import Draw, DrawCurve

LEGS = ("a", "b", "c")
#: A place on the plan, metres across and up.
Spot = tuple[float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Lead:
    """One two-conductor lead, one way."""

    length_m: float
    area_mm2: float

    def __post_init__(self) -> None:
        require_not_negative("length_m", self.length_m, unit="m")
        require_positive("area_mm2", self.area_mm2, unit="mm2")


@dataclass(frozen=True, slots=True, kw_only=True)
class PlannedLoad:
    """``watts`` in full; ``level`` 0 is off. ``fed_by`` and ``leg``: where it is pinned, empty where it may go
    anywhere it ``may``, by the ids of sources, None for everywhere; ``stays``: where it hangs now, and rather stays.
    ``hours`` that it burns, where that is known; ``jump_va``: what it takes beyond that for a moment as it starts;
    ``plates``: how many batteries or outlets it takes of a source, by its id, one where nothing is said.
    """

    load_id: str
    watts: float
    power_factor: float = 1.0
    level: float = 1.0
    idle_w: float = 0.0
    curve: DrawCurve = DrawCurve.ELECTRONIC
    fed_by: str = ""
    leg: str = ""
    lead: Lead | None = None
    hours: float | None = None
    at_m: Spot | None = None
    may: frozenset[str] | None = None
    stays: str = ""
    jump_va: float = 0.0
    plates: Mapping[str, int] = field(default_factory=dict)

    def __post_init__(self) -> None:
        require_positive("watts", self.watts, unit="W")
        require_between("level", self.level, low=0.0, high=1.0, unit="of full output")
        if self.hours is not None:
            require_between("hours", self.hours, low=0.0, high=1000.0, unit="h")
        require_not_negative("jump_va", self.jump_va, unit="VA")
        if self.leg and self.leg not in LEGS:
            raise BadValue("leg", repr(self.leg), "a, b or c")
        self.draw  # noqa: B018  its bounds are the load's

    @property
    def draw(self) -> Draw:
        """What it takes at any level."""
        full_w = Figure(value=self.watts, origin=Origin.CLAIMED)
        return Draw(full_w=full_w, idle_w=self.idle_w, power_factor=self.power_factor, curve=self.curve)

    @property
    def drawn_w(self) -> float:
        """Real watts at its level; nothing where it is off."""
        return float(self.draw.watts(self.level)) if self.level > 0.0 else 0.0

    @property
    def energy_wh(self) -> float:
        """That it takes in the hours that it burns; nothing where nobody has said how long."""
        return self.drawn_w * (self.hours or 0.0)

    @property
    def drawn_va(self) -> float:
        """Apparent power of the same."""
        return float(self.draw.va_from_w(self.drawn_w))
