"""``iron-bucket take-in``: work on a large file that a page was sent."""

import os
import sys

import click

from iron_bucket.command_line.refusal import plain_refusals
from iron_bucket.desk.uploads import work_on_upload
from iron_bucket.store.engine import engine_for
from iron_bucket.store.schema import LONGEST_WAIT_S


@click.command("take-in")
@click.argument("number", type=int)
def take_in(number: int) -> None:
    """Take in upload NUMBER of IRON_BUCKET_DATABASE_URL from the standard input; the page shows how far it is."""
    with plain_refusals():
        engine = engine_for(os.environ.get("IRON_BUCKET_DATABASE_URL", ""), answer_seconds=LONGEST_WAIT_S)
        work_on_upload(engine, number, sys.stdin.buffer)
        engine.dispose()
