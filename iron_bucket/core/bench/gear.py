"""All the gear that a choice is made from."""

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass, fields
from typing import Any, TypeVar

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.head import Head
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bench.stand import Stand
from iron_bucket.core.bench.unit import Unit
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.kinds import Board, Cloth, Face, Frame, Grid, Optic, Sheet
from iron_bucket.core.modifiers.measured_pass import MeasuredPass

Kind = TypeVar("Kind", bound=Item)


def require_item(kind: str, slug: str, items: Iterable[Kind]) -> Kind:
    """The piece that bears a slug. Raises: BadValue where the bench holds none."""
    found = next((each for each in items if each.slug == slug), None)
    if found is None:
        raise BadValue(kind, repr(slug), f"a {kind} that is on the bench")
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class Gear:
    """Every slug is used once, and every configuration and unit has its head. ``measured``: what meters found of the modifiers."""

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
    units: tuple[Unit, ...] = ()
    measured: tuple[MeasuredPass, ...] = ()

    def __post_init__(self) -> None:
        slug, count = next(
            iter(Counter([*(item.slug for item in self.items()), *(unit.slug for unit in self.units)]).most_common(1)),
            ("", 0),
        )
        if count > 1:
            raise BadValue("slug", repr(slug), "a slug that nothing else bears")
        known = {head.slug for head in self.heads}
        for head_slug in (each.head_slug for held in (self.configurations, self.units) for each in held):
            if head_slug not in known:
                raise BadValue("head_slug", repr(head_slug), "the slug of a head in the same gear")

    def modifiers(self) -> tuple[Item, ...]:
        """All that goes on or in front of a head."""
        return (*self.optics, *self.sheets, *self.faces, *self.grids, *self.frames, *self.cloths, *self.boards)

    def items(self) -> tuple[Item, ...]:
        """Everything that weighs and is hired, in the order of the fields."""
        return (*self.heads, *self.configurations, *self.modifiers(), *self.batteries, *self.stands)

    def in_use(self) -> "Gear":
        """The same without what is retired: what a choice is made from. A retired head takes its configurations along."""
        heads = {head.slug for head in self.heads if not head.is_retired}
        kept: dict[str, tuple[Any, ...]] = {
            each.name: tuple(item for item in getattr(self, each.name) if not getattr(item, "is_retired", False))
            for each in fields(self)
        }
        for owned in ("configurations", "units"):
            kept[owned] = tuple(item for item in kept[owned] if item.head_slug in heads)
        return Gear(**kept)

    def head(self, slug: str) -> Head:
        """Raises: KeyError for a slug that no head bears."""
        return {head.slug: head for head in self.heads}[slug]
