"""Jobs and their crews."""

from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKey, String, select
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import Base
from iron_bucket.store.people import PersonRow


class JobRow(Base):
    """A job and its house rules. ``version`` counts every change; a form that saw an older one is told. ``uid``: its
    own in every database that it is taken to.
    """

    __tablename__ = "jobs"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(120))
    uid: Mapped[str] = mapped_column(String(36), index=True)
    places: Mapped[str] = mapped_column(String(300), default="")
    rules: Mapped[dict[str, Any]]
    version: Mapped[int] = mapped_column(default=1)
    is_archived: Mapped[bool] = mapped_column(default=False)
    created_at: Mapped[datetime]
    changed_at: Mapped[datetime]


class CrewRow(Base):
    """Who may see a job."""

    __tablename__ = "crews"

    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id", ondelete="CASCADE"), primary_key=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("people.id", ondelete="CASCADE"), primary_key=True, index=True)


def job_for(session: Session, person_id: int, job_id: int, *, locked: bool = False) -> JobRow | None:
    """A job of this person's;

    None where it is somebody else's or none. ``locked``: nobody else changes it meanwhile.
    """
    query = (
        select(JobRow)
        .join(CrewRow, CrewRow.job_id == JobRow.id)
        .where(JobRow.id == job_id, CrewRow.person_id == person_id)
    )
    return session.scalars(query.with_for_update(of=JobRow) if locked else query).one_or_none()


def jobs_of(session: Session, person_id: int) -> list[JobRow]:
    """This person's jobs, latest change first."""
    query = select(JobRow).join(CrewRow, CrewRow.job_id == JobRow.id).where(CrewRow.person_id == person_id)
    return list(session.scalars(query.order_by(JobRow.is_archived, JobRow.changed_at.desc(), JobRow.id)))


def last_job_of(session: Session, person_id: int) -> JobRow | None:
    """The one that this person changed last."""
    query = select(JobRow).join(CrewRow, CrewRow.job_id == JobRow.id).where(CrewRow.person_id == person_id)
    return session.scalars(query.order_by(JobRow.changed_at.desc(), JobRow.id.desc()).limit(1)).one_or_none()


def job_by_uid(session: Session, person_id: int, uid: str) -> JobRow | None:
    """The job of this person's that bears a uid."""
    query = select(JobRow).join(CrewRow, CrewRow.job_id == JobRow.id)
    found = session.scalars(query.where(CrewRow.person_id == person_id, JobRow.uid == uid).order_by(JobRow.id))
    return found.first()


def crew_names(session: Session, job_ids: list[int]) -> dict[int, list[str]]:
    """Names of everybody on each job, in one query."""
    query = (
        select(CrewRow.job_id, PersonRow.name)
        .join(PersonRow, PersonRow.id == CrewRow.person_id)
        .where(CrewRow.job_id.in_(job_ids))
    )
    names: dict[int, list[str]] = {job_id: [] for job_id in job_ids}
    for job_id, name in session.execute(query.order_by(PersonRow.name)):
        names[job_id].append(name)
    return names
