"""``iron-bucket demo``: a private database, the made-up scenario, and the pages, until Ctrl-C."""

import contextlib
import os
import secrets
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path

import click
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session

from iron_bucket.command_line.refusal import plain_refusals
from iron_bucket.desk.demo import DEMO_PASSWORD, DEMO_SIGN_IN, load_demo
from iron_bucket.store.engine import engine_for
from iron_bucket.store.private_server import ServerTrouble, private_server
from iron_bucket.store.schema import migrate

ROOT = Path(__file__).parents[2]
WORKERS, BLOCKING_THREADS = 2, 4
STOP_SECONDS = 10.0


@click.command()
@click.option("--host", default="127.0.0.1", show_default=True)
@click.option("--port", default=8000, show_default=True, type=click.IntRange(1, 65535))
def demo(host: str, port: int) -> None:
    """Serve the demo. Ctrl-C stops all of it."""
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))  # so that a plain kill also stops the database
    _require_free(host, port)
    try:
        with contextlib.suppress(KeyboardInterrupt), plain_refusals(), _database() as url:
            engine = engine_for(url)
            migrate(engine)
            with Session(engine) as session:
                if load_demo(session):
                    click.echo("demo loaded: two jobs, four places, made-up gear")
            engine.dispose()
            with _hire_house() as hire_desk_url:
                _serve(host, port, url, hire_desk_url)
    except ServerTrouble as trouble:
        raise click.ClickException(str(trouble)) from trouble
    except SQLAlchemyError as trouble:
        raise click.ClickException(f"the database does not answer: {trouble.args[0]}") from trouble


def _require_free(host: str, port: int) -> None:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((host, port))
        except OSError as taken:
            raise click.ClickException(
                f"{host}:{port} cannot be used ({taken.strerror}); choose another with --port"
            ) from taken


@contextlib.contextmanager
def _database() -> Iterator[str]:
    given = os.environ.get("IRON_BUCKET_DATABASE_URL")
    if given:
        yield given
        return
    with private_server(ROOT / "var" / "database") as url:
        yield url


def _secret_key() -> str:
    """One for this checkout, so that a restart keeps people signed in."""
    path = ROOT / "var" / "secret-key"
    if not path.exists():
        path.parent.mkdir(exist_ok=True)
        path.touch(mode=0o600)
        path.write_text(secrets.token_hex(32))
    return path.read_text().strip()


@contextlib.contextmanager
def _hire_house() -> Iterator[str]:
    """The simulated hire desk on a free port, in a process of its own."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    command = [sys.executable, "-m", "iron_bucket", "hire-desk", "--port", str(port)]
    house = subprocess.Popen(command, cwd=ROOT, stdout=subprocess.DEVNULL, start_new_session=True)
    try:
        yield f"http://127.0.0.1:{port}"
    finally:
        _stop(house)


def _serve(host: str, port: int, url: str, hire_desk_url: str) -> None:
    environment = {
        **os.environ,
        "IRON_BUCKET_DATABASE_URL": url,
        "IRON_BUCKET_SECRET_KEY": _secret_key(),
        "IRON_BUCKET_DEMO": "yes",
        "IRON_BUCKET_HIRE_DESK_URL": os.environ.get("IRON_BUCKET_HIRE_DESK_URL") or hire_desk_url,
    }
    server = subprocess.Popen(
        [
            sys.executable,
            "-m",
            "granian",
            "--interface",
            "wsgi",
            "--host",
            host,
            "--port",
            str(port),
            "--workers",
            str(WORKERS),
            "--blocking-threads",
            str(BLOCKING_THREADS),
            "--no-access-log",
            "--log-level",
            "warning",
            "iron_bucket.web.wsgi:app",
        ],
        env=environment,
        cwd=ROOT,
        start_new_session=True,
    )
    try:
        _wait_until_served(server, host, port)
        click.echo(
            f"Iron Bucket is at http://{host}:{port}\nsign in as {DEMO_SIGN_IN}, password {DEMO_PASSWORD}\nCtrl-C stops it"
        )
        server.wait()
    finally:
        _stop(server)


def _wait_until_served(server: "subprocess.Popen[bytes]", host: str, port: int) -> None:
    while server.poll() is None:
        with contextlib.suppress(OSError), socket.create_connection((host, port), timeout=1):
            return
        time.sleep(0.05)
    raise click.ClickException("the web server stopped by itself; its reason stands above")


def _stop(server: "subprocess.Popen[bytes]") -> None:
    """The whole group: the server's workers must not outlive it, however often Ctrl-C is pressed meanwhile."""
    for again in (signal.SIGINT, signal.SIGTERM):
        signal.signal(again, signal.SIG_IGN)
    with contextlib.suppress(ProcessLookupError):
        os.killpg(server.pid, signal.SIGTERM)
    try:
        server.wait(STOP_SECONDS)
    except subprocess.TimeoutExpired:
        os.killpg(server.pid, signal.SIGKILL)
        server.wait()
