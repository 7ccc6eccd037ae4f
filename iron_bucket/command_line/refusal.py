"""One plain sentence and a non-zero exit instead of a traceback."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TypeVar

import click

from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.core.quantities.parse import with_program_decimals
from iron_bucket.formats.errors import FormatError

T = TypeVar("T")


@contextmanager
def plain_refusals() -> Iterator[None]:
    """Turn what the core and the formats refuse into the command's own refusal, exit status 1."""
    try:
        yield
    except (BadValue, NoAnswer, FormatError) as bad:
        raise click.ClickException(str(bad)) from bad


def typed(
    field: str, reader: Callable[[str, str], T]
) -> Callable[[click.Context, click.Parameter, str | None], T | None]:
    """A click callback that reads an option with one of the core's readers."""

    def read(context: click.Context, parameter: click.Parameter, value: str | None) -> T | None:
        if value is None:
            return None
        with plain_refusals():
            return reader(with_program_decimals(value), field)

    return read


def file_text(path: Path) -> str:
    """The text of a file somebody named. Raises: ClickException with the reason."""
    try:
        return path.read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as bad:
        reason = bad.strerror if isinstance(bad, OSError) else "not a UTF-8 text"
        raise click.ClickException(f"{path} cannot be read: {reason}") from bad
