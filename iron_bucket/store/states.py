"""Documents that are kept with all their states, so that undo and redo have no end. Places and set-ups are kept so."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any, TypeVar

from sqlalchemy import ForeignKey, Index, String, delete, select
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import TABLE_ARGS, Base


class _StateColumns:
    """How a document stood, and what was done to bring it there."""

    id: Mapped[int] = mapped_column(primary_key=True)
    number: Mapped[int]
    document: Mapped[dict[str, Any]]
    text: Mapped[str] = mapped_column(String(300))
    person_id: Mapped[int] = mapped_column(ForeignKey("people.id"))
    made_at: Mapped[datetime]


class PlaceStateRow(_StateColumns, Base):
    """A state of a place."""

    __tablename__ = "place_states"
    __table_args__ = (Index("uq_place_states_owner_id", "owner_id", "number", unique=True), TABLE_ARGS)

    owner_id: Mapped[int] = mapped_column(ForeignKey("places.id", ondelete="CASCADE"))


class SetupStateRow(_StateColumns, Base):
    """A state of a set-up."""

    __tablename__ = "setup_states"
    __table_args__ = (Index("uq_setup_states_owner_id", "owner_id", "number", unique=True), TABLE_ARGS)

    owner_id: Mapped[int] = mapped_column(ForeignKey("setups.id", ondelete="CASCADE"))


State = TypeVar("State", PlaceStateRow, SetupStateRow)


class StatesOwner:
    """A row whose document is one of its states: ``at_state`` says which."""

    id: Mapped[int] = mapped_column(primary_key=True)
    at_state: Mapped[int] = mapped_column(default=0)


def standing(session: Session, kind: type[State], owners: Sequence[StatesOwner]) -> dict[int, State]:
    """The state that each owner stands at, in one query."""
    if not owners:
        return {}
    pairs = {owner.id: owner.at_state for owner in owners}
    query = select(kind).where(kind.owner_id.in_(pairs), kind.number.in_(set(pairs.values())))
    return {row.owner_id: row for row in session.scalars(query) if pairs[row.owner_id] == row.number}


def around(session: Session, kind: type[State], owner: StatesOwner) -> tuple[State, State | None]:
    """The state an owner stands at, and the one that redo would bring."""
    query = select(kind).where(kind.owner_id == owner.id, kind.number.in_((owner.at_state, owner.at_state + 1)))
    found = {row.number: row for row in session.scalars(query)}
    return found[owner.at_state], found.get(owner.at_state + 1)


def add_state(
    session: Session,
    kind: type[State],
    owner: StatesOwner,
    document: dict[str, Any],
    text: str,
    person_id: int,
    made_at: datetime,
    *,
    has_following: bool = True,
) -> State:
    """A new state after the one it stands at; what had been undone is gone then.

    ``has_following`` False: nothing was.
    """
    if has_following:
        session.execute(delete(kind).where(kind.owner_id == owner.id, kind.number > owner.at_state))
    owner.at_state += 1
    state = kind(
        owner_id=owner.id,
        number=owner.at_state,
        document=document,
        text=text[:300],
        person_id=person_id,
        made_at=made_at,
    )
    session.add(state)
    return state
