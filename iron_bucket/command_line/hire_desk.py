"""``iron-bucket hire-desk``: the simulated hire house, in a process of its own."""

from datetime import date

import click

from iron_bucket.command_line.answer import json_option
from iron_bucket.command_line.stand_in import serve_stand_in
from iron_bucket.demo.files import demo_gear
from iron_bucket.devices.hire_desk.stand_in import StandInHouse, Stocked, http_house


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
    house = http_house(StandInHouse(stocked=stocked), date.today)
    serve_stand_in("hire desk", house, "/v1/offers", host, port, as_json=as_json)
