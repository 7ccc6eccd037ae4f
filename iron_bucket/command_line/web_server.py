"""The web server as a process: options that demo and real installations share."""

import contextlib
import socket
import subprocess
import time
from collections.abc import Iterator, Mapping

import click

from iron_bucket.command_line.child import child

#: Most threads of a worker wait: for the database, or for what is made in the process beside it.
WORKERS, BLOCKING_THREADS = 2, 32
PORT_SECONDS = 3.0
#: A worker that has grown past this is replaced when it is idle; a fresh one takes about 250.
WORKER_MEBIBYTES = 1500
SERVER_OPTIONS = (
    "--interface",
    "wsgi",
    "--blocking-threads",
    str(BLOCKING_THREADS),
    "--respawn-failed-workers",
    "--respawn-interval",
    "0.2",
    "--workers-max-rss",
    str(WORKER_MEBIBYTES),
    "--workers-kill-timeout",
    "3",
    "--no-access-log",
    "--log-level",
    "error",  # what it warns of, such as so many threads, is meant so
)
#: Addresses that nobody but this machine reaches.
LOOPBACK = ("127.", "localhost", "::1")


def is_loopback(host: str) -> bool:
    """Whether nobody else can reach it."""
    return host.startswith(LOOPBACK)


def require_free(host: str, port: int) -> None:
    """A former start that was killed a moment ago may hold the port while it stops."""
    deadline = time.monotonic() + PORT_SECONDS
    while True:
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind((host, port))
            except OSError as taken:
                if time.monotonic() < deadline:
                    time.sleep(0.1)
                    continue
                raise click.ClickException(
                    f"{host}:{port} cannot be used ({taken.strerror}); choose another with --port"
                ) from taken
            return


@contextlib.contextmanager
def web_server(
    host: str, port: int, environment: Mapping[str, str], *, workers: int = WORKERS
) -> Iterator["subprocess.Popen[bytes]"]:
    """A server that answers; it stops when the block is left."""
    where = ("--host", host, "--port", str(port), "--workers", str(workers))
    with child("granian", *where, *SERVER_OPTIONS, "iron_bucket.web.wsgi:app", environment=environment) as server:
        _wait_until_served(server, "127.0.0.1" if host == "0.0.0.0" else host, port)
        yield server


def until_it_ends(server: "subprocess.Popen[bytes]") -> None:
    """Raises: ClickException, for it should not have."""
    server.wait()
    raise click.ClickException(f"the web server ended by itself with {server.returncode}; its reason stands above")


def _wait_until_served(server: "subprocess.Popen[bytes]", host: str, port: int) -> None:
    while server.poll() is None:
        with contextlib.suppress(OSError), socket.create_connection((host, port), timeout=1):
            return
        time.sleep(0.05)
    raise click.ClickException("the web server stopped by itself; its reason stands above")
