"""What every piece of gear has: an identifier, a name, a weight, a price."""

import re
from dataclasses import dataclass

from iron_bucket.core.checks import require_not_negative, require_positive, require_word
from iron_bucket.core.errors import BadValue

_SLUG = re.compile(r"[a-z0-9]+(?:[-.][a-z0-9]+)*")
LONGEST_NAME = 120
LONGEST_NOTE = 2000
MOST_TAGS, LONGEST_TAG = 12, 30


def require_slug(slug: str) -> None:
    """An identifier that can stand in an address and in a list of slugs."""
    if not _SLUG.fullmatch(slug) or len(slug) > LONGEST_NAME:
        raise BadValue("slug", repr(slug), "small letters, digits, dots and dashes, such as day-led-300")


@dataclass(frozen=True, slots=True, kw_only=True)
class Item:
    """One kind of thing. ``day_price`` None: not for hire; ``owned``: how many are ours; ``is_retired``: kept, but not picked."""

    slug: str
    name: str
    maker: str
    weight_kg: float
    day_price: float | None = None
    owned: int = 0
    tags: tuple[str, ...] = ()
    note: str = ""
    is_retired: bool = False

    def __post_init__(self) -> None:
        require_slug(self.slug)
        require_word("name", self.name)
        if len(self.name) > LONGEST_NAME:
            raise BadValue("name", f"{len(self.name)} letters long", f"up to {LONGEST_NAME} letters")
        require_positive("weight_kg", self.weight_kg, unit="kg")
        if self.day_price is not None:
            require_not_negative("day_price", self.day_price, unit="")
        if self.owned < 0:
            raise BadValue("owned", self.owned, "0 or more")
        if len(self.tags) > MOST_TAGS or any(
            not tag.strip() or len(tag) > LONGEST_TAG or ";" in tag for tag in self.tags
        ):
            raise BadValue("tags", "; ".join(self.tags)[:60], f"up to {MOST_TAGS} words of up to {LONGEST_TAG} letters")
        if len(self.note) > LONGEST_NOTE:
            raise BadValue("note", f"{len(self.note)} letters long", f"up to {LONGEST_NOTE} letters")

    @property
    def is_owned(self) -> bool:
        """Whether at least one is ours."""
        return self.owned > 0

    @property
    def price_to_pay(self) -> float:
        """A day's hire; nothing for what is ours."""
        return 0.0 if self.is_owned else self.day_price or 0.0
