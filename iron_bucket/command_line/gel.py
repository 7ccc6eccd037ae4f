"""``iron-bucket gel``: gels from one colour temperature to another."""

from functools import partial
from typing import Any

import click

from iron_bucket.command_line.answer import json_option, print_json
from iron_bucket.command_line.refusal import plain_refusals, typed
from iron_bucket.core.checks import require_between
from iron_bucket.core.colour.gel_stacks import GelStack, GelStacks, ranked, typical_gels
from iron_bucket.core.quantities import parse as read
from iron_bucket.core.quantities.mired import shift_mired

_signed = partial(read.number, is_fine=True)


@click.command()
@click.option("--from", "from_k", required=True, callback=typed("--from", read.cct_k), help="The light, such as 5600.")
@click.option("--to", "to_k", required=True, callback=typed("--to", read.cct_k), help="What it shall look like.")
@click.option("--tint", default="0", callback=typed("--tint", _signed), help="Duv of the light, above 0 green.")
@click.option("--tolerance", default="10", callback=typed("--tolerance", read.number), help="Mired nobody minds.")
@json_option
def gel(from_k: float, to_k: float, tint: float, tolerance: float, as_json: bool) -> None:
    """Stacks of up to two typical gels, the best first: within the tolerance, for the least light."""
    with plain_refusals():
        require_between("--tint", tint, low=-0.05, high=0.05, unit="")
        wanted = float(shift_mired(from_k=from_k, to_k=to_k))
        found = ranked(GelStacks.of(typical_gels()), wanted, tint, tolerance_mired=tolerance)
    if as_json:
        print_json({"wanted_mired": wanted, "stacks": [_row(each) for each in found]})
        return
    click.echo(f"wanted: {wanted:+.0f} mired")
    for each in found:
        names = " + ".join(gel.name for gel in each.gels) or "no gel"
        click.echo(
            f"  {names:40} {each.shift_mired:+.0f} mired, {each.residual_mired:+.0f} left, Duv {each.residual_duv:+.3f}"
            f" left, {each.loss_stops:.2f} stops lost"
        )


def _row(each: GelStack) -> dict[str, Any]:
    return {
        "gels": [gel.name for gel in each.gels],
        "shift_mired": each.shift_mired,
        "residual_mired": each.residual_mired,
        "residual_duv": each.residual_duv,
        "loss_stops": each.loss_stops,
    }
