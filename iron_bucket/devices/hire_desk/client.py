"""A hire desk over HTTP and JSON, asked with a short patience."""

import json
import urllib.error
import urllib.request
from dataclasses import dataclass
from datetime import date
from typing import Any

from iron_bucket.core.errors import BadValue
from iron_bucket.devices.hire_desk.protocol import HireDeskTrouble, Offer

PATIENCE_S = 1.5
LONGEST_ANSWER_BYTES = 4_000_000


@dataclass(frozen=True, slots=True, kw_only=True)
class HttpHireDesk:
    """``address`` such as http://127.0.0.1:8010, without the path."""

    address: str
    patience_s: float = PATIENCE_S

    def offers(self, day: date) -> tuple[Offer, ...]:
        """Everything for hire. Raises: HireDeskTrouble."""
        answer = self._asked(f"/v1/offers?date={day.isoformat()}")
        try:
            return tuple(_offer(each) for each in answer["offers"])
        except (KeyError, TypeError, ValueError) as bad:
            sentence = str(bad) if isinstance(bad, BadValue) else "it is not what the protocol says"
            raise HireDeskTrouble(f"the hire desk's answer cannot be read: {sentence}") from bad

    def _asked(self, path: str) -> Any:
        try:
            with urllib.request.urlopen(self.address.rstrip("/") + path, timeout=self.patience_s) as answer:
                data = answer.read(LONGEST_ANSWER_BYTES + 1)
        except urllib.error.HTTPError as refused:
            with refused:
                raise HireDeskTrouble(f"the hire desk refused with status {refused.code}") from refused
        except (OSError, ValueError) as gone:
            raise HireDeskTrouble("the hire desk is not answering") from gone
        if len(data) > LONGEST_ANSWER_BYTES:
            raise HireDeskTrouble("the hire desk's answer is longer than 4 MB")
        try:
            return json.loads(data)
        except ValueError as bad:
            raise HireDeskTrouble("the hire desk's answer cannot be read: it is no JSON") from bad


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
