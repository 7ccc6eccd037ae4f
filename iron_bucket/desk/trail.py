"""What was done with people, crews and links, told one after the other."""

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy.orm import Session

from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.store.events import EventRow, last_events

PAGE = 100


def tell(session: Session, person_id: int | None, kind: str, text: str, address: str = "") -> None:
    """One more, within an open transaction. Never a secret."""
    session.add(EventRow(at=now(), person_id=person_id, kind=kind, text=text[:300], address=address[:45]))


@dataclass(frozen=True, slots=True, kw_only=True)
class Told:
    """``who`` is empty where nobody was signed in, or they are gone."""

    number: int
    at: datetime
    who: str
    kind: str
    text: str
    address: str


@one_transaction
def read_trail(session: Session, before: int | None = None) -> tuple[Told, ...]:
    """Newest first, a page at a time."""
    return tuple(
        Told(number=row.id, at=row.at, who=name or "", kind=row.kind, text=row.text, address=row.address)
        for row, name in last_events(session, before=before, most=PAGE)
    )
