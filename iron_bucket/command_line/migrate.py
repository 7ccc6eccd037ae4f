"""``iron-bucket migrate``: bring the database in IRON_BUCKET_DATABASE_URL up to date."""

import os

import click

from iron_bucket.command_line.answer import json_option, print_json
from iron_bucket.command_line.refusal import plain_refusals
from iron_bucket.store.engine import engine_for
from iron_bucket.store.schema import LONGEST_WAIT_S, migrate


@click.command("migrate")
@json_option
def migrate_database(as_json: bool) -> None:
    """Make or update the tables in IRON_BUCKET_DATABASE_URL."""
    with plain_refusals():
        migrate(engine_for(os.environ.get("IRON_BUCKET_DATABASE_URL", ""), answer_seconds=LONGEST_WAIT_S))
    if as_json:
        print_json({"migrated": True})
