"""What else does the work of one line of the kit, and taking it."""

from dataclasses import asdict, dataclass

from sqlalchemy.orm import Session

from iron_bucket.core.bench.head import Head
from iron_bucket.core.bucket.best.candidates import on_heads
from iron_bucket.core.bucket.best.job_problem import job_problem
from iron_bucket.core.bucket.best.substitutes import Substitute, substitutes_for
from iron_bucket.desk.bench.shelf import shelf_in
from iron_bucket.desk.bucket.best.apply import put_lamps
from iron_bucket.desk.bucket.best.scenes import scenes_of
from iron_bucket.desk.bucket.view import BucketView, bucket_view
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.desk.jobs import lock_job, require_job
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.store.jobs import JobRow


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Instead:
    """``head``: of the line; ``ways``: what else does its work."""

    bucket: BucketView
    head: Head
    ways: tuple[Substitute, ...]


@one_transaction
def open_instead(session: Session, person_id: int, job_id: int, slug: str) -> Instead:
    """Raises: NotFound, also where no set-up has such a head."""
    return _instead(session, require_job(session, person_id, job_id), slug)


def _instead(session: Session, job: JobRow, slug: str) -> Instead:
    view = bucket_view(session, job)
    head = view.gear.find(Head, slug)
    if head is None:
        raise NotFound("that line is no longer in the bucket")
    placed = {each.setup_id for each in view.kit.passes if (slug, 1.0) in each.by_sort}
    scenes = {number: lit for number, lit in scenes_of(view).items() if number in placed}
    bench = on_heads(shelf_in(session).packed)
    problem = job_problem(scenes, view.kit, bench, view.gear, view.job.rules, view.days, head=slug)
    return Instead(bucket=view, head=head, ways=substitutes_for(problem, slug, view.gear))


@one_transaction
def take_instead(session: Session, person_id: int, job_id: int, slug: str, other: str) -> int:
    """In every place that it does the work of; gives how many set-ups changed.

    Raises: NotFound; ChangedMeanwhile where it no longer does.
    """
    job = lock_job(session, person_id, job_id)
    found = _instead(session, job, slug)
    way = next((each for each in found.ways if each.head.slug == other), None)
    if way is None:
        raise ChangedMeanwhile("that head no longer does the work of the other; here is what does")
    changes = [asdict(each) for each in way.changes]
    return put_lamps(session, job, person_id, changes, f"put {way.head.name} in place of {found.head.name} in")
