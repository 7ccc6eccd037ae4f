import os
import signal
import time
from pathlib import Path

import pytest
from sqlalchemy import create_engine, inspect, select, text
from sqlalchemy.orm import Session

from iron_bucket.core.errors import BadValue
from iron_bucket.store.bench import GearRow, bench_stamp, gear_count, slugs_like
from iron_bucket.store.engine import engine_for
from iron_bucket.store.jobs import ChangeRow
from iron_bucket.store.private_server import ServerTrouble, private_server, reachable_folder
from iron_bucket.store.schema import METADATA, migrate


def test_migrations_make_what_the_models_say(engine):
    made = inspect(engine)
    for table in METADATA.sorted_tables:
        columns = {column["name"]: column["nullable"] for column in made.get_columns(table.name)}
        assert columns == {column.name: bool(column.nullable) for column in table.columns}, table.name
        assert made.get_pk_constraint(table.name)["constrained_columns"]
        assert (
            made.get_table_options(table.name)["mysql_engine"] == "InnoDB"
            if "mysql_engine" in made.get_table_options(table.name)
            else True
        )


def test_migrating_twice_changes_nothing(engine):
    migrate(engine)
    with engine.connect() as connection:
        assert connection.execute(text("SELECT version_num FROM alembic_version")).scalar() == "0003"


@pytest.mark.parametrize("address", ["", "not an address", "sqlite://", "postgresql://localhost/x"])
def test_only_mariadb_will_do(address):
    with pytest.raises(BadValue, match="IRON_BUCKET_DATABASE_URL is"):
        engine_for(address)


def test_figures_keep_all_their_digits(demo):
    row = demo.scalars(select(GearRow).where(GearRow.slug == "day-led-300.bare")).one()
    assert row.item["peak_cd"] == pytest.approx(13750.0, rel=1e-12)
    assert slugs_like(demo, "day-led-300") >= {"day-led-300", "day-led-300.bare"}
    assert gear_count(demo) > 180
    assert len(bench_stamp(demo)) == 32
    assert demo.scalars(select(ChangeRow.text).limit(1)).one().startswith("put ")


def test_two_copies_share_one_server_and_the_last_one_stops_it(tmp_path):
    folder = reachable_folder(tmp_path / "database")
    with private_server(folder) as first:
        with private_server(folder) as second:
            assert first == second
        with create_engine(first).connect() as connection:
            assert connection.execute(text("SELECT 1")).scalar() == 1
        pid = int((folder / "server.pid").read_text())
    assert not Path(f"/proc/{pid}").exists()


def test_an_acknowledged_change_survives_a_killed_server(tmp_path):
    folder = reachable_folder(tmp_path / "durable")
    with private_server(folder) as url:
        made = create_engine(url)
        with made.begin() as connection:
            connection.execute(text("CREATE TABLE kept (id INT PRIMARY KEY)"))
            connection.execute(text("INSERT INTO kept VALUES (7)"))
        made.dispose()
        os.kill(int((folder / "server.pid").read_text()), signal.SIGKILL)
        time.sleep(0.3)  # until the kernel has taken it away
        with private_server(folder) as again, Session(create_engine(again)) as session:
            assert session.execute(text("SELECT id FROM kept")).scalar() == 7


def test_a_missing_mariadb_is_said_with_its_cure(tmp_path, monkeypatch):
    monkeypatch.setenv("PATH", str(tmp_path))
    with pytest.raises(ServerTrouble, match="apt-get install mariadb-server"), private_server(tmp_path):
        pass
