"""A lead, a multiway or an adapter: how long, how thick, what it plugs into and what plugs into it."""

from dataclasses import dataclass

from iron_bucket.core.bench.item import Item
from iron_bucket.core.checks import require_between, require_word
from iron_bucket.core.power.lead_choice import HOUSE_PLUG

LONGEST_PLUG = 40


@dataclass(frozen=True, slots=True, kw_only=True)
class Cable(Item):
    """``plug`` and ``outlet`` by their names, such as house or 32 A; ``area_mm2`` of each conductor."""

    length_m: float
    area_mm2: float
    plug: str = HOUSE_PLUG
    outlet: str = HOUSE_PLUG
    outlets: int = 1

    def __post_init__(self) -> None:
        Item.__post_init__(self)
        require_between("length_m", self.length_m, low=0.05, high=200.0, unit="m")
        require_between("area_mm2", self.area_mm2, low=0.5, high=300.0, unit="mm2")
        require_between("outlets", self.outlets, low=1, high=24, unit="outlets")
        for field in ("plug", "outlet"):
            require_word(field, getattr(self, field), longest=LONGEST_PLUG)

    @property
    def is_adapter(self) -> bool:
        """Whether it leads from one kind of plug to another."""
        return self.plug != self.outlet

    @property
    def is_multiway(self) -> bool:
        """Whether several leads go into it."""
        return self.outlets > 1 and not self.is_adapter
