"""``iron-bucket colour``: the figures of spectra."""

import sys
from pathlib import Path
from typing import Any

import click

from iron_bucket.command_line.answer import print_json
from iron_bucket.core.colour.spectral_figures import likenesses, spectral_figures
from iron_bucket.core.errors import NoAnswer
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.spectrum import read_spectrum
from iron_bucket.formats.text_file import FILE_LIMIT_BYTES


@click.command()
@click.option("--json", "as_json", is_flag=True, help="One JSON object a line, in the order given.")
@click.argument("files", nargs=-1, required=True, metavar="SPECTRUM...")
def colour(as_json: bool, files: tuple[str, ...]) -> None:
    """CCT, Duv, Ra, R9, Rf, Rg of spectra, and how like 3200 K tungsten and D55 they are."""
    failed = False
    for name in files:
        answer = _answer(name)
        failed = failed or "error" in answer
        if as_json:
            print_json(answer)
        elif "error" in answer:
            click.echo(f"{name}: {answer['error']}", err=True)
        else:
            click.echo(
                f"{name}: {answer['cct_k']:.0f} K, Duv {answer['duv']:+.4f}, Ra {answer['cri_ra']:.1f}, R9"
                f" {answer['cri_r9']:.0f}, Rf {answer['tm30_rf']:.0f}, Rg {answer['tm30_rg']:.0f}, like 3200 K"
                f" {answer['similarity_3200k']:.0f}, like D55 {answer['similarity_d55']:.0f}"
            )
    sys.exit(1 if failed else 0)


def _answer(name: str) -> dict[str, Any]:
    try:
        with Path(name).open("rb") as file:
            spectrum = read_spectrum(file.read(FILE_LIMIT_BYTES + 1))
        found = spectral_figures(spectrum)
        tungsten, daylight = likenesses(spectrum)
    except (FormatError, NoAnswer) as bad:
        return {"file": name, "error": str(bad)}
    except (OSError, ValueError) as bad:  # a name with a null byte in it
        reason = bad.strerror if isinstance(bad, OSError) else bad
        return {"file": name, "error": f"the file cannot be opened: {reason or bad}"}
    return {
        "file": name,
        "cct_k": found.cct_k,
        "duv": found.duv,
        "cri_ra": found.ra,
        "cri_r9": found.r9,
        "tm30_rf": found.rf,
        "tm30_rg": found.rg,
        "similarity_3200k": tungsten,
        "similarity_d55": daylight,
    }
