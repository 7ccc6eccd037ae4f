"""``iron-bucket best-kit``: work on a search that a page began."""

import os

import click

from iron_bucket.command_line.refusal import plain_refusals
from iron_bucket.desk.bucket.best.work import watch, work_on
from iron_bucket.store.engine import engine_for


@click.command("best-kit")
@click.argument("job_id", type=int)
@click.argument("run")
def best_kit(job_id: int, run: str) -> None:
    """Work on the search RUN for the best kit of job JOB_ID in IRON_BUCKET_DATABASE_URL; the page shows what it
    finds.
    """
    with plain_refusals():
        engine = engine_for(os.environ.get("IRON_BUCKET_DATABASE_URL", ""))
        watch(engine, job_id, run)
        work_on(engine, job_id, run)
        engine.dispose()
