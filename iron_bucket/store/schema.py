"""Every table known to the metadata, and the migrations that make them."""

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from uuid import uuid4

from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory
from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from iron_bucket.store import (
    bench,
    bucket,
    crews,
    days,
    events,
    history,
    jobs,
    people,
    photos,
    places,
    power,
    readings,
    setups,
    sign_ins,
    spectra,
    states,
    ticks,
    uploads,
)
from iron_bucket.store.base import Base

#: Importing the modules has registered their tables.
TABLE_MODULES = (
    *(people, sign_ins, events, crews, jobs, bucket, bench, readings, spectra, places, photos),
    *(setups, power, days, ticks, states, history, uploads),
)
METADATA = Base.metadata
#: How long a start waits for another that migrates or loads the demo.
LONGEST_WAIT_S = 300


def migrate(engine: Engine, to: str = "head") -> None:
    """Bring the database up to a migration, the newest unless said otherwise, after whoever is at it already.

    Safe after a start that was cut short.
    """
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    with one_start_at_a_time(engine), engine.connect() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, to)
        connection.commit()


@contextmanager
def one_start_at_a_time(engine: Engine) -> Iterator[None]:
    """Held by one start, on a connection of its own because making tables commits; it falls with its process.

    A locked row and not a named lock: in a cluster the row's new token makes the later of two commits fail, which a
    named lock would not.
    """
    with engine.connect() as connection:
        connection.execute(
            text(
                "CREATE TABLE IF NOT EXISTS start_lock"
                " (id BIGINT PRIMARY KEY, token VARCHAR(32) NOT NULL) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4"
            )
        )
        connection.execute(text("INSERT IGNORE INTO start_lock VALUES (1, '')"))
        connection.commit()
        connection.execute(text(f"SET SESSION innodb_lock_wait_timeout = {LONGEST_WAIT_S}"))
        connection.execute(text("SELECT token FROM start_lock WHERE id = 1 FOR UPDATE"))
        connection.execute(text("UPDATE start_lock SET token = :token WHERE id = 1"), {"token": uuid4().hex})
        try:
            yield
        finally:
            connection.commit()
            connection.invalidate()  # its longer wait is not for others


def newest_migration() -> str:
    """The last one that this program knows."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    return str(ScriptDirectory.from_config(config).get_current_head())


def standing_migration(session: Session) -> str:
    """The last one that the database has seen; a newer one than ours is well: an older process goes on serving."""
    return str(session.execute(text("SELECT version_num FROM alembic_version")).scalar() or "")
