"""``iron-bucket gear``: benches as files."""

import click

from iron_bucket.command_line.answer import print_json
from iron_bucket.demo.files import demo_gear
from iron_bucket.formats.gear_json import gear_json


@click.group()
def gear() -> None:
    """Benches as files."""


@gear.command()
@click.option("--json", "as_json", is_flag=True, help="JSON is printed in any case.")
def export(as_json: bool) -> None:
    """The demo's gear, in the format that ``pick --gear`` reads."""
    print_json(gear_json(demo_gear()), indent=1)
