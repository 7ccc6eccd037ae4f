"""What a command answers as JSON, with as many digits as a figure can mean."""

import json
from typing import Any

import click

#: Reference cases are good to seven; two more, so that nothing is lost on the way through a file.
DIGITS = 9

json_option = click.option("--json", "as_json", is_flag=True, help="The answer as one JSON object.")


def print_json(answer: Any, *, indent: int | None = None) -> None:
    """Print an answer."""
    click.echo(json.dumps(sensible(answer), allow_nan=False, ensure_ascii=False, indent=indent))


def sensible(value: Any) -> Any:
    """The same with every figure rounded to the digits that it can mean."""
    if isinstance(value, float):
        return float(f"{value:.{DIGITS}g}")
    if isinstance(value, dict):
        return {key: sensible(each) for key, each in value.items()}
    if isinstance(value, list | tuple):
        return [sensible(each) for each in value]
    return value
