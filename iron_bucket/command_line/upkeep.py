"""``iron-bucket backup``, ``restore``, ``prune`` and ``check``: what an installation needs now and then."""

from dataclasses import asdict
from pathlib import Path

import click
from sqlalchemy import inspect

from iron_bucket.command_line.answer import json_option, print_json
from iron_bucket.command_line.installation import data_option, installation, session_of
from iron_bucket.desk import upkeep
from iron_bucket.store.dump import dump_database, load_database
from iron_bucket.store.engine import engine_for
from iron_bucket.store.schema import LONGEST_WAIT_S, migrate


@click.command()
@click.argument("file", type=click.Path(dir_okay=False, path_type=Path))
@data_option
@json_option
def backup(file: Path, data: Path | None, as_json: bool) -> None:
    """Everything, as it stands at one moment, into FILE (compressed SQL), while others go on working."""
    with installation(data) as url:
        size = dump_database(url, file)
    if as_json:
        print_json({"file": str(file), "bytes": size})
    else:
        click.echo(f"{file}: {size:,} bytes")


@click.command()
@click.argument("file", type=click.Path(dir_okay=False, exists=True, path_type=Path))
@click.option("--replace", is_flag=True, help="Also where there are tables: they are lost.")
@data_option
@json_option
def restore(file: Path, replace: bool, data: Path | None, as_json: bool) -> None:
    """Everything from FILE into an empty database, brought up to date."""
    with installation(data) as url:
        engine = engine_for(url, answer_seconds=LONGEST_WAIT_S)
        if inspect(engine).get_table_names() and not replace:
            raise click.ClickException("there are tables in this database; with --replace they are lost")
        load_database(url, file)
        migrate(engine)
        engine.dispose()
    if as_json:
        print_json({"restored": str(file)})


@click.command()
@data_option
@json_option
def prune(data: Path | None, as_json: bool) -> None:
    """Thin history older than 90 days to a state a day; take away old sign-ins, and what was told over 400 days ago."""
    with session_of(data) as session:
        pruned = asdict(upkeep.prune(session))
    if as_json:
        print_json(pruned)
    else:
        click.echo(", ".join(f"{count} {name.replace('_', '-')}" for name, count in pruned.items()) + " taken away")


@click.command()
@data_option
@json_option
def check(data: Path | None, as_json: bool) -> None:
    """Name every row that cannot be read; ends with 1 where there is any."""
    with session_of(data) as session:
        found = list(upkeep.unreadable(session))
    if as_json:
        print_json({"unreadable": found})
    else:
        click.echo("\n".join(found) or "everything can be read")
    if found:
        raise SystemExit(1)
