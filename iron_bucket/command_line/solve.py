"""``iron-bucket solve``: dimmer levels for the levels that some marks should have."""

from pathlib import Path

import click
import numpy as np

from iron_bucket.command_line.answer import print_json
from iron_bucket.command_line.refusal import plain_refusals
from iron_bucket.command_line.scene_file import scene_of
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities import parse as read
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.scene.scene import Scene
from iron_bucket.core.scene.solve import TELL_STOPS, SolvedLevels, solve_levels
from iron_bucket.formats.scene_levels_json import solved_json


@click.command()
@click.argument("scene_file", type=click.Path(path_type=Path), metavar="SCENE.json")
@click.option(
    "--want",
    "wants",
    multiple=True,
    required=True,
    metavar="MARK=LEVEL",
    help="Such as face=640 or wall=8fc; once for each mark.",
)
@click.option(
    "--lowest",
    type=float,
    default=0.01,
    show_default=True,
    help="The lowest level that the lamps burn at, as a share of full.",
)
@click.option("--json", "as_json", is_flag=True, help="One JSON object instead of lines.")
def solve(scene_file: Path, wants: tuple[str, ...], lowest: float, as_json: bool) -> None:
    """Levels of the lamps for the levels wanted at some marks, and which wish fights which.

    A lamp at level 0 stays off.
    """
    with plain_refusals():
        scene = scene_of(scene_file)
        marks, wanted_lx = _wanted(scene, wants)
        names = [scene.marks[at].mark_id for at in marks]
        found = solve_levels(
            unit_response(scene).whole_lx[:, marks],
            wanted_lx,
            now=np.array([each.level for each in scene.lamps]),
            lowest=np.full(len(scene.lamps), lowest),
            names=names,
        )
    if as_json:
        print_json(solved_json(scene, names, wanted_lx, found))
        return
    for lamp, level in zip(scene.lamps, found.levels, strict=True):
        click.echo(f"{lamp.lamp_id}: {'off' if level == 0.0 else f'{level * 100:.3g} %, {np.log2(level):+.1f} stops'}")
    for at, name in enumerate(names):
        click.echo(f"{name}: {found.illuminance_lx[at]:.4g} lx, {_verdict(found, at, names)}")


def _wanted(scene: Scene, wants: tuple[str, ...]) -> tuple[list[int], np.ndarray]:
    """Marks by index and their levels."""
    by_name = {mark.mark_id: at for at, mark in enumerate(scene.marks)}
    named: dict[int, float] = {}
    for want in wants:
        name, equals, level = want.rpartition("=")
        if not equals or name not in by_name:
            raise BadValue(
                "--want", repr(want), f"a mark of the scene and its level, such as {next(iter(by_name), 'face')}=640"
            )
        if by_name[name] in named:
            raise BadValue("--want", repr(want), "each mark once")
        named[by_name[name]] = read.illuminance_lx(read.with_program_decimals(level), "--want")
    return list(named), np.array(list(named.values()))


def _verdict(found: SolvedLevels, at: int, names: list[str]) -> str:
    """As wanted, or by how much not and why."""
    miss = found.miss_stops[at]
    if abs(miss) <= TELL_STOPS:
        return "as wanted"
    words = f"{abs(miss):.1f} stop {'over' if miss > 0 else 'short'}"
    others = [names[other] for missed, other in found.fights if missed == at]
    if others:
        return f"{words}: fights {' and '.join(others)}"
    return f"{words}: the lamps reach from {found.least_lx[at]:.4g} to {found.most_lx[at]:.4g} lx there"
