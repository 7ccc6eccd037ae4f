"""What every piece of gear has: an identifier, a name, a weight, a price."""

import re
from dataclasses import dataclass

from iron_bucket.core.checks import require_between, require_positive, require_showable, require_word
from iron_bucket.core.errors import BadValue

_SLUG = re.compile(r"[a-z0-9]+(?:[-.][a-z0-9]+)*")
LONGEST_NAME = 120
LONGEST_NOTE = 2000
#: Beyond them a sum on a page stops being a figure that anybody reads.
HEAVIEST_KG, DEAREST, MOST_OWNED = 20_000.0, 1e7, 9_999
MOST_TAGS, LONGEST_TAG = 12, 30
LONGEST_NOTICE_DAYS, LONGEST_SIDE_M = 60, 20.0


def require_slug(slug: str) -> None:
    """An identifier that can stand in an address and in a list of slugs."""
    if not _SLUG.fullmatch(slug) or len(slug) > LONGEST_NAME:
        raise BadValue("slug", repr(slug), "small letters, digits, dots and dashes, such as day-led-300")


@dataclass(frozen=True, slots=True, kw_only=True)
class Item:
    """One kind of thing. ``day_price`` None: not for hire; ``week_price`` None: seven times that.

    ``owned``: how many are ours; ``is_retired``: kept, but not picked. Of hire: ``hire_stock`` None where nobody knows
    how many there are, ``lead_days`` of notice, ``least_days`` that are charged. ``value``: of one, to insure;
    ``made_in``: for a carnet. ``packed_l_m`` to ``packed_h_m``: as it travels, 0 where nobody measured it.
    """

    slug: str
    name: str
    maker: str
    weight_kg: float
    day_price: float | None = None
    owned: int = 0
    tags: tuple[str, ...] = ()
    note: str = ""
    is_retired: bool = False
    week_price: float | None = None
    hire_stock: int | None = None
    lead_days: int = 0
    least_days: int = 1
    value: float = 0.0
    made_in: str = ""
    packed_l_m: float = 0.0
    packed_w_m: float = 0.0
    packed_h_m: float = 0.0

    def __post_init__(self) -> None:
        require_slug(self.slug)
        require_word("name", self.name, longest=LONGEST_NAME)
        require_showable("maker", self.maker, longest=LONGEST_NAME)
        require_positive("weight_kg", self.weight_kg, unit="kg")
        require_between("weight_kg", self.weight_kg, low=0.0, high=HEAVIEST_KG, unit="kg")
        for price in ("day_price", "week_price", "value"):
            if getattr(self, price) is not None:
                require_between(price, getattr(self, price), low=0.0, high=DEAREST, unit="")
        if self.hire_stock is not None:
            require_between("hire_stock", self.hire_stock, low=0, high=MOST_OWNED, unit="pieces")
        require_between("lead_days", self.lead_days, low=0, high=LONGEST_NOTICE_DAYS, unit="days")
        require_between("least_days", self.least_days, low=1, high=LONGEST_NOTICE_DAYS, unit="days")
        require_showable("made_in", self.made_in, longest=LONGEST_NAME)
        for side in ("packed_l_m", "packed_w_m", "packed_h_m"):
            require_between(side, getattr(self, side), low=0.0, high=LONGEST_SIDE_M, unit="m")
        require_between("owned", self.owned, low=0, high=MOST_OWNED, unit="pieces")
        if len(self.tags) > MOST_TAGS or any(
            not tag.strip() or len(tag) > LONGEST_TAG or ";" in tag for tag in self.tags
        ):
            raise BadValue("tags", "; ".join(self.tags), f"up to {MOST_TAGS} words of up to {LONGEST_TAG} letters")
        for tag in self.tags:
            require_showable("tags", tag, longest=LONGEST_TAG)
        require_showable("note", self.note, longest=LONGEST_NOTE, may_break=True)

    @property
    def total_kg(self) -> float:
        """All that has to be carried with one of them."""
        return self.weight_kg

    @property
    def is_owned(self) -> bool:
        """Whether at least one is ours."""
        return self.owned > 0

    @property
    def price_to_pay(self) -> float:
        """A day's hire; nothing for what is ours."""
        return 0.0 if self.is_owned else self.day_price or 0.0
