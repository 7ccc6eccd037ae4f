"""``iron-bucket kit``: the kit of a job file, each line with its why."""

from pathlib import Path

import click

from iron_bucket.command_line.answer import json_option, print_json
from iron_bucket.command_line.refusal import file_text, plain_refusals
from iron_bucket.core.bucket.hire import sources_of
from iron_bucket.core.bucket.job_kit import JobKit
from iron_bucket.core.bucket.kit_groups import KitGroup, groups_of
from iron_bucket.core.bucket.load.cases import packed
from iron_bucket.core.bucket.load.piece import pieces_of
from iron_bucket.core.bucket.totals import totals_of
from iron_bucket.core.bucket.whole_kit import whole_kit
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.job.shooting_day import JobPass
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.selection.measured_gear import measured_gear
from iron_bucket.formats.job_file import JobFile, read_job
from iron_bucket.formats.kit_json import kit_answer


@click.command()
@click.argument("job", type=click.Path(path_type=Path))
@json_option
def kit(job: Path, as_json: bool) -> None:
    """What JOB brings, down to the peg: a file that a job was exported to."""
    with plain_refusals():
        given = read_job(file_text(job))
        gear = measured_gear(given.bench.gear, given.bench.readings).gear.in_use()
        found = whole_kit(_passes(given), _places(given), given.lines, given.power, given.plan, gear, given.rules)
        days = given.rules.kit.hire_days or max(len({each.day for each in found.passes}), 1)
        sources = sources_of(found.lines, gear, given.plan.borrowed, days)
        if as_json:
            boxes = packed(pieces_of(found), gear, given.plan, given.rules.kit)
            totals = totals_of(found.entries, given.rules, found.left_out, found.away)
            print_json(kit_answer(found, sources, boxes, totals, days))
            return
    _print(found, groups_of(found, sources), given.rules.units)


def _print(found: JobKit, groups: tuple[KitGroup, ...], units: UnitSystem) -> None:
    for group in groups:
        click.echo(group.title)
        for row in group.rows:
            why = row.line.whys[0].figure if row.line.whys else "by hand"
            weight = str(display.mass(row.line.weight_of(row.quantity), units))
            click.echo(f"  {row.quantity:3} {row.line.item.name:40.40} {weight:>10}  {why}")
    for words in found.left_out:
        click.echo(f"left out: {words}")


def _places(job: JobFile) -> dict[int, Surroundings]:
    return {number: Surroundings(place) for number, place in enumerate(job.places, start=1)}


def _passes(job: JobFile) -> list[JobPass]:
    found: list[JobPass] = []
    for number, each in enumerate(job.passes, start=1):
        before = found[each.after - 1] if each.after else None
        is_varied = before is not None and before.place_id == each.place
        found.append(
            JobPass(
                setup_id=number,
                chain=before.chain if before is not None and is_varied else number,
                place_id=each.place,
                place_name=job.places[each.place - 1].name,
                setup=each.setup,
            )
        )
    return found
