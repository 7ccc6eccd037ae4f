"""The database of an installation, for commands that look after it."""

import contextlib
import os
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import click
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session

from iron_bucket.command_line.refusal import plain_refusals
from iron_bucket.desk.errors import ChangedMeanwhile, NotAllowed, NotFound
from iron_bucket.store.engine import engine_for
from iron_bucket.store.private_server import private_server
from iron_bucket.store.schema import LONGEST_WAIT_S
from iron_bucket.store.server_folder import ServerTrouble


def data_option(command: Callable[..., Any]) -> Callable[..., Any]:
    """Where a private database lives, for those who have no other."""
    return click.option(
        "--data",
        type=click.Path(file_okay=False, exists=True, path_type=Path),
        help="The data folder of a demo.  [default: the database in IRON_BUCKET_DATABASE_URL]",
    )(command)


@contextlib.contextmanager
def installation(data: Path | None) -> Iterator[str]:
    """The address of its database; what is refused is said in one sentence."""
    try:
        with plain_refusals():
            if data is None:
                yield os.environ.get("IRON_BUCKET_DATABASE_URL", "")
                return
            with private_server(data / "database") as url:
                yield url
    except (ServerTrouble, NotFound, NotAllowed, ChangedMeanwhile) as trouble:
        raise click.ClickException(str(trouble)) from trouble
    except SQLAlchemyError as trouble:
        raise click.ClickException(f"the database does not answer: {trouble.args[0]}") from trouble


@contextlib.contextmanager
def session_of(data: Path | None) -> Iterator[Session]:
    """A session on it."""
    with installation(data) as url:
        engine = engine_for(url, answer_seconds=LONGEST_WAIT_S)
        with Session(engine, expire_on_commit=False) as session:
            yield session
        engine.dispose()
