"""One missed target, and what there is to meet it with."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import IntEnum, auto

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluate.ladder import Rung
from iron_bucket.core.setups.evaluate.lit_scene import DARK_LX, LitScene, ResponseFor
from iron_bucket.core.setups.plan.changes import Change
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.core.setups.scene.build_scene import BuiltLight, LightKind

#: Lamps and frames that give less of the light at a mark are not worth moving for it.
WORTH_SHARE = 0.15
_MOST_LAMPS = 2
#: What is roughly known is no farther off.
_ROUGH_STOPS = 0.3
#: A change in words, and as values; and, where that is known at once, roughly how many times the light at the mark
#: it gives.
Sketch = tuple[str, tuple[Change, ...]] | tuple[str, tuple[Change, ...], float]


class Hand(IntEnum):
    """What a gaffer reaches for first."""

    BLACK = auto()
    FLAG = auto()
    DIMMER = auto()
    SHEET = auto()
    DISTANCE = auto()
    LENS = auto()
    FILM = auto()
    DRESS = auto()
    TURN = auto()
    WAIT = auto()
    HEAD = auto()


@dataclass(frozen=True, slots=True, kw_only=True)
class Proposal:
    """One change that may meet a target. ``roughly``: how many times the light at the mark it gives, None where that is
    not known before it is computed.
    """

    text: str
    changes: tuple[Change, ...]
    hand: Hand
    roughly: float | None = None

    @classmethod
    def of(cls, sketch: Sketch, hand: Hand) -> "Proposal":
        """A sketch, by the hand that it takes."""
        text, changes, *roughly = sketch
        return cls(text=text, changes=changes, hand=hand, roughly=roughly[0] if roughly else None)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Shortfall:
    """A rung outside its tolerance in a set-up that was computed. ``bucket``: how many of each piece of gear are on the
    job's list already, by slug.
    """

    lit: LitScene
    rung: Rung
    gear: Gear
    rules: HouseRules
    response_for: ResponseFor
    bucket: Mapping[str, int] = field(default_factory=dict)

    @property
    def setup(self) -> Setup:
        return self.lit.built.setup

    @property
    def miss_stops(self) -> float:
        """Above 0 is too bright; 0 where nothing is asked."""
        return self.rung.miss_stops or 0.0

    @property
    def factor(self) -> float:
        """By how much the light at the mark must grow."""
        return float(2.0**-self.miss_stops)

    def may_be_met_by(self, proposal: Proposal) -> bool:
        """Whether it is worth computing in full, by what is roughly known of it."""
        if proposal.roughly is None or self.rung.target is None:
            return True
        return abs(self.stops_off(proposal.roughly)) <= self.rung.target.tolerance + _ROUGH_STOPS

    def stops_off(self, times: float) -> float:
        """By how much the target would be missed with so many times the light."""
        return self.miss_stops + math.log2(max(times, DARK_LX))

    def times(self, more_lx: float) -> float:
        """How many times the light at the mark there is with so much more of it."""
        return 1.0 + more_lx / max(float(self.lit.total_lx[self.place]), DARK_LX)

    @property
    def place(self) -> int:
        """Column of the mark."""
        place = self.lit.place_of(self.rung.mark_id)
        if place is None:
            raise BadValue("mark", repr(self.rung.mark_id), "a mark that a meter can be held at")
        return place

    @property
    def units(self) -> UnitSystem:
        return self.rules.units

    def strongest(self) -> list[tuple[BuiltLight, float]]:
        """Our lamps that matter at the mark, strongest first, with what they give there."""
        given = self.lit.by_light_lx[:, self.place]
        mine = [
            (light, float(given[at]))
            for at, light in enumerate(self.lit.built.lights)
            if light.kind is LightKind.LAMP
            and light.placed
            and not light.placed.is_locked
            and given[at] > WORTH_SHARE * given.sum()
        ]
        return sorted(mine, key=lambda pair: -pair[1])[:_MOST_LAMPS]

    def needed_lx(self, given_lx: float) -> float:
        """What one light must give so that all together are right; may come out below 0."""
        total = float(self.lit.total_lx[self.place])
        return given_lx + total * (self.factor - 1.0)
