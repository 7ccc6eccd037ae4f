"""Crews with their own gear and places, who belongs to them and to jobs, and in which role."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

from sqlalchemy.orm import Session

from iron_bucket.core.checks import require_word
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.roles import Role
from iron_bucket.desk.errors import NotAllowed, NotFound
from iron_bucket.desk.people.person import Person, person_from
from iron_bucket.desk.trail import tell
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.store.crews import CrewPersonRow, CrewRow, crew_people, crew_person, crews_of, enter_crew
from iron_bucket.store.jobs import JobPersonRow, JobRow, job_people, job_person, role_on_job
from iron_bucket.store.people import PersonRow, person_by_sign_in
from iron_bucket.store.places import place_crew

LONGEST_NAME = 80


@dataclass(frozen=True, slots=True, kw_only=True)
class Member:
    """Somebody, and what they are here."""

    person: Person
    role: Role


@dataclass(frozen=True, slots=True, kw_only=True)
class MyCrew:
    """A crew of somebody's, and what they are there."""

    crew_id: int
    name: str
    role: Role


class _Group(Protocol):
    """What people belong to: a crew, or a job."""

    @property
    def name(self) -> str: ...

    def people(self, session: Session) -> list[tuple[PersonRow, str]]: ...

    def find(self, session: Session, person_id: int) -> CrewPersonRow | JobPersonRow | None: ...

    def add(self, session: Session, person_id: int, role: Role) -> None: ...


@dataclass(frozen=True, slots=True)
class _Crew:
    number: int
    name: str

    def people(self, session: Session) -> list[tuple[PersonRow, str]]:
        return crew_people(session, self.number)

    def find(self, session: Session, person_id: int) -> CrewPersonRow | None:
        return crew_person(session, self.number, person_id)

    def add(self, session: Session, person_id: int, role: Role) -> None:
        session.add(CrewPersonRow(crew_id=self.number, person_id=person_id, role=role))


@dataclass(frozen=True, slots=True)
class _Job:
    number: int
    name: str

    def people(self, session: Session) -> list[tuple[PersonRow, str]]:
        return job_people(session, self.number)

    def find(self, session: Session, person_id: int) -> JobPersonRow | None:
        return job_person(session, self.number, person_id)

    def add(self, session: Session, person_id: int, role: Role) -> None:
        session.add(JobPersonRow(job_id=self.number, person_id=person_id, role=role))


# ---- what somebody is where; the guard of every page asks this


@dataclass(frozen=True, slots=True, kw_only=True)
class OnJob:
    """What somebody is on a job, and whose gear and places it uses."""

    role: Role
    crew_id: int


@one_transaction
def place_on_job(session: Session, person_id: int, job_id: int) -> OnJob | None:
    """None for who does not belong to it: one query."""
    found = role_on_job(session, job_id, person_id)
    return OnJob(role=Role(found[0]), crew_id=found[1]) if found else None


@one_transaction
def my_crews(session: Session, person_id: int) -> tuple[MyCrew, ...]:
    """By name: one query."""
    return tuple(MyCrew(crew_id=row.id, name=row.name, role=Role(role)) for row, role in crews_of(session, person_id))


@one_transaction
def work_for(session: Session, crew_id: int) -> None:
    """Whose gear and places are seen from now on."""
    enter_crew(session, crew_id)


@one_transaction
def crew_of_place(session: Session, place_id: int) -> int | None:
    """Whose place it is, None where there is none."""
    return place_crew(session, place_id)


# ---- who belongs where


def _crew(session: Session, crew_id: int) -> _Crew:
    row = session.get(CrewRow, crew_id, with_for_update=True)
    if row is None:
        raise NotFound("there is no such crew")
    return _Crew(crew_id, row.name)


def _job(session: Session, job_id: int) -> _Job:
    row = session.get(JobRow, job_id, with_for_update=True)
    if row is None:
        raise NotFound("there is no such job on your list")
    return _Job(job_id, row.name)


def _members(session: Session, group: _Group) -> tuple[Member, ...]:
    found = (Member(person=person_from(row), role=Role(role)) for row, role in group.people(session))
    return tuple(sorted(found, key=lambda each: list(Role).index(each.role)))


@one_transaction
def people_of_crew(session: Session, crew_id: int) -> tuple[Member, ...]:
    """The gaffers first."""
    return _members(session, _Crew(crew_id, ""))


@one_transaction
def people_of_job(session: Session, job_id: int) -> tuple[Member, ...]:
    """The gaffers first."""
    return _members(session, _Job(job_id, ""))


def _put(session: Session, by: int, group: _Group, sign_in: str, role: Role) -> None:
    row = person_by_sign_in(session, sign_in.strip())
    if row is None or row.is_disabled:
        raise BadValue("sign_in", repr(sign_in.strip()), "the sign-in of somebody whom an administrator has added")
    there = group.find(session, row.id)
    if there is not None and there.role == role:
        return
    if there is None:
        group.add(session, row.id, role)
    else:
        _require_other_gaffer(session, group, row.id, role)
        there.role = role
    session.flush()
    tell(session, by, "crew", f"{row.name} is {role.value} of {group.name}")


def _require_other_gaffer(session: Session, group: _Group, person_id: int, role: Role | None) -> None:
    """Nobody is left who could settle anything otherwise."""
    gaffers = {row.id for row, each in group.people(session) if each == Role.GAFFER}
    if role is not Role.GAFFER and gaffers == {person_id}:
        raise NotAllowed(f"{group.name} would be left without a gaffer; make somebody else gaffer first")


def _take_out(session: Session, by: int, group: _Group, person_id: int) -> None:
    there = group.find(session, person_id)
    if there is None:
        raise NotFound("they do not belong here any more")
    _require_other_gaffer(session, group, person_id, None)
    name = session.get_one(PersonRow, person_id).name
    session.delete(there)
    tell(session, by, "crew", f"left {group.name}" if by == person_id else f"took {name} out of {group.name}")


@one_transaction
def put_in_crew(session: Session, by: int, crew_id: int, sign_in: str, role: Role) -> None:
    """Somebody by their sign-in, new or in another role. Raises: NotFound, BadValue; NotAllowed for the last gaffer."""
    _put(session, by, _crew(session, crew_id), sign_in, role)


@one_transaction
def put_on_job(session: Session, by: int, job_id: int, sign_in: str, role: Role) -> None:
    """The same for a job."""
    _put(session, by, _job(session, job_id), sign_in, role)


@one_transaction
def take_out_of_crew(session: Session, by: int, crew_id: int, person_id: int) -> None:
    """Somebody, or oneself, who leaves. Jobs stay. Raises: NotFound; NotAllowed for the last gaffer."""
    _take_out(session, by, _crew(session, crew_id), person_id)


@one_transaction
def take_off_job(session: Session, by: int, job_id: int, person_id: int) -> None:
    """The same for a job."""
    _take_out(session, by, _job(session, job_id), person_id)


@one_transaction
def bring_crew(session: Session, by: int, job_id: int) -> int:
    """Everybody of the crew that a job belongs to, each in the role there; who is on the job stays what they are. Gives
    how many came.
    """
    return bring_whole_crew(session, by, session.get_one(JobRow, job_id))


def bring_whole_crew(session: Session, by: int, row: JobRow) -> int:
    """The same within an open transaction."""
    here = {person.id for person, _ in job_people(session, row.id)}
    come = [(person, role) for person, role in crew_people(session, row.crew_id) if person.id not in here]
    session.add_all(JobPersonRow(job_id=row.id, person_id=person.id, role=role) for person, role in come)
    if come:
        tell(session, by, "crew", f"brought the whole crew to {row.name}: {', '.join(each.name for each, _ in come)}")
    return len(come)


@one_transaction
def hand_over(session: Session, by: int, job_ids: Sequence[int], crew_id: int | None, sign_in: str) -> None:
    """Make somebody else gaffer of jobs, or of a crew, and step back to best boy. Raises: BadValue, NotFound."""
    groups: list[_Group] = [_job(session, number) for number in job_ids]
    groups += [_crew(session, crew_id)] if crew_id is not None else []
    for group in groups:
        _put(session, by, group, sign_in, Role.GAFFER)
        mine = group.find(session, by)
        if mine is not None:
            _require_other_gaffer(session, group, by, Role.BEST_BOY)
            mine.role = Role.BEST_BOY


@one_transaction
def make_crew(session: Session, by: int, name: str) -> int:
    """A new crew, with an empty bench, whose gaffer is who made it; gives its number. Raises: BadValue."""
    require_word("name", name.strip(), longest=LONGEST_NAME)
    row = CrewRow(name=name.strip(), made_at=now())
    session.add(row)
    session.flush()
    session.add(CrewPersonRow(crew_id=row.id, person_id=by, role=Role.GAFFER))
    tell(session, by, "crew", f"made the crew {row.name}")
    return row.id


@one_transaction
def rename_crew(session: Session, by: int, crew_id: int, name: str) -> None:
    """Raises: NotFound, BadValue."""
    require_word("name", name.strip(), longest=LONGEST_NAME)
    _crew(session, crew_id)
    row = session.get_one(CrewRow, crew_id)
    if row.name != name.strip():
        tell(session, by, "crew", f"renamed the crew {row.name} to {name.strip()}")
        row.name = name.strip()
