"""Set-ups of jobs, the looks they begin with, and the links by which they are shown to others."""

from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKey, String, func, or_, select, update
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import Base
from iron_bucket.store.bucket import BucketPlanRow
from iron_bucket.store.crews import enter_crew
from iron_bucket.store.documents import JobDocuments
from iron_bucket.store.jobs import JobPersonRow, JobRow
from iron_bucket.store.places import PlaceRow, PlaceStamp
from iron_bucket.store.power import PowerRow


class SetupRow(Base):
    """``after_id``: the pass that this one varies. ``rank`` orders the set-ups of a job."""

    __tablename__ = "setups"

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id", ondelete="CASCADE"), index=True)
    place_id: Mapped[int] = mapped_column(ForeignKey("places.id"), index=True)
    after_id: Mapped[int | None] = mapped_column(ForeignKey("setups.id", ondelete="SET NULL"))
    rank: Mapped[int] = mapped_column(default=0)
    document: Mapped[dict[str, Any]]
    version: Mapped[int] = mapped_column(default=1)
    is_archived: Mapped[bool] = mapped_column(default=False)
    created_at: Mapped[datetime]
    changed_at: Mapped[datetime]


class LookRow(Base):
    """What the camera of a job is set to before any set-up says otherwise."""

    __tablename__ = "looks"

    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id", ondelete="CASCADE"), primary_key=True)
    document: Mapped[dict[str, Any]]
    version: Mapped[int] = mapped_column(default=1)
    changed_at: Mapped[datetime]


class ShareRow(Base):
    """A link that shows one set-up to whoever has it, until it is taken back."""

    __tablename__ = "shares"

    id: Mapped[int] = mapped_column(primary_key=True)
    setup_id: Mapped[int] = mapped_column(ForeignKey("setups.id", ondelete="CASCADE"), index=True)
    token: Mapped[str] = mapped_column(String(64), unique=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("people.id"))
    made_at: Mapped[datetime]
    revoked_at: Mapped[datetime | None]
    expires_at: Mapped[datetime | None]


def setup_row(session: Session, job_id: int, setup_id: int, *, locked: bool = False) -> SetupRow | None:
    """One set-up of a job. ``locked``: nobody else changes it meanwhile."""
    query = select(SetupRow).where(SetupRow.id == setup_id, SetupRow.job_id == job_id)
    return session.scalars(query.with_for_update() if locked else query).one_or_none()


def setups_of(session: Session, job_ids: list[int], *, is_archived: bool = False) -> list[SetupRow]:
    """All that are in use, or all that are put away, job by job in their order."""
    query = select(SetupRow).where(SetupRow.job_id.in_(job_ids), SetupRow.is_archived.is_(is_archived))
    return list(session.scalars(query.order_by(SetupRow.job_id, SetupRow.rank, SetupRow.id)))


def setups_with_places(session: Session, job_ids: list[int]) -> list[tuple[SetupRow, PlaceStamp]]:
    """All that are in use, job by job in their order, each with the state of its place."""
    stamp = (PlaceRow.id, PlaceRow.name, PlaceRow.version, PlaceRow.changed_at)
    query = (
        select(SetupRow, *stamp)
        .join(PlaceRow, PlaceRow.id == SetupRow.place_id)
        .where(SetupRow.job_id.in_(job_ids), SetupRow.is_archived.is_(False))
        .order_by(SetupRow.job_id, SetupRow.rank, SetupRow.id)
    )
    return [(found[0], PlaceStamp(found[1], found[2], found[3], found[4])) for found in session.execute(query)]


def setups_in_place(session: Session, person_id: int, place_id: int) -> list[tuple[SetupRow, str]]:
    """Of this person's jobs, those that are in use in a place, each with the name of its job."""
    query = (
        select(SetupRow, JobRow.name)
        .join(JobRow, JobRow.id == SetupRow.job_id)
        .join(JobPersonRow, JobPersonRow.job_id == JobRow.id)
        .where(SetupRow.place_id == place_id, SetupRow.is_archived.is_(False))
        .where(JobPersonRow.person_id == person_id, JobRow.is_archived.is_(False))
    )
    return [(row, name) for row, name in session.execute(query.order_by(JobRow.name, SetupRow.rank, SetupRow.id))]


def count_and_last_rank(session: Session, job_id: int) -> tuple[int, int]:
    """How many set-ups of a job are in use, and the last one's rank."""
    query = select(func.count(), func.coalesce(func.max(SetupRow.rank), 0))
    count, rank = session.execute(query.where(SetupRow.job_id == job_id, SetupRow.is_archived.is_(False))).one()
    return count, rank


def make_room_after(session: Session, job_id: int, rank: int) -> None:
    """Every set-up behind a rank goes one further back."""
    behind = (SetupRow.job_id == job_id, SetupRow.rank > rank)
    session.execute(update(SetupRow).where(*behind).values(rank=SetupRow.rank + 1))


def job_with_look(session: Session, person_id: int, job_id: int) -> tuple[JobRow, LookRow | None, JobDocuments] | None:
    """A job of this person's, its look and its documents where they were set: one query."""
    query = (
        select(JobRow, LookRow, PowerRow, BucketPlanRow)
        .join(JobPersonRow, (JobPersonRow.job_id == JobRow.id) & (JobPersonRow.person_id == person_id))
        .outerjoin(LookRow, LookRow.job_id == JobRow.id)
        .outerjoin(PowerRow, PowerRow.job_id == JobRow.id)
        .outerjoin(BucketPlanRow, BucketPlanRow.job_id == JobRow.id)
        .where(JobRow.id == job_id)
    )
    found = session.execute(query).one_or_none()
    if found:
        enter_crew(session, found[0].crew_id)
    return (found[0], found[1], JobDocuments(found[2], found[3])) if found else None


def look_row(session: Session, job_id: int) -> LookRow | None:
    """A job's look, where one was set."""
    return session.get(LookRow, job_id)


def standing_share(session: Session, setup_id: int, at: datetime) -> ShareRow | None:
    """The link that is open at a time."""
    query = select(ShareRow).where(ShareRow.setup_id == setup_id, *_is_open(at))
    return session.scalars(query.order_by(ShareRow.id.desc()).limit(1)).one_or_none()


def _is_open(at: datetime) -> tuple[Any, ...]:
    return ShareRow.revoked_at.is_(None), or_(ShareRow.expires_at.is_(None), ShareRow.expires_at > at)


def share_by_token(session: Session, token: str, at: datetime) -> tuple[ShareRow, SetupRow] | None:
    """An open link and its set-up; None for one that was taken back, is over, or never was, and of what is put away."""
    query = (
        select(ShareRow, SetupRow)
        .join(SetupRow, SetupRow.id == ShareRow.setup_id)
        .where(ShareRow.token == token, *_is_open(at), SetupRow.is_archived.is_(False))
    )
    found = session.execute(query).one_or_none()
    return (found[0], found[1]) if found else None


def setup_names(session: Session, job_id: int) -> dict[int, str]:
    """What every set-up of a job is called, those put away too: one query."""
    name = func.json_value(SetupRow.document, "$.name")
    width = func.json_value(SetupRow.document, "$.width")
    found = session.execute(select(SetupRow.id, name, width).where(SetupRow.job_id == job_id))
    return {number: ", ".join(filter(None, (called, wide))) for number, called, wide in found}
