"""Jobs and their crews."""

from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKey, Select, String, select
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import Base
from iron_bucket.store.crews import FIRST_CREW, crew_of, enter_crew
from iron_bucket.store.people import PersonRow


class JobRow(Base):
    """A job and its house rules, of the crew whose gear and places it uses. ``version`` counts every change; a form
    that saw an older one is told. ``uid``: its own in every database that it is taken to.
    """

    __tablename__ = "jobs"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(120))
    uid: Mapped[str] = mapped_column(String(36), index=True)
    crew_id: Mapped[int] = mapped_column(ForeignKey("standing_crews.id"), index=True, server_default=str(FIRST_CREW))
    places: Mapped[str] = mapped_column(String(300), default="")
    rules: Mapped[dict[str, Any]]
    version: Mapped[int] = mapped_column(default=1)
    is_archived: Mapped[bool] = mapped_column(default=False)
    created_at: Mapped[datetime]
    changed_at: Mapped[datetime]


class JobPersonRow(Base):
    """Who works on a job, in which role."""

    __tablename__ = "crews"

    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id", ondelete="CASCADE"), primary_key=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("people.id", ondelete="CASCADE"), primary_key=True, index=True)
    role: Mapped[str] = mapped_column(String(12), server_default="gaffer")


def job_for(session: Session, person_id: int, job_id: int, *, locked: bool = False) -> JobRow | None:
    """A job of this person's, for whose crew the session works from then on; None where it is somebody else's or none.

    ``locked``: nobody else changes it meanwhile.
    """
    query = (
        select(JobRow)
        .join(JobPersonRow, JobPersonRow.job_id == JobRow.id)
        .where(JobRow.id == job_id, JobPersonRow.person_id == person_id)
    )
    row = session.scalars(query.with_for_update(of=JobRow) if locked else query).one_or_none()
    if row is not None:
        enter_crew(session, row.crew_id)
    return row


def _jobs_with(person_id: int) -> Select[JobRow]:
    works = (JobPersonRow.job_id == JobRow.id) & (JobPersonRow.person_id == person_id)
    return select(JobRow).join(JobPersonRow, works)


def jobs_of(session: Session, person_id: int) -> list[JobRow]:
    """This person's jobs, latest change first."""
    query = _jobs_with(person_id).order_by(JobRow.is_archived, JobRow.changed_at.desc(), JobRow.id)
    return list(session.scalars(query))


def last_job_of(session: Session, person_id: int) -> JobRow | None:
    """The one of the session's crew that this person changed last."""
    query = _jobs_with(person_id).where(JobRow.crew_id == crew_of(session))
    return session.scalars(query.order_by(JobRow.changed_at.desc(), JobRow.id.desc()).limit(1)).one_or_none()


def job_by_uid(session: Session, person_id: int, uid: str) -> JobRow | None:
    """The job of this person's that bears a uid."""
    return session.scalars(_jobs_with(person_id).where(JobRow.uid == uid).order_by(JobRow.id)).first()


def crew_names(session: Session, job_ids: list[int]) -> dict[int, list[str]]:
    """Names of everybody on each job, in one query."""
    query = (
        select(JobPersonRow.job_id, PersonRow.name)
        .join(PersonRow, PersonRow.id == JobPersonRow.person_id)
        .where(JobPersonRow.job_id.in_(job_ids))
    )
    names: dict[int, list[str]] = {job_id: [] for job_id in job_ids}
    for job_id, name in session.execute(query.order_by(PersonRow.name)):
        names[job_id].append(name)
    return names


def job_people(session: Session, job_id: int) -> list[tuple[PersonRow, str]]:
    """Who works on a job, by name, each with the role."""
    query = select(PersonRow, JobPersonRow.role).join(JobPersonRow, JobPersonRow.person_id == PersonRow.id)
    found = session.execute(query.where(JobPersonRow.job_id == job_id).order_by(PersonRow.name, PersonRow.id))
    return [(row, role) for row, role in found]


def job_person(session: Session, job_id: int, person_id: int) -> JobPersonRow | None:
    """Somebody's place on a job."""
    return session.get(JobPersonRow, (job_id, person_id))


def role_on_job(session: Session, job_id: int, person_id: int) -> tuple[str, int] | None:
    """What somebody is on a job, and the crew that the job belongs to."""
    query = select(JobPersonRow.role, JobRow.crew_id).join(JobRow, JobRow.id == JobPersonRow.job_id)
    found = session.execute(query.where(JobPersonRow.job_id == job_id, JobPersonRow.person_id == person_id))
    row = found.one_or_none()
    return (row[0], row[1]) if row else None
