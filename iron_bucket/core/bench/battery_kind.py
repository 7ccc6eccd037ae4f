"""A kind of battery or power station on the shelf."""

from dataclasses import dataclass

from iron_bucket.core.bench.item import Item
from iron_bucket.core.checks import require_not_negative
from iron_bucket.core.power.battery import Supply


@dataclass(frozen=True, slots=True, kw_only=True)
class BatteryKind(Item):
    """Name-plate figures of one battery; ``usable`` keeps the reserve. ``peak_a``: for a moment, 0 where that is not
    known. Of a power station: ``recharge_w`` from the mains, 0 where it takes none; ``passes_through``: it feeds lamps
    meanwhile; how many outlets it has.
    """

    mount: str
    capacity_wh: float
    nominal_v: float
    most_a: float
    usable: float = 0.9
    efficiency: float = 0.95
    peak_a: float = 0.0
    recharge_w: float = 0.0
    passes_through: bool = False
    ac_outlets: int = 0
    dc_outlets: int = 0

    def __post_init__(self) -> None:
        Item.__post_init__(self)
        for field in ("peak_a", "recharge_w", "ac_outlets", "dc_outlets"):
            require_not_negative(field, getattr(self, field), unit="")
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
