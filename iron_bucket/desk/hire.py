"""Hire prices: what the desk offers, kept for a while; and taken onto the bench, from the desk or from a price list."""

import threading
import time
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, date, datetime

from sqlalchemy.orm import Session

from iron_bucket.core.bench.item import Item
from iron_bucket.desk.bench.changes import record_bench
from iron_bucket.desk.bench.edit import change_piece, get_piece
from iron_bucket.desk.bench.shelf import shelf_in
from iron_bucket.desk.history import Touch
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.devices.hire_desk import HireDesk, HireDeskTrouble, Offer
from iron_bucket.formats.price_list import Price, read_price_list

#: How long an answer is good, and how long a desk that did not answer is left in peace.
GOOD_FOR_S, TROUBLE_FOR_S = 60.0, 10.0
MOST_KEPT = 64


@dataclass(frozen=True, slots=True, kw_only=True)
class HireState:
    """Offers by item, read at some time; where the desk does not answer the last good ones (``is_old``), or none.

    ``trouble`` empty: all is well.
    """

    day: date
    offers: dict[str, Offer]
    read_at: datetime | None
    trouble: str = ""

    @property
    def is_old(self) -> bool:
        """Whether these are offers from before the desk fell silent."""
        return bool(self.trouble) and self.read_at is not None


class HireAnswers:
    """One desk's answers, kept by day in this process. None for a desk: no hire desk is set."""

    def __init__(self, hire_desk: HireDesk | None) -> None:
        self._desk = hire_desk
        self._kept: dict[date, tuple[float, HireState]] = {}
        self._lock = threading.Lock()

    @property
    def is_set(self) -> bool:
        """Whether there is a desk to ask."""
        return self._desk is not None

    def on(self, day: date) -> HireState:
        """What is offered on a day; never waits longer than the desk's patience, and not at all
        soon after it failed."""
        if self._desk is None:
            return HireState(day=day, offers={}, read_at=None, trouble="no hire desk is set")
        with self._lock:
            until, state = self._kept.get(day, (0.0, None))
        if state is not None and time.monotonic() < until:
            return state
        good_for = GOOD_FOR_S
        try:
            offers = {offer.item: offer for offer in self._desk.offers(day)}
            state = HireState(day=day, offers=offers, read_at=datetime.now(UTC))
        except HireDeskTrouble as trouble:
            good_for = TROUBLE_FOR_S
            before = state or HireState(day=day, offers={}, read_at=None)
            state = HireState(day=day, offers=before.offers, read_at=before.read_at, trouble=str(trouble))
        with self._lock:
            if len(self._kept) >= MOST_KEPT:
                self._kept.clear()
            self._kept[day] = (time.monotonic() + good_for, state)
        return state


@dataclass(frozen=True, slots=True, kw_only=True)
class PriceRow:
    """A piece and what is asked for it; ``offer`` None: the desk does not have it."""

    item: Item
    offer: Offer | None

    @property
    def differs(self) -> bool:
        """Whether the bench computes with another day price."""
        return self.offer is not None and self.offer.day_price != self.item.day_price


@one_transaction
def price_rows(session: Session, state: HireState) -> tuple[PriceRow, ...]:
    """Every piece that the desk offers, by name."""
    items = [item for item in shelf_in(session).stated.items() if item.slug in state.offers and not item.is_retired]
    return tuple(
        PriceRow(item=item, offer=state.offers[item.slug])
        for item in sorted(items, key=lambda each: (each.name.lower(), each.slug))
    )


def _priced(session: Session, offers: Iterable[tuple[str, dict[str, float | None]]]) -> list[Touch]:
    """What an offer says nothing of (None) stays as it is."""
    touches = []
    for slug, offer in offers:
        row = get_piece(session, slug)
        item = row.item | {name: value for name, value in offer.items() if value is not None}
        if item != row.item:
            touches.append(change_piece(session, row, item))
    return touches


def _told(touches: list[Touch]) -> str:
    return "one price" if len(touches) == 1 else f"{len(touches)} prices"


@one_transaction
def take_prices(session: Session, person_id: int, state: HireState) -> int:
    """The desk's day prices for every piece that it offers, in one change; gives how many were another."""
    slugs = {item.slug for item in shelf_in(session).stated.items()}
    touches = _priced(
        session,
        [
            (
                slug,
                {
                    "day_price": offer.day_price,
                    "week_price": offer.week_price,
                    "hire_stock": offer.stock,
                    "lead_days": offer.lead_days or None,
                },
            )
            for slug, offer in sorted(state.offers.items())
            if slug in slugs
        ],
    )
    if touches:
        record_bench(session, person_id, str(touches[0].key), f"took {_told(touches)} from the hire desk", touches)
    return len(touches)


def _offered(price: Price) -> dict[str, float | None]:
    least = None if price.least_days == 1 else price.least_days
    return {
        "day_price": price.day_price,
        "week_price": price.week_price,
        "hire_stock": price.hire_stock,
        "lead_days": price.lead_days or None,
        "least_days": least,
    }


@dataclass(frozen=True, slots=True, kw_only=True)
class PricesTaken:
    """How many matched, how many prices were another, and the rows that name nothing here."""

    matched: int
    changed: int
    unknown: tuple[Price, ...]


@one_transaction
def take_price_list(session: Session, person_id: int, data: bytes) -> PricesTaken:
    """Day prices from a price list, by slug or by name, in one change. Raises: FormatError; nothing is taken then."""
    prices = read_price_list(data)
    items = [item for item in shelf_in(session).stated.items() if not item.is_retired]
    by_word = {item.name.lower(): item.slug for item in items} | {item.slug: item.slug for item in items}
    found = [(by_word[price.item.lower()], _offered(price)) for price in prices if price.item.lower() in by_word]
    touches = _priced(session, found)
    if touches:
        record_bench(session, person_id, str(touches[0].key), f"took {_told(touches)} from a price list", touches)
    unknown = tuple(price for price in prices if price.item.lower() not in by_word)
    return PricesTaken(matched=len(found), changed=len(touches), unknown=unknown)
