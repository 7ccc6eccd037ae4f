"""``iron-bucket power``: what a plan of sources and loads comes to."""

from pathlib import Path

import click

from iron_bucket.command_line.answer import json_option, print_json
from iron_bucket.command_line.refusal import file_text, plain_refusals
from iron_bucket.core.power.frees import unplaced
from iron_bucket.core.power.power_plan import as_pinned
from iron_bucket.core.power.power_report import load_reports, source_reports
from iron_bucket.core.power.share_out import Shared, shared_out
from iron_bucket.formats.power_json import power_answer, read_power_plan


@click.command()
@click.argument("plan", type=click.Path(path_type=Path))
@json_option
def power(plan: Path, as_json: bool) -> None:
    """What each source of PLAN bears and each load gets; with "share_out", who hangs where. Prints JSON in any case."""
    with plain_refusals():
        given, is_shared_out = read_power_plan(file_text(plan))
        shared = shared_out(given) if is_shared_out else Shared(feeding=as_pinned(given), gap=0.0)
        answer = power_answer(
            source_reports(given, shared.feeding),
            load_reports(given, shared.feeding),
            unplaced(given, shared.feeding),
            shared.gap,
        )
    print_json(answer, indent=None if as_json else 2)
