"""``iron-bucket load-demo``: the made-up scenario into an empty database."""

import os

import click
from sqlalchemy.orm import Session

from iron_bucket.command_line.answer import json_option, print_json
from iron_bucket.command_line.refusal import plain_refusals
from iron_bucket.desk.demo import load_demo
from iron_bucket.store.engine import engine_for
from iron_bucket.store.schema import LONGEST_WAIT_S, one_start_at_a_time


@click.command("load-demo")
@json_option
def load_demo_command(as_json: bool) -> None:
    """Put the made-up scenario into IRON_BUCKET_DATABASE_URL, all of it or nothing, where nobody can sign in yet."""
    with plain_refusals():
        engine = engine_for(os.environ.get("IRON_BUCKET_DATABASE_URL", ""), answer_seconds=LONGEST_WAIT_S)
        with one_start_at_a_time(engine), Session(engine) as session:
            is_loaded = load_demo(session)
        engine.dispose()
    if as_json:
        print_json({"loaded": is_loaded})
    elif is_loaded:
        click.echo("demo loaded: two jobs, four places, made-up gear")
