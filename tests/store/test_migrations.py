"""Migrations against the real MariaDB: what they make, cut short, and what they carry over."""

import json
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager

from sqlalchemy import inspect, text
from sqlalchemy.orm import Session

from iron_bucket.desk.history import step
from iron_bucket.store.crews import FIRST_CREW, enter_crew
from iron_bucket.store.engine import engine_for
from iron_bucket.store.history import Scope, ScopeKind, around
from iron_bucket.store.jobs import JobRow
from iron_bucket.store.places import PlaceRow
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


@contextmanager
def a_database(url: str, name: str):
    """An empty one of its own."""
    bare = engine_for(url)
    with bare.begin() as connection:
        connection.execute(text(f"CREATE DATABASE {name} CHARACTER SET utf8mb4"))
    bare.dispose()
    engine = engine_for(url.replace("/app_main", f"/{name}"))
    yield engine
    engine.dispose()


def test_a_migration_cut_short_is_finished_and_two_at_once_wait(database_url):
    """MariaDB keeps the tables of a migration that did not end."""
    with a_database(database_url, "app_cut") as engine:
        migrate(engine)
        with engine.begin() as connection:
            connection.execute(text("DROP TABLE shares"))
            connection.execute(text("UPDATE alembic_version SET version_num = '0001'"))
        with ThreadPoolExecutor() as pool:
            list(pool.map(lambda _: migrate(engine), range(3)))
        assert "shares" in inspect(engine).get_table_names()


def test_what_was_noted_before_there_was_one_history_can_be_undone(database_url):
    """A place at the second of three states, a job renamed, a line put in a bucket and taken out by undo."""
    at = "'2026-01-01'"
    names = ("Shed", "Barn", "Byre")
    rules = {"voltage_v": 230}
    before = {"name": "Old", "places": "", "rules": rules, "is_archived": False}
    with a_database(database_url, "app_old") as engine:
        migrate(engine, "0003")
        with engine.begin() as connection:

            def put(table: str, values: str, **more: str) -> None:
                connection.execute(text(f"INSERT INTO {table} VALUES ({values})"), more)

            put("people (id, name, sign_in, password_hash, created_at)", f"1, 'A', 'a', 'x', {at}")
            put(
                "jobs (id, name, places, rules, version, is_archived, created_at, changed_at)",
                f"1, 'New', '', :rules, 2, 0, {at}, {at}",
                rules=json.dumps(rules),
            )
            put("places (id, name, version, at_state, created_at, changed_at)", f"1, 'Barn', 4, 2, {at}, {at}")
            for number, name in enumerate(names, 1):
                put(
                    "place_states (owner_id, number, document, text, person_id, made_at)",
                    f"1, {number}, :document, 'named {name}', 1, {at}",
                    document=json.dumps({"name": name}),
                )
            put(
                "changes (job_id, person_id, subject, text, `before`, made_at)",
                f"1, 1, 'job', 'renamed', :before, {at}",
                before=json.dumps(before),
            )
        for _ in range(2):  # again from before it, as after a start that was cut short
            migrate(engine)
            with engine.begin() as connection:
                connection.execute(text("UPDATE alembic_version SET version_num = '0003'"))
        with Session(engine) as session:
            enter_crew(session, FIRST_CREW)  # what was everybody's is the first crew's
            place, job = Scope(ScopeKind.PLACE, 1), Scope(ScopeKind.JOB, 1)
            assert session.get_one(PlaceRow, 1).document == {"name": "Barn"}
            undo, redo = around(session, place)
            assert (undo.text, redo.text) == ("named Barn", "named Byre")
            assert step(session, place, 1, undo.number, is_back=True) == "named Barn"
            assert session.get_one(PlaceRow, 1).name == "Shed"
            for words in ("named Barn", "named Byre"):
                assert step(session, place, 1, around(session, place).redo.number, is_back=False) == words
            assert session.get_one(PlaceRow, 1).document == {"name": "Byre"}
            assert step(session, job, 1, around(session, job).undo.number, is_back=True) == "renamed"
            assert session.get_one(JobRow, 1).name == "Old"
