"""A van, truck, trailer or hand that kit travels in: what it bears, how large its hold is."""

from dataclasses import dataclass

from iron_bucket.core.bench.item import Item
from iron_bucket.core.checks import require_between, require_positive


@dataclass(frozen=True, slots=True, kw_only=True)
class Vehicle(Item):
    """``payload_kg`` besides driver and fuel; the hold's inner length, width and height; ``load_height_m``: how high
    its floor is to lift to.
    """

    payload_kg: float
    inner_l_m: float
    inner_w_m: float
    inner_h_m: float
    load_height_m: float = 0.6

    def __post_init__(self) -> None:
        Item.__post_init__(self)
        require_positive("payload_kg", self.payload_kg, unit="kg")
        for side in ("inner_l_m", "inner_w_m", "inner_h_m"):
            require_between(side, getattr(self, side), low=0.2, high=20.0, unit="m")
        require_between("load_height_m", self.load_height_m, low=0.0, high=2.0, unit="m")

    @property
    def inner_m(self) -> tuple[float, float, float]:
        """Length, width, height of the hold."""
        return self.inner_l_m, self.inner_w_m, self.inner_h_m
