"""Crews that stand beyond one job: whose gear and places are whose, and who belongs to which crew."""

from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKey, String, event, select
from sqlalchemy.orm import Mapped, ORMExecuteState, Session, UOWTransaction, mapped_column, with_loader_criteria

from iron_bucket.store.base import Base
from iron_bucket.store.people import PersonRow

#: The crew that every installation begins with.
FIRST_CREW = 1
_CREW, _NO_CREW, _EVERY_CREW = "whose gear and places are seen", 0, -1


class CrewRow(Base):
    """A crew with its own bench and places."""

    __tablename__ = "standing_crews"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(80))
    made_at: Mapped[datetime]


class CrewPersonRow(Base):
    """Who belongs to a crew, in which role."""

    __tablename__ = "standing_crew_people"

    crew_id: Mapped[int] = mapped_column(ForeignKey("standing_crews.id", ondelete="CASCADE"), primary_key=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("people.id", ondelete="CASCADE"), primary_key=True, index=True)
    role: Mapped[str] = mapped_column(String(12))


class OwnedByCrew:
    """Rows that belong to one crew. A session sees those of the crew that it works for, and no others."""

    crew_id: Mapped[int] = mapped_column(ForeignKey("standing_crews.id"), index=True, server_default=str(FIRST_CREW))


def enter_crew(session: Session, crew_id: int) -> None:
    """From now on this session works for one crew: what it reads is that crew's, what it makes becomes it."""
    if session.info.get(_CREW) not in (None, crew_id):
        session.flush()
    session.info[_CREW] = crew_id


def enter_every_crew(session: Session) -> None:
    """For what looks after the whole installation."""
    session.info[_CREW] = _EVERY_CREW


def crew_of(session: Session) -> int:
    """The crew that a session works for; before it has one, none, which owns nothing."""
    return int(session.info.get(_CREW, _NO_CREW))


@event.listens_for(Session, "do_orm_execute")
def _see_only_ones_own(execution: ORMExecuteState) -> None:
    if execution.is_column_load or execution.is_relationship_load:
        return
    crew_id = crew_of(execution.session)
    if crew_id == _EVERY_CREW:
        return
    owned = with_loader_criteria(OwnedByCrew, lambda kind: kind.crew_id == crew_id, include_aliases=True)
    execution.statement = execution.statement.options(owned)


@event.listens_for(Session, "before_flush")
def _make_it_ones_own(session: Session, context: UOWTransaction, instances: Any) -> None:
    for row in session.new:
        if isinstance(row, OwnedByCrew) and getattr(row, "crew_id", None) is None:
            row.crew_id = crew_of(session)


def crews_of(session: Session, person_id: int) -> list[tuple[CrewRow, str]]:
    """Crews that somebody belongs to, by name, each with the role there."""
    query = select(CrewRow, CrewPersonRow.role).join(CrewPersonRow, CrewPersonRow.crew_id == CrewRow.id)
    found = session.execute(query.where(CrewPersonRow.person_id == person_id).order_by(CrewRow.name, CrewRow.id))
    return [(row, role) for row, role in found]


def crew_people(session: Session, crew_id: int) -> list[tuple[PersonRow, str]]:
    """Who belongs to a crew, by name, each with the role."""
    query = select(PersonRow, CrewPersonRow.role).join(CrewPersonRow, CrewPersonRow.person_id == PersonRow.id)
    found = session.execute(query.where(CrewPersonRow.crew_id == crew_id).order_by(PersonRow.name, PersonRow.id))
    return [(row, role) for row, role in found]


def crew_person(session: Session, crew_id: int, person_id: int) -> CrewPersonRow | None:
    """Somebody's place in a crew."""
    return session.get(CrewPersonRow, (crew_id, person_id))
