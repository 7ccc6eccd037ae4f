"""The way in: ``iron-bucket COMMAND``."""

import click

from iron_bucket.command_line.demo import demo
from iron_bucket.command_line.exposure import exposure
from iron_bucket.command_line.gear import gear
from iron_bucket.command_line.hire_desk import hire_desk
from iron_bucket.command_line.level import level
from iron_bucket.command_line.migrate import migrate_database
from iron_bucket.command_line.photometry import photometry
from iron_bucket.command_line.pick import pick
from iron_bucket.command_line.solve import solve


@click.group(context_settings={"help_option_names": ["-h", "--help"]})
def main() -> None:
    """The lamps a set needs, proven by measured output, and the kit that carries them."""


for command in (photometry, exposure, pick, level, solve, gear, demo, hire_desk, migrate_database):
    main.add_command(command)
