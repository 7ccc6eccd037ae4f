"""This very lamp: one of those that a model names, with its own history."""

from dataclasses import dataclass

from iron_bucket.core.bench.item import LONGEST_NAME, require_slug
from iron_bucket.core.checks import require_not_negative, require_word
from iron_bucket.core.errors import BadValue


@dataclass(frozen=True, slots=True, kw_only=True)
class Unit:
    """``globe_h``: hours on its globe. What it gives against its model comes from its readings, not from here."""

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

    def __post_init__(self) -> None:
        require_slug(self.slug)
        require_word("name", self.name)
        if len(self.name) > LONGEST_NAME:
            raise BadValue("name", f"{len(self.name)} letters long", f"up to {LONGEST_NAME} letters")
        require_not_negative("globe_h", self.globe_h, unit="h")
