"""``iron-bucket gear``: benches as files."""

import json

import click

from iron_bucket.demo.files import demo_gear
from iron_bucket.formats.gear_json import gear_json


@click.group()
def gear() -> None:
    """Benches as files."""


@gear.command()
def export() -> None:
    """The demo's gear, in the format that ``pick --gear`` reads."""
    click.echo(json.dumps(gear_json(demo_gear()), allow_nan=False, ensure_ascii=False, indent=1))
