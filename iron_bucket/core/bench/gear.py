"""All the gear that a choice is made from."""

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, field, fields
from typing import Any, TypeVar

from iron_bucket.core.bench.accessory import Accessory
from iron_bucket.core.bench.bag import Bag
from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.cable import Cable
from iron_bucket.core.bench.case import Case
from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.flag import Flag
from iron_bucket.core.bench.head import Head
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bench.stand import Stand
from iron_bucket.core.bench.unit import Unit
from iron_bucket.core.bench.vehicle import Vehicle
from iron_bucket.core.colour.spectrum import Spectrum
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.kinds import Board, Cloth, Face, Frame, Grid, Optic, Sheet
from iron_bucket.core.modifiers.measured_pass import MeasuredPass

Kind = TypeVar("Kind", bound=Item)


#: What the crew calls a piece of each kind.
_NOUNS: dict[type[Item], str] = {
    Head: "head",
    Configuration: "configuration",
    Optic: "optic",
    Sheet: "sheet",
    Face: "box",
    Grid: "grid",
    Frame: "frame",
    Cloth: "cloth",
    Board: "board",
    BatteryKind: "battery",
    Stand: "stand",
    Bag: "bag",
    Cable: "lead",
    Flag: "flag",
    Accessory: "accessory",
    Case: "case",
    Vehicle: "vehicle",
}


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Gear:
    """Every slug is used once, and every configuration and unit has its head. Equal to itself alone, so that what is
    kept of a bench is found without reading the whole of it.

    ``measured``: what meters found of the modifiers. ``spectra`` by the slug of what they are of. ``away``: by slug,
    how many of what we own cannot go, less what units of others make up for.
    """

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
    bags: tuple[Bag, ...] = ()
    cables: tuple[Cable, ...] = ()
    flags: tuple[Flag, ...] = ()
    accessories: tuple[Accessory, ...] = ()
    cases: tuple[Case, ...] = ()
    vehicles: tuple[Vehicle, ...] = ()
    units: tuple[Unit, ...] = ()
    measured: tuple[MeasuredPass, ...] = ()
    spectra: Mapping[str, tuple[Spectrum, ...]] = field(default_factory=dict)
    away: Counter[str] = field(init=False, default_factory=Counter)
    _by_slug: dict[str, Item] = field(init=False, default_factory=dict)

    def __post_init__(self) -> None:
        self._by_slug.update((item.slug, item) for item in self.items())
        taken = {*self._by_slug, *(unit.slug for unit in self.units)}
        if len(taken) < len(self.items()) + len(self.units):
            every = Counter([*(item.slug for item in self.items()), *(unit.slug for unit in self.units)])
            raise BadValue("slug", repr(max(every, key=every.__getitem__)), "a slug of its own")
        known = {head.slug for head in self.heads}
        for head_slug in (each.head_slug for kind in (self.configurations, self.units) for each in kind):
            if head_slug not in known:
                raise BadValue("head_slug", repr(head_slug), "the slug of a head in the same gear")
        for unit in self.units:
            if not unit.is_retired:
                self.away[unit.head_slug] += unit.is_ours - unit.condition.can_go

    def modifiers(self) -> tuple[Item, ...]:
        """All that goes on or in front of a head."""
        return (*self.optics, *self.sheets, *self.faces, *self.grids, *self.frames, *self.cloths, *self.boards)

    def items(self) -> tuple[Item, ...]:
        """Everything that weighs and is hired, in the order of the fields."""
        grip = (*self.batteries, *self.stands, *self.bags, *self.cables, *self.flags, *self.accessories)
        return (*self.heads, *self.configurations, *self.modifiers(), *grip, *self.cases, *self.vehicles)

    def in_use(self) -> "Gear":
        """The same without what is retired: what a choice is made from.

        A retired head takes its configurations along.
        """
        heads = {head.slug for head in self.heads if not head.is_retired}
        kept: dict[str, Any] = {
            each.name: tuple(item for item in getattr(self, each.name) if not getattr(item, "is_retired", False))
            for each in fields(self)
            if each.init and each.name != "spectra"
        }
        for owned in ("configurations", "units"):
            kept[owned] = tuple(item for item in kept[owned] if item.head_slug in heads)
        return Gear(**kept, spectra=self.spectra)

    def find(self, kind: type[Kind], slug: str) -> Kind | None:
        """The piece of a kind that bears a slug; None where the bench holds none."""
        found = self._by_slug.get(slug)
        return found if isinstance(found, kind) else None

    def by_slug(self, kind: type[Kind], slug: str) -> Kind:
        """The piece of a kind that bears a slug. Raises: BadValue where the bench holds none."""
        found = self.find(kind, slug)
        if found is None:
            raise BadValue(_NOUNS[kind], repr(slug), "one that is on the bench")
        return found

    def head(self, slug: str) -> Head:
        """Raises: BadValue for a slug that no head bears."""
        return self.by_slug(Head, slug)
