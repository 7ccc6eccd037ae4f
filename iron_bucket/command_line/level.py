"""``iron-bucket level``: what every lamp of a scene does at every mark."""

from pathlib import Path

import click

from iron_bucket.command_line.answer import print_json
from iron_bucket.command_line.refusal import plain_refusals
from iron_bucket.command_line.scene_file import scene_of
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.formats.scene_levels_json import levels_json


@click.command()
@click.argument("scene_file", type=click.Path(path_type=Path), metavar="SCENE.json")
@click.option("--json", "as_json", is_flag=True, help="One JSON object instead of a line a mark.")
def level(scene_file: Path, as_json: bool) -> None:
    """Levels at the marks of a scene: by each lamp, straight and by way of each frame, and off the walls."""
    with plain_refusals():
        scene = scene_of(scene_file)
        found = levels_json(scene, unit_response(scene))
    if as_json:
        print_json(found)
        return
    for mark in found["marks"]:
        ways = ", ".join(
            f"{each['lamp']}{' via ' + each['via'] if each['via'] else ''} {each['illuminance_lx']:.4g}"
            for each in mark["by"]
            if each["illuminance_lx"] > 0.0
        )
        indirect = f", off the walls {mark['indirect_lx']:.4g}" if scene.rooms else ""
        click.echo(f"{mark['id']}: {mark['illuminance_lx']:.4g} lx ({ways or 'no lamp'}{indirect})")
