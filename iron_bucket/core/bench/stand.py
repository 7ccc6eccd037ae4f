"""A stand: what it carries and how high."""

from dataclasses import dataclass

from iron_bucket.core.bench.item import Item
from iron_bucket.core.checks import require_between, require_positive

#: Typical: the legs of a stand reach so far.
TYPICAL_LEGS_M = 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Stand(Item):
    """Payload and reach of one kind of stand. ``legs_m``: from its middle to the tip of a leg that is spread."""

    payload_kg: float
    lowest_m: float
    highest_m: float
    spigot_mm: float
    legs_m: float = TYPICAL_LEGS_M

    def __post_init__(self) -> None:
        Item.__post_init__(self)
        require_positive("payload_kg", self.payload_kg, unit="kg")
        require_positive("lowest_m", self.lowest_m, unit="m")
        require_between("highest_m", self.highest_m, low=self.lowest_m, high=20.0, unit="m")
        require_positive("spigot_mm", self.spigot_mm, unit="mm")
        require_between("legs_m", self.legs_m, low=0.05, high=3.0, unit="m")


def by_lightness(stands: tuple[Stand, ...], height_m: float) -> list[Stand]:
    """Those that reach so high, the lightest first; ours before hired ones of equal weight."""
    reaching = (stand for stand in stands if stand.highest_m >= height_m)
    return sorted(reaching, key=lambda stand: (stand.weight_kg, not stand.is_owned, stand.slug))


def lightest_stand(stands: tuple[Stand, ...], payload_kg: float, spigot_mm: float, height_m: float) -> Stand | None:
    """The lightest stand that carries, fits and reaches. None where no stand does."""
    able = (
        stand
        for stand in by_lightness(stands, height_m)
        if stand.payload_kg >= payload_kg and stand.spigot_mm == spigot_mm
    )
    return next(able, None)


def spigot_for_mm(weight_kg: float) -> float:
    """Of what holds a frame or board. Typical: 16 mm below 10 kg, 28 mm from there on."""
    return 16.0 if weight_kg < 10.0 else 28.0
