"""A simulated hire house: the same answers for the same day, whoever asks."""

import json
import zlib
from collections.abc import Callable, Sequence
from dataclasses import asdict, dataclass
from datetime import date
from pathlib import Path
from urllib.parse import parse_qs
from wsgiref.types import WSGIEnvironment

from iron_bucket.devices.hire_desk.protocol import Offer
from iron_bucket.devices.json_http import Application, answering

#: The trade's week: seven days for the price of so many. Typical.
DAYS_PAID_A_WEEK = 4.0
#: The stand-in's house asks a little more or less than the bench knows.
_MARKUPS = (0.9, 1.0, 1.0, 1.05, 1.1, 1.2)
MOST_IN_STOCK, MOST_LEAD_DAYS = 6, 3
_DOCUMENT = Path(__file__).parent / "openapi.json"


@dataclass(frozen=True, slots=True, kw_only=True)
class Stocked:
    """One thing that the house has."""

    item: str
    name: str
    day_price: float


@dataclass(frozen=True, slots=True, kw_only=True)
class StandInHouse:
    """A house that stocks some things. It is asked directly in tests, and over HTTP by everybody else."""

    stocked: Sequence[Stocked]

    def offers(self, day: date) -> tuple[Offer, ...]:
        """Prices are the same every day; how many are out depends on the day."""
        return tuple(self._offer(each, day) for each in self.stocked)

    def _offer(self, each: Stocked, day: date) -> Offer:
        lot = zlib.crc32(each.item.encode())
        stock = 1 + lot % MOST_IN_STOCK
        out = zlib.crc32(f"{each.item} {day.isoformat()}".encode()) % (stock + 1)
        day_price = round(each.day_price * _MARKUPS[lot // 7 % len(_MARKUPS)], 1)
        return Offer(
            item=each.item,
            name=each.name,
            day_price=day_price,
            week_price=round(day_price * DAYS_PAID_A_WEEK, 1),
            stock=stock,
            free=stock - out,
            lead_days=lot // 11 % (MOST_LEAD_DAYS + 1),
        )


def http_house(house: StandInHouse, today: Callable[[], date]) -> Application:
    """The house as a WSGI application that speaks the protocol."""
    return answering(lambda environ: _answered(house, today, environ))


def _answered(house: StandInHouse, today: Callable[[], date], environ: WSGIEnvironment) -> tuple[str, object]:
    if environ["PATH_INFO"] == "/v1/openapi.json":
        return "200 OK", json.loads(_DOCUMENT.read_text(encoding="utf-8"))
    if environ["PATH_INFO"] != "/v1/offers":
        return "404 Not Found", {"error": "accepted: /v1/offers and /v1/openapi.json"}
    wanted = parse_qs(environ.get("QUERY_STRING", "")).get("date", [today().isoformat()])[0]
    try:
        day = date.fromisoformat(wanted)
    except ValueError:
        return "400 Bad Request", {"error": f"date is {wanted[:20]!r}; accepted: a day such as 2026-10-12"}
    return "200 OK", {"date": day.isoformat(), "offers": [asdict(offer) for offer in house.offers(day)]}
