"""Every table known to the metadata, and the migrations that make them."""

from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine

from iron_bucket.store import bench, bench_changes, bucket, jobs, people, places, readings, setups, spectra, states
from iron_bucket.store.base import Base

#: Importing the modules has registered their tables.
TABLE_MODULES = (people, jobs, bucket, bench, readings, spectra, bench_changes, places, setups, states)
METADATA = Base.metadata


def migrate(engine: Engine) -> None:
    """Bring the database up to the newest migration. Safe while an older process serves."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    with engine.connect() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "head")
        connection.commit()
