"""What looks after an installation: people, backup and restore, pruning, the check, the first start."""

import gzip
import itertools
import json
import os
import re
import subprocess
import sys
import urllib.request
from pathlib import Path

import pytest
from click.testing import CliRunner
from sqlalchemy import text

from iron_bucket.command_line.demo import password_for
from iron_bucket.command_line.main import main
from iron_bucket.command_line.serve import prepare
from iron_bucket.demo.sign_in import DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.desk import people
from iron_bucket.desk.errors import NotAllowed
from iron_bucket.store.engine import engine_for
from iron_bucket.store.schema import METADATA
from tests.database import free_port

ROOT = Path(__file__).parents[2]


@pytest.fixture
def run(database_url, monkeypatch):
    monkeypatch.setenv("IRON_BUCKET_DATABASE_URL", database_url)

    def call(*words: str, status: int = 0):
        done = CliRunner().invoke(main, list(words), prog_name="iron-bucket")
        assert done.exit_code == status, done.output
        return done.output

    return call


@pytest.fixture
def other_url(database_url):
    """An empty database beside the first."""
    bare = engine_for(database_url)
    with bare.begin() as connection:
        connection.execute(text("DROP DATABASE IF EXISTS app_restored"))
        connection.execute(text("CREATE DATABASE app_restored CHARACTER SET utf8mb4"))
    bare.dispose()
    return database_url.replace("/app_main", "/app_restored")


def rows(url: str) -> dict[str, list]:
    made = engine_for(url)
    with made.connect() as connection:
        found = {table.name: sorted(map(repr, connection.execute(table.select()))) for table in METADATA.sorted_tables}
    made.dispose()
    return found


def test_everything_comes_back_from_a_backup(run, demo, database_url, other_url, tmp_path, monkeypatch):
    file, cut = tmp_path / "all.sql.gz", tmp_path / "cut.sql.gz"
    assert json.loads(run("backup", str(file), "--json"))["bytes"] == file.stat().st_size > 40_000
    assert list(tmp_path.iterdir()) == [file]
    before = rows(database_url)
    assert "there are tables in this database" in run("restore", str(file), status=1)
    cut.write_bytes(gzip.compress(gzip.decompress(file.read_bytes())[:-5000]))
    monkeypatch.setenv("IRON_BUCKET_DATABASE_URL", other_url)
    assert "is no whole backup" in run("restore", str(cut), status=1)
    run("restore", str(file))
    assert rows(other_url) == before
    assert len(before["setups"]) > 10
    run("restore", str(file), "--replace")
    assert rows(other_url) == before
    monkeypatch.setenv("IRON_BUCKET_DATABASE_URL", "mysql+pymysql://app:x@127.0.0.1:1/none")
    assert "broke off" in run("backup", str(tmp_path / "none.gz"), status=1)
    assert not (tmp_path / "none.gz").exists()


def test_the_check_names_what_cannot_be_read_and_pruning_says_what_went(run, demo):
    assert "everything can be read" in run("check")
    with demo.begin():
        demo.execute(text("UPDATE setups SET document = JSON_SET(document, '$.weather', 'molten') WHERE id = 1"))
        demo.execute(text("UPDATE history SET touched = JSON_SET(touched, '$[0].after', 'abc') WHERE id = 2"))
    found = json.loads(run("check", "--json", status=1))["unreadable"]
    assert found == [found[0], "history 2: the state abc is not kept"]
    assert found[0].startswith("setups 1: weather is 'molten'")
    assert set(json.loads(run("prune", "--json"))) == {"history", "states", "sign_ins", "events"}


def test_people_are_looked_after_from_the_command_line(run, demo):
    made = json.loads(run("people", "add", "anselm", "Spark Anselm", "--role", "best boy", "--json"))
    assert re.fullmatch(r"http://127.0.0.1:8000/welcome/([A-Z0-9]{4}-){4}[A-Z0-9]{4}", made["link"])
    assert "a sign-in nobody has yet" in run("people", "add", "anselm", "Again", status=1)
    run("people", "rename", "anselm", "Anselm")
    run("people", "disable", "anselm")
    run("people", "administrator", "ilse")
    listed = {each["sign_in"]: each for each in json.loads(run("people", "list", "--json"))}
    assert (listed["anselm"]["name"], listed["anselm"]["is_disabled"], listed["ilse"]["is_admin"]) == (
        "Anselm",
        True,
        True,
    )
    assert "anselm\tAnselm\tdisabled" in run("people", "list")
    run("people", "enable", "anselm")
    run("people", "administrator", "ilse", "--no")
    assert "nobody would be left" in run("people", "administrator", "gaffer", "--no", status=1)
    assert "nobody signs in as 'none'" in run("people", "reset", "none", status=1)
    assert "/welcome/" in run("people", "reset", "gaffer")


def test_the_first_start_of_an_installation_prints_how_to_get_in(session, database_url, capsys):
    """A server of its own, by the settings; a second start says nothing of it."""
    port = free_port()
    key = {"IRON_BUCKET_SECRET_KEY": "s" * 32, "IRON_BUCKET_DATABASE_URL": database_url}
    command = [sys.executable, "-m", "iron_bucket", "serve", "--port", str(port), "--workers", "1"]
    streams = {"stdout": subprocess.PIPE, "stderr": subprocess.DEVNULL, "text": True}
    with subprocess.Popen(command, env={**os.environ, **key}, cwd=ROOT, **streams) as server:
        said = "".join(itertools.islice(server.stdout, 4))
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/readyz", timeout=20) as answer:
            assert answer.read() == b"ready\n"
        server.terminate()
    here = f"http://127.0.0.1:{port}"
    told = rf"admin sets a password, once .*\n  {here}/welcome/[A-Z0-9-]{{24}}\nIron Bucket is at {here}\n"
    assert re.search(told, said)
    prepare(database_url, here)
    assert capsys.readouterr().out == ""


@pytest.mark.parametrize("host", ["0.0.0.0", "192.0.2.1", "::"])
def test_where_others_reach_the_demo_its_password_is_drawn_anew(demo, database_url, host):
    drawn = {password_for(database_url, host) for _ in range(2)}
    assert len(drawn | {DEMO_PASSWORD}) == 3
    with pytest.raises(NotAllowed):
        people.sign_in(demo, DEMO_SIGN_IN, DEMO_PASSWORD)
    assert password_for(database_url, "127.0.0.1") == DEMO_PASSWORD
    assert people.sign_in(demo, DEMO_SIGN_IN, DEMO_PASSWORD)
