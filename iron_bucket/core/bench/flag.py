"""A flag, cutter, net or black on the shelf, in its own frame or as a cloth to hang."""

from dataclasses import dataclass
from enum import StrEnum

from iron_bucket.core.bench.item import Item
from iron_bucket.core.checks import require_between


class FlagKind(StrEnum):
    """What cuts light. A black reflects so little that it fills negatively."""

    SOLID = "solid"
    SINGLE_NET = "single net"
    DOUBLE_NET = "double net"
    BLACK = "black for negative fill"


@dataclass(frozen=True, slots=True, kw_only=True)
class Flag(Item):
    """One size of one kind."""

    kind: FlagKind
    width_m: float
    height_m: float

    def __post_init__(self) -> None:
        Item.__post_init__(self)
        require_between("width_m", self.width_m, low=0.05, high=20.0, unit="m")
        require_between("height_m", self.height_m, low=0.05, high=20.0, unit="m")

    def covers(self, width_m: float, height_m: float) -> bool:
        """Whether it is that large, upright or laid on its side."""
        small, large = sorted((width_m, height_m))
        own_small, own_large = sorted((self.width_m, self.height_m))
        return own_small >= small - _SLIP_M and own_large >= large - _SLIP_M


#: Cloths are cut by hand.
_SLIP_M = 0.02
