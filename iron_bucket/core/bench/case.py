"""A case, bag or cart that gear travels in: how large it is inside, what it may weigh, what lives in it."""

from dataclasses import dataclass

from iron_bucket.core.bench.item import Item
from iron_bucket.core.checks import require_between, require_positive


@dataclass(frozen=True, slots=True, kw_only=True)
class Case(Item):
    """Inner length, width and height; ``wall_m``: how thick its sides are; ``most_kg``: of what is in it;
    ``lives``: slugs of the pieces, or lists of the bench, that have their place in it; ``is_cart``: it rolls, and
    carries what is strapped on.
    """

    inner_l_m: float
    inner_w_m: float
    inner_h_m: float
    most_kg: float
    wall_m: float = 0.015
    lives: tuple[str, ...] = ()
    is_cart: bool = False

    def __post_init__(self) -> None:
        Item.__post_init__(self)
        for side in ("inner_l_m", "inner_w_m", "inner_h_m"):
            require_between(side, getattr(self, side), low=0.05, high=6.0, unit="m")
        require_positive("most_kg", self.most_kg, unit="kg")
        require_between("wall_m", self.wall_m, low=0.0, high=0.2, unit="m")

    @property
    def inner_m(self) -> tuple[float, float, float]:
        """Length, width, height."""
        return self.inner_l_m, self.inner_w_m, self.inner_h_m

    @property
    def outer_m(self) -> tuple[float, float, float]:
        """The same outside."""
        length, width, height = (side + 2.0 * self.wall_m for side in self.inner_m)
        return length, width, height
