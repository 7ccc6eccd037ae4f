"""All the gear that a choice is made from."""

from collections import Counter
from dataclasses import dataclass

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.head import Head
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bench.stand import Stand
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.kinds import Board, Cloth, Face, Frame, Grid, Optic, Sheet


@dataclass(frozen=True, slots=True, kw_only=True)
class Gear:
    """Every slug is used once, and every configuration has its head."""

    heads: tuple[Head, ...] = ()
    configurations: tuple[Configuration, ...] = ()
    optics: tuple[Optic, ...] = ()
    sheets: tuple[Sheet, ...] = ()
    faces: tuple[Face, ...] = ()
    grids: tuple[Grid, ...] = ()
    frames: tuple[Frame, ...] = ()
    cloths: tuple[Cloth, ...] = ()
    boards: tuple[Board, ...] = ()
    batteries: tuple[BatteryKind, ...] = ()
    stands: tuple[Stand, ...] = ()

    def __post_init__(self) -> None:
        slug, count = next(iter(Counter(item.slug for item in self.items()).most_common(1)), ("", 0))
        if count > 1:
            raise BadValue("slug", repr(slug), "a slug that nothing else bears")
        known = {head.slug for head in self.heads}
        for configuration in self.configurations:
            if configuration.head_slug not in known:
                raise BadValue("head_slug", repr(configuration.head_slug), "the slug of a head in the same gear")

    def modifiers(self) -> tuple[Item, ...]:
        """All that goes on or in front of a head."""
        return (*self.optics, *self.sheets, *self.faces, *self.grids, *self.frames, *self.cloths, *self.boards)

    def items(self) -> tuple[Item, ...]:
        """Everything, in the order of the fields."""
        return (*self.heads, *self.configurations, *self.modifiers(), *self.batteries, *self.stands)

    def head(self, slug: str) -> Head:
        """Raises: KeyError for a slug that no head bears."""
        return {head.slug: head for head in self.heads}[slug]
