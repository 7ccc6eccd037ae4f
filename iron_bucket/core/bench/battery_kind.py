"""A kind of battery or power station on the shelf."""

from dataclasses import dataclass

from iron_bucket.core.bench.item import Item
from iron_bucket.core.power.battery import Supply


@dataclass(frozen=True, slots=True, kw_only=True)
class BatteryKind(Item):
    """Name-plate figures of one battery; ``usable`` keeps the reserve."""

    mount: str
    capacity_wh: float
    nominal_v: float
    most_a: float
    usable: float = 0.9
    efficiency: float = 0.95

    def __post_init__(self) -> None:
        Item.__post_init__(self)
        self.supply(1)

    def supply(self, count: int) -> Supply:
        """Several of them sharing a load."""
        return Supply(
            capacity_wh=self.capacity_wh,
            nominal_v=self.nominal_v,
            most_a=self.most_a,
            usable=self.usable,
            efficiency=self.efficiency,
            count=count,
        )
