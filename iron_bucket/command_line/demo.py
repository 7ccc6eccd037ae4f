"""``iron-bucket demo``: a private database, the made-up scenario, and the pages, until Ctrl-C."""

import contextlib
import os
import secrets
import signal
import socket
import sys
from collections.abc import Iterator
from pathlib import Path

import click
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session

from iron_bucket.command_line.answer import json_option, print_json
from iron_bucket.command_line.child import ROOT, child
from iron_bucket.command_line.refusal import plain_refusals
from iron_bucket.command_line.secret_key import secret_key
from iron_bucket.command_line.web_server import is_loopback, require_free, until_it_ends, web_server
from iron_bucket.demo.sign_in import DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.desk.people.administration import put_password
from iron_bucket.store.engine import engine_for
from iron_bucket.store.people import count_people
from iron_bucket.store.private_server import private_server
from iron_bucket.store.schema import LONGEST_WAIT_S, migrate
from iron_bucket.store.server_folder import ServerTrouble


@click.command()
@click.option("--host", default="127.0.0.1", show_default=True)
@click.option("--port", default=8000, show_default=True, type=click.IntRange(1, 65535))
@click.option(
    "--data",
    default=ROOT / "var",
    type=click.Path(file_okay=False, path_type=Path),
    help="Where the database and the key live.  [default: var beside the program]",
)
@json_option
def demo(host: str, port: int, data: Path, as_json: bool) -> None:
    """Serve the demo. Ctrl-C stops all of it. Where others can reach it, its password is drawn anew at each start."""
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))  # so that a plain kill also stops the database
    require_free(host, port)
    data.mkdir(parents=True, exist_ok=True)
    try:
        with contextlib.suppress(KeyboardInterrupt), plain_refusals(), _database(data) as url:
            _prepare(url)
            with _stand_in("hire-desk") as hire_desk_url, _stand_in("weather") as weather_url:
                outside = {"HIRE_DESK_URL": hire_desk_url, "WEATHER_URL": weather_url}
                _serve(host, port, url, outside, secret_key(data / "secret-key"), as_json=as_json)
    except ServerTrouble as trouble:
        raise click.ClickException(str(trouble)) from trouble
    except SQLAlchemyError as trouble:
        raise click.ClickException(f"the database does not answer: {trouble.args[0]}") from trouble


@contextlib.contextmanager
def _database(data: Path) -> Iterator[str]:
    given = os.environ.get("IRON_BUCKET_DATABASE_URL")
    if given:
        yield given
        return
    with private_server(data / "database") as url:
        yield url


def _prepare(url: str) -> None:
    """Tables, and the scenario; loading it is a process of its own, for what it needs takes longer to import than a
    later start may last.
    """
    engine = engine_for(url, answer_seconds=LONGEST_WAIT_S)
    migrate(engine)
    with Session(engine) as session:
        is_empty = not count_people(session)
    engine.dispose()
    if is_empty:
        with child("iron_bucket", "load-demo", environment={**os.environ, "IRON_BUCKET_DATABASE_URL": url}) as loading:
            if loading.wait():
                raise click.ClickException("the demo could not be loaded; the reason stands above")


@contextlib.contextmanager
def _stand_in(name: str) -> Iterator[str]:
    """One of the simulated services on a free port, in a process of its own."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    with child("iron_bucket", name, "--port", str(port), environment=os.environ, is_quiet=True):
        yield f"http://127.0.0.1:{port}"


def password_for(url: str, host: str) -> str:
    """The published one where nobody else reaches this, else one that is drawn at each start."""
    password = DEMO_PASSWORD if is_loopback(host) else secrets.token_urlsafe(12)
    engine = engine_for(url)
    with Session(engine) as session:
        put_password(session, DEMO_SIGN_IN, password)
    engine.dispose()
    return password


def _serve(host: str, port: int, url: str, outside: dict[str, str], key: str, *, as_json: bool) -> None:
    password = password_for(url, host)
    environment = {
        **os.environ,
        "IRON_BUCKET_DATABASE_URL": url,
        "IRON_BUCKET_SECRET_KEY": key,
        "IRON_BUCKET_LOG_LEVEL": os.environ.get("IRON_BUCKET_LOG_LEVEL", "warning"),
        "IRON_BUCKET_DEMO": "yes" if is_loopback(host) else "no",
        **{f"IRON_BUCKET_{name}": os.environ.get(f"IRON_BUCKET_{name}") or url for name, url in outside.items()},
    }
    with web_server(host, port, environment) as server:
        address = f"http://{host}:{port}"
        if as_json:
            print_json({"address": address, "sign_in": DEMO_SIGN_IN, "password": password})
        else:
            words = f"sign in as {DEMO_SIGN_IN}, password {password}"
            click.echo(f"Iron Bucket is at {address}\n{words}\nCtrl-C stops it")
        until_it_ends(server)
