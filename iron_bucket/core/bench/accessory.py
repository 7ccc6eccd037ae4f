"""What holds, joins, protects and marks: arms, clamps, frame tubes, bonds, pegs, tape, globes, control gear."""

from dataclasses import dataclass

from iron_bucket.core.bench.item import Item
from iron_bucket.core.checks import require_between, require_showable, require_word

LONGEST_ROLE = 40


@dataclass(frozen=True, slots=True, kw_only=True)
class Accessory(Item):
    """``role``: the work that it does, as rules of the kit name it; ``fits``: what it goes with, such as a globe's name
    or a battery mount. ``length_m`` of a tube, arm or lead, ``rated_w`` of a dimmer: 0 where that says nothing;
    ``pack``: pieces in what is counted and weighed; ``is_used_up``: it does not come back.
    """

    role: str
    fits: str = ""
    length_m: float = 0.0
    holds_kg: float = 0.0
    rated_w: float = 0.0
    pack: int = 1
    is_used_up: bool = False

    def __post_init__(self) -> None:
        Item.__post_init__(self)
        require_word("role", self.role, longest=LONGEST_ROLE)
        require_showable("fits", self.fits, longest=LONGEST_ROLE)
        require_between("length_m", self.length_m, low=0.0, high=200.0, unit="m")
        require_between("holds_kg", self.holds_kg, low=0.0, high=2000.0, unit="kg")
        require_between("rated_w", self.rated_w, low=0.0, high=100_000.0, unit="W")
        require_between("pack", self.pack, low=1, high=10_000, unit="pieces")
