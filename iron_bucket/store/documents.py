"""The documents of jobs that every page of one asks for, read together."""

from typing import NamedTuple

from sqlalchemy import select
from sqlalchemy.orm import Session

from iron_bucket.store.bucket import BucketPlanRow
from iron_bucket.store.days import DayPlanRow
from iron_bucket.store.jobs import JobRow
from iron_bucket.store.power import PowerRow


class JobDocuments(NamedTuple):
    """Where something was said: what the job brings to feed its lamps, what its crew says of its bucket, and of its
    days.
    """

    power: PowerRow | None = None
    plan: BucketPlanRow | None = None
    days: DayPlanRow | None = None


def job_documents(session: Session, job_ids: list[int]) -> dict[int, JobDocuments]:
    """Of some jobs, by their numbers: one query."""
    query = (
        select(JobRow.id, PowerRow, BucketPlanRow, DayPlanRow)
        .outerjoin(PowerRow, PowerRow.job_id == JobRow.id)
        .outerjoin(BucketPlanRow, BucketPlanRow.job_id == JobRow.id)
        .outerjoin(DayPlanRow, DayPlanRow.job_id == JobRow.id)
        .where(JobRow.id.in_(job_ids))
    )
    return {job_id: JobDocuments(power, plan, days) for job_id, power, plan, days in session.execute(query)}
