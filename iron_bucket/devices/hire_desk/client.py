"""A hire desk over HTTP and JSON, asked with a short patience."""

from dataclasses import dataclass
from datetime import date
from typing import Any

from iron_bucket.devices.hire_desk.protocol import HireDeskTrouble, Offer
from iron_bucket.devices.json_http import PATIENCE_S, asked_rows


@dataclass(frozen=True, slots=True, kw_only=True)
class HttpHireDesk:
    """``address`` such as http://127.0.0.1:8010, without the path."""

    address: str
    patience_s: float = PATIENCE_S

    def offers(self, day: date) -> tuple[Offer, ...]:
        """Everything for hire. Raises: HireDeskTrouble."""
        url = f"{self.address.rstrip('/')}/v1/offers?date={day.isoformat()}"
        return asked_rows("hire desk", url, self.patience_s, "offers", _offer, HireDeskTrouble)


def _offer(entry: dict[str, Any]) -> Offer:
    return Offer(
        item=str(entry["item"]),
        name=str(entry["name"]),
        day_price=float(entry["day_price"]),
        week_price=float(entry["week_price"]),
        stock=int(entry["stock"]),
        free=int(entry["free"]),
        lead_days=int(entry["lead_days"]),
    )
