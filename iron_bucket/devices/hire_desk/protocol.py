"""What the application wants of a hire desk."""

from dataclasses import dataclass
from datetime import date
from typing import Protocol

from iron_bucket.core.checks import require_not_negative, require_word
from iron_bucket.devices.json_http import DeviceTrouble


class HireDeskTrouble(DeviceTrouble):
    """The desk does not answer, or answers what cannot be read; the text says which."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Offer:
    """One thing for hire. ``free``: how many of ``stock`` are there on the day asked for;

    ``lead_days``: notice that the house wants.
    """

    item: str
    name: str
    day_price: float
    week_price: float
    stock: int
    free: int
    lead_days: int

    def __post_init__(self) -> None:
        require_word("item", self.item)
        for field in ("day_price", "week_price", "stock", "free", "lead_days"):
            require_not_negative(field, getattr(self, field), unit="")


class HireDesk(Protocol):
    """A desk that can be asked."""

    def offers(self, day: date) -> tuple[Offer, ...]:
        """Everything for hire, with what is free on that day. Raises: HireDeskTrouble."""
        ...
