"""One entry of a bucket: a thing, how many, what for, and what it hangs on."""

from dataclasses import dataclass
from enum import StrEnum

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.head import Head
from iron_bucket.core.bench.item import Item
from iron_bucket.core.checks import require_positive, require_showable
from iron_bucket.core.errors import BadValue

MOST_OF_ONE_THING = 999
LONGEST_PURPOSE = 200


class FedFrom(StrEnum):
    MAINS = "mains"
    BATTERY = "battery"


@dataclass(frozen=True, slots=True, kw_only=True)
class Entry:
    """``parent_id``: the entry that it hangs on; ``area_m2``: of a cloth, whose weight and price go by area;
    ``level``: of a head, 0 where it is off;
    ``setting``: the focus or reflector that it was picked with.
    """

    entry_id: int
    parent_id: int | None
    kind: str
    item: Item
    quantity: int
    purpose: str = ""
    level: float = 1.0
    fed_from: FedFrom = FedFrom.MAINS
    area_m2: float = 1.0
    setting: str = ""

    def __post_init__(self) -> None:
        if not 0 <= self.quantity <= MOST_OF_ONE_THING:
            raise BadValue("quantity", self.quantity, f"0 to {MOST_OF_ONE_THING}")
        require_showable("purpose", self.purpose, longest=LONGEST_PURPOSE)
        require_positive("area_m2", self.area_m2, unit="m2")

    @property
    def is_placed(self) -> bool:
        """Whether it stands in a set-up and was never put in by hand: such entries are numbered below 0."""
        return self.entry_id < 0

    @property
    def weight_kg(self) -> float:
        """All of them together; of a head with its driver and cable."""
        return self.item.total_kg * self.area_m2 * self.quantity

    @property
    def mains_w(self) -> float:
        """Watts from the wall at the planned level: 0 for what is no head, or runs on batteries."""
        if not isinstance(self.item, Head) or self.fed_from is not FedFrom.MAINS or self.level <= 0.0:
            return 0.0
        return self.quantity * float(self.item.draw.watts(self.level))

    @property
    def mains_va(self) -> float:
        """Apparent power of the same."""
        return float(self.item.draw.va_from_w(self.mains_w)) if isinstance(self.item, Head) else 0.0

    @property
    def battery_wh(self) -> float:
        """Name-plate watt-hours of batteries."""
        return self.quantity * self.item.capacity_wh if isinstance(self.item, BatteryKind) else 0.0
