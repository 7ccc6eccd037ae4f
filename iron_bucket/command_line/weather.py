"""``iron-bucket weather``: the simulated weather office, in a process of its own."""

import click

from iron_bucket.command_line.answer import json_option
from iron_bucket.command_line.stand_in import serve_stand_in
from iron_bucket.devices.weather.stand_in import StandInOffice, http_office


@click.command("weather")
@click.option("--host", default="127.0.0.1", show_default=True)
@click.option("--port", default=8011, show_default=True, type=click.IntRange(1, 65535))
@json_option
def weather(host: str, port: int, as_json: bool) -> None:
    """Serve a made-up weather office: cloud, wind, rain, temperature. Its protocol is at /v1/openapi.json."""
    serve_stand_in("weather office", http_office(StandInOffice()), "/v1/hours", host, port, as_json=as_json)
