import contextlib
import os
import signal
import subprocess
import sys
import time

import pytest
from sqlalchemy import create_engine, event, select, text
from sqlalchemy.exc import OperationalError, SQLAlchemyError

from iron_bucket.core.errors import BadValue
from iron_bucket.store.bench import GearRow, bench_stamp, gear_count, slugs_like
from iron_bucket.store.engine import engine_for
from iron_bucket.store.history import ChangeRow
from iron_bucket.store.one_connection import OneConnection
from iron_bucket.store.private_server import private_server
from iron_bucket.store.processes import ProcessMark, servers_of
from iron_bucket.store.server_folder import ServerFolder, ServerTrouble


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
    assert demo.scalars(select(ChangeRow.text).order_by(ChangeRow.id)).first() == "made the job The Borrowed Minute"


@pytest.fixture
def folder(open_folder) -> ServerFolder:
    return ServerFolder(path=open_folder / "database")


def one_server(folder: ServerFolder) -> ProcessMark:
    (mark,) = servers_of(folder.data)
    return mark


def until(claim, within_s: float = 20.0):
    """What a claim gives as soon as it holds."""
    deadline = time.monotonic() + within_s
    while time.monotonic() < deadline:
        with contextlib.suppress(SQLAlchemyError, ValueError):
            if found := claim():
                return found
        time.sleep(0.05)
    raise AssertionError("it did not come to pass in time")


def number_one(url: str) -> int:
    engine = create_engine(url)
    try:
        with engine.connect() as connection:
            return connection.execute(text("SELECT 1")).scalar_one()
    finally:
        engine.dispose()


def test_two_copies_share_one_server_and_the_last_one_stops_it(folder):
    with private_server(folder.path) as first:
        with private_server(folder.path) as second:
            assert first == second
        assert number_one(first) == 1
    assert servers_of(folder.data) == []
    assert folder.keeper() is None


def test_an_acknowledged_change_survives_a_killed_server_which_is_back_in_seconds(folder):
    with private_server(folder.path) as url:
        made = create_engine(url, pool_pre_ping=True)
        with made.begin() as connection:
            connection.execute(text("CREATE TABLE kept (id INT PRIMARY KEY)"))
            connection.execute(text("INSERT INTO kept VALUES (7)"))
        os.kill(one_server(folder).pid, signal.SIGKILL)
        with until(made.connect) as connection:
            assert connection.execute(text("SELECT id FROM kept")).scalar() == 7
        made.dispose()
    assert "the server ended with -9; starting it again" in folder.log.read_text()


def test_a_killed_keeper_takes_its_server_along_and_is_replaced(folder):
    with private_server(folder.path) as url:
        keeper, server = folder.keeper(), one_server(folder)
        os.kill(keeper.pid, signal.SIGKILL)
        assert until(lambda: folder.keeper() not in (None, keeper))
        assert until(lambda: number_one(url)) == 1
        assert not server.is_alive


@pytest.mark.parametrize("content", [None, "", '{"port": "33', '{"port": "none", "password": ""}'])
def test_a_state_that_is_gone_empty_or_cut_is_made_anew(folder, content):
    with private_server(folder.path):
        pass
    folder.state_file.unlink() if content is None else folder.state_file.write_text(content)
    with private_server(folder.path) as url:
        assert number_one(url) == 1


def test_a_user_that_is_killed_leaves_no_server(folder):
    user = (
        "import sys, time; from pathlib import Path; from iron_bucket.store.private_server import private_server\nwith"
        " private_server(Path(sys.argv[1]), is_throw_away=True): print('up', flush=True); time.sleep(60)"
    )
    process = subprocess.Popen([sys.executable, "-c", user, folder.path], stdout=subprocess.PIPE, text=True)
    assert process.stdout.readline() == "up\n"
    assert len(servers_of(folder.data)) == 1
    process.kill()
    process.communicate()
    until(lambda: not servers_of(folder.data) and not folder.path.exists())


def test_a_missing_mariadb_is_said_with_its_cure(tmp_path, monkeypatch):
    monkeypatch.setenv("PATH", str(tmp_path))
    with pytest.raises(ServerTrouble, match="apt-get install mariadb-server"), private_server(tmp_path):
        pass


def test_a_request_takes_and_tries_one_connection_and_gets_another_for_one_that_was_lost(engine):
    taken = []
    event.listen(engine, "checkout", lambda *_: taken.append(1))
    session = OneConnection(engine)
    numbers = set()
    for _ in range(3):
        with session.begin():
            numbers.add(session.scalar(text("SELECT CONNECTION_ID()")))
    assert (len(numbers), len(taken), engine.pool.checkedout()) == (1, 1, 1)
    with engine.connect() as other:
        other.execute(text(f"KILL {numbers.pop()}"))
    with pytest.raises(OperationalError), session.begin():
        session.execute(text("SELECT 1"))
    with session.begin():
        assert session.scalar(text("SELECT 1")) == 1
    session.close()
    assert engine.pool.checkedout() == 0
