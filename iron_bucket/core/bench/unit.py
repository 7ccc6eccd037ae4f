"""This very lamp: one of those that a model names, with its own history."""

from dataclasses import dataclass
from enum import StrEnum

from iron_bucket.core.bench.item import DEAREST, LONGEST_NAME, require_slug
from iron_bucket.core.checks import require_between, require_not_negative, require_showable, require_word
from iron_bucket.core.errors import BadValue


class Condition(StrEnum):
    """How it came back last."""

    GOOD = "good"
    WORN = "worn"
    DAMAGED = "damaged"
    REPAIR = "in repair"
    MISSING = "missing"

    @property
    def can_go(self) -> bool:
        """Whether it can be brought."""
        return self in (Condition.GOOD, Condition.WORN)


@dataclass(frozen=True, slots=True, kw_only=True)
class Unit:
    """``globe_h``: hours on its globe; ``owner``: who lends it, empty or ours of our own; ``where``: where it is now;
    ``value``: to insure it for, 0: as its model. What it gives against its model comes from its readings, not from
    here.
    """

    slug: str
    name: str
    head_slug: str
    serial: str = ""
    owner: str = ""
    globe_h: float = 0.0
    faults: tuple[str, ...] = ()
    note: str = ""
    tags: tuple[str, ...] = ()
    is_retired: bool = False
    condition: Condition = Condition.GOOD
    where: str = ""
    value: float = 0.0

    def __post_init__(self) -> None:
        require_slug(self.slug)
        require_word("name", self.name)
        if len(self.name) > LONGEST_NAME:
            raise BadValue("name", f"{len(self.name)} letters long", f"up to {LONGEST_NAME} letters")
        require_not_negative("globe_h", self.globe_h, unit="h")
        require_showable("where", self.where, longest=LONGEST_NAME)
        require_between("value", self.value, low=0.0, high=DEAREST, unit="")

    @property
    def is_ours(self) -> bool:
        """Whether nobody else owns it."""
        return self.owner.strip().lower() in ("", "ours")
