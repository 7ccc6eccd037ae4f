"""A stand-in of the outside world, served till it is stopped."""

import click
from werkzeug.serving import WSGIRequestHandler, make_server

from iron_bucket.command_line.answer import print_json
from iron_bucket.devices.json_http import Application


class _Silent(WSGIRequestHandler):
    """No line for every request."""

    def log_request(self, code: int | str = "-", size: int | str = "-") -> None:
        """Says nothing."""


def serve_stand_in(name: str, application: Application, path: str, host: str, port: int, *, as_json: bool) -> None:
    """Says where it is, and does not end by itself. Raises: ClickException where the port is taken."""
    try:
        server = make_server(host, port, application, threaded=True, request_handler=_Silent)
    except OSError as taken:
        raise click.ClickException(
            f"{host}:{port} cannot be used ({taken.strerror}); choose another with --port"
        ) from taken
    address = f"http://{host}:{port}{path}"
    print_json({"address": address}) if as_json else click.echo(f"{name} at {address}")
    server.serve_forever()
