"""``iron-bucket photometry``: what photometric files hold."""

import sys
from pathlib import Path
from typing import Any

import click

from iron_bucket.command_line.answer import print_json
from iron_bucket.command_line.refusal import plain_refusals
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities.parse import length_m
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.photometric import photometry_json, read_photometric
from iron_bucket.formats.text_file import FILE_LIMIT_BYTES


@click.command()
@click.option("--json", "as_json", is_flag=True, help="One JSON object a line, in the order given.")
@click.option(
    "--at", "throws", multiple=True, metavar="DISTANCE", help="Also the level on the axis there, such as 3 or 12'6\"."
)
@click.argument("files", nargs=-1, required=True, metavar="FILE...")
def photometry(as_json: bool, throws: tuple[str, ...], files: tuple[str, ...]) -> None:
    """Peak, axis, lumens, beam and field of LM-63 and EULUMDAT files."""
    with plain_refusals():
        throws_m = {typed: _throw_m(typed) for typed in throws}
    failed = False
    for name in files:
        answer = _answer(name, throws_m)
        failed = failed or "error" in answer
        if as_json:
            print_json(answer)
        elif "error" in answer:
            click.echo(f"{name}: {answer['error']}", err=True)
        else:
            click.echo(_line(answer))
    sys.exit(1 if failed else 0)


def _throw_m(typed: str) -> float:
    throw_m = length_m(typed, "--at")
    if throw_m <= 0:
        raise BadValue("--at", typed, "a distance above 0 m")
    return throw_m


def _answer(name: str, throws_m: dict[str, float]) -> dict[str, Any]:
    try:
        with Path(name).open("rb") as file:
            data = file.read(
                FILE_LIMIT_BYTES + 1
            )  # one more than accepted, so that a larger file is told from one that fits
        return {"file": name, **photometry_json(read_photometric(data, name), throws_m)}
    except OSError as bad:
        return {"file": name, "error": f"the file cannot be opened: {bad.strerror or bad}"}
    except ValueError as bad:  # a name with a null byte in it
        return {
            "file": name,
            "error": str(bad) if isinstance(bad, FormatError) else f"the file cannot be opened: {bad}",
        }


def _line(answer: dict[str, Any]) -> str:
    beam = " × ".join("–" if value is None else f"{value:.1f}°" for value in answer["beam_deg"].values())
    levels = "".join(f", {lux:.4g} lx at {typed}" for typed, lux in answer["lux_at"].items())
    return (
        f"{answer['file']}: {answer['format']} {answer['revision'] or ''} type {answer['photometry_type']}, peak"
        f" {answer['peak_cd']:,.0f} cd, {answer['lumens']:,.0f} lm, beam {beam}{levels}"
    )
