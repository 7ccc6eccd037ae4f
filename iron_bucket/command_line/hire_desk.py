"""``iron-bucket hire-desk``: the simulated hire house, in a process of its own."""

from datetime import date

import click
from werkzeug.serving import WSGIRequestHandler, make_server

from iron_bucket.command_line.answer import json_option, print_json
from iron_bucket.demo.files import demo_gear
from iron_bucket.devices.hire_desk.stand_in import StandInHouse, Stocked, http_house


class _Silent(WSGIRequestHandler):
    """No line for every request."""

    def log_request(self, code: int | str = "-", size: int | str = "-") -> None:
        """Says nothing."""


@click.command("hire-desk")
@click.option("--host", default="127.0.0.1", show_default=True)
@click.option("--port", default=8010, show_default=True, type=click.IntRange(1, 65535))
@json_option
def hire_desk(host: str, port: int, as_json: bool) -> None:
    """Serve a made-up hire house: prices, stock by date, lead time. Its protocol is at /v1/openapi.json."""
    stocked = [
        Stocked(item=item.slug, name=item.name, day_price=item.day_price)
        for item in demo_gear().items()
        if item.day_price
    ]
    try:
        server = make_server(
            host, port, http_house(StandInHouse(stocked=stocked), date.today), threaded=True, request_handler=_Silent
        )
    except OSError as taken:
        raise click.ClickException(
            f"{host}:{port} cannot be used ({taken.strerror}); choose another with --port"
        ) from taken
    address = f"http://{host}:{port}/v1/offers"
    print_json({"address": address}) if as_json else click.echo(f"hire desk at {address}")
    server.serve_forever()
