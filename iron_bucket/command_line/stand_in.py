"""A stand-in of the outside world, served till it is stopped."""

import threading
from collections.abc import Callable

import click
from werkzeug.serving import WSGIRequestHandler, make_server

from iron_bucket.command_line.answer import print_json
from iron_bucket.devices.json_http import Application


class _Silent(WSGIRequestHandler):
    """No line for every request."""

    def log_request(self, code: int | str = "-", size: int | str = "-") -> None:
        """Says nothing."""


def serve_stand_in(name: str, application: Application, path: str, host: str, port: int, *, as_json: bool) -> None:
    """Over HTTP. Says where it is, and does not end by itself. Raises: ClickException where the port is taken."""

    def start() -> None:
        server = make_server(host, port, application, threaded=True, request_handler=_Silent)
        threading.Thread(target=server.serve_forever, daemon=True).start()

    serve_started(name, start, f"http://{host}:{port}{path}", as_json=as_json)


def serve_started(name: str, start: Callable[[], None], address: str, *, as_json: bool) -> None:
    """The same for what ``start`` serves beside. Raises: ClickException where its port is taken."""
    try:
        start()
    except OSError as taken:
        raise click.ClickException(
            f"{address} cannot be used ({taken.strerror}); choose another with --port"
        ) from taken
    print_json({"address": address}) if as_json else click.echo(f"{name} at {address}")
    threading.Event().wait()
