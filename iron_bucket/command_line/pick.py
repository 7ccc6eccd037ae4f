"""``iron-bucket pick``: a need against a bench, from files."""

from pathlib import Path

import click

from iron_bucket.command_line.answer import print_json
from iron_bucket.command_line.refusal import file_text, plain_refusals
from iron_bucket.core.selection.packing import pack
from iron_bucket.core.selection.pick import pick as pick_from
from iron_bucket.core.selection.ranking import SortBy
from iron_bucket.demo.files import demo_gear
from iron_bucket.formats.gear_json import read_gear
from iron_bucket.formats.need_json import read_need
from iron_bucket.formats.picked_json import picked_json


@click.command()
@click.argument("need_file", type=click.Path(path_type=Path), metavar="NEED.json")
@click.option(
    "--gear",
    "gear_file",
    type=click.Path(path_type=Path),
    metavar="GEAR.json",
    help="The bench; the demo's where it is left out.",
)
@click.option(
    "--sort",
    "sort_by",
    type=click.Choice([each.value for each in SortBy]),
    default=SortBy.RANK.value,
    show_default=True,
)
@click.option(
    "--limit",
    type=click.IntRange(min=1),
    default=100,
    show_default=True,
    help="How many fits and how many passed over are listed.",
)
@click.option("--all", "list_all", is_flag=True, help="List every one of both, however many.")
@click.option("--json", "as_json", is_flag=True, help="JSON is printed in any case.")
def pick(need_file: Path, gear_file: Path | None, sort_by: str, limit: int, list_all: bool, as_json: bool) -> None:
    """Every head with every stack against one need. Prints JSON: fits, passed over, reasons."""
    with plain_refusals():
        bench = read_gear(file_text(gear_file)) if gear_file else demo_gear()
        picked = pick_from(pack(bench), read_need(file_text(need_file), bench))
        answer = picked_json(picked, sort_by=SortBy(sort_by), limit=None if list_all else limit)
    print_json(answer, indent=1)
