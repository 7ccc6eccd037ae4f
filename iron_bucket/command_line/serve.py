"""``iron-bucket serve``: a real installation, by the settings in IRON_BUCKET_*."""

import contextlib
import os
import signal
import sys

import click
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session

from iron_bucket.command_line.people import told
from iron_bucket.command_line.refusal import plain_refusals
from iron_bucket.command_line.web_server import WORKERS, require_free, until_it_ends, web_server
from iron_bucket.desk.people.administration import first_admin
from iron_bucket.store.engine import engine_for
from iron_bucket.store.schema import LONGEST_WAIT_S, migrate, one_start_at_a_time


@click.command()
@click.option("--host", default="127.0.0.1", show_default=True)
@click.option("--port", default=8000, show_default=True, type=click.IntRange(1, 65535))
@click.option("--workers", default=WORKERS, show_default=True, type=click.IntRange(1, 64))
def serve(host: str, port: int, workers: int) -> None:
    """Bring the tables up to date and serve. Where nobody can sign in yet it makes an administrator, and prints how."""
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    require_free(host, port)
    try:
        with contextlib.suppress(KeyboardInterrupt), plain_refusals():
            address = os.environ.get("IRON_BUCKET_ADDRESS") or f"http://{host}:{port}"
            prepare(os.environ.get("IRON_BUCKET_DATABASE_URL", ""), address)
            with web_server(host, port, os.environ, workers=workers) as server:
                click.echo(f"Iron Bucket is at {address}")
                until_it_ends(server)
    except SQLAlchemyError as trouble:
        raise click.ClickException(f"the database does not answer: {trouble.args[0]}") from trouble


def prepare(database_url: str, address: str) -> None:
    """Tables, and somebody who lets others in."""
    engine = engine_for(database_url, answer_seconds=LONGEST_WAIT_S)
    migrate(engine)
    with one_start_at_a_time(engine), Session(engine) as session:
        made = first_admin(session)
    engine.dispose()
    if made is not None:
        click.echo("Nobody can sign in yet. An administrator was made:")
        told(made, address, as_json=False)
