"""A throw-away MariaDB for the tests that ask for one, and the demo in it. Imported by the folders whose tests do."""

import hashlib
import os
import socket
import tempfile
import time
from collections.abc import Iterator
from datetime import timedelta
from pathlib import Path

import pytest
from sqlalchemy import Engine, event, text
from sqlalchemy.orm import Session

from iron_bucket.demo.sign_in import DEMO_SIGN_IN
from iron_bucket.desk.demo import load_demo
from iron_bucket.desk.transaction import now
from iron_bucket.store.crews import FIRST_CREW, enter_crew
from iron_bucket.store.engine import engine_for
from iron_bucket.store.history import Scope, ScopeKind, around
from iron_bucket.store.people import person_by_sign_in
from iron_bucket.store.private_server import private_server
from iron_bucket.store.schema import METADATA, migrate
from iron_bucket.store.sign_ins import SignInRow


def memory_folder() -> Path:
    """Where a throw-away server lives: in memory where the machine has such a folder."""
    return Path("/dev/shm") if os.access("/dev/shm", os.W_OK) else Path(tempfile.gettempdir())


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return probe.getsockname()[1]


def wait_until_served(port: int) -> None:
    for _ in range(400):
        with socket.socket() as probe:
            if probe.connect_ex(("127.0.0.1", port)) == 0:
                return
        time.sleep(0.1)
    raise AssertionError(f"nothing answers on port {port}")


@pytest.fixture
def open_folder() -> Iterator[Path]:
    """A folder that the database's own user may enter, which it may not in pytest's."""
    with tempfile.TemporaryDirectory(dir=memory_folder(), prefix="iron-bucket-", ignore_cleanup_errors=True) as path:
        Path(path).chmod(0o755)
        yield Path(path)


@pytest.fixture(scope="session")
def database_url() -> Iterator[str]:
    """One server for each worker."""
    with private_server(memory_folder() / f"iron-bucket-test-{os.getpid()}", is_throw_away=True) as url:
        yield url


@pytest.fixture(scope="session")
def engine(database_url) -> Iterator[Engine]:
    made = engine_for(database_url)
    migrate(made)
    yield made
    made.dispose()


def _emptied(engine: Engine) -> None:
    with engine.begin() as connection:
        for table in reversed(METADATA.sorted_tables):
            connection.execute(text(f"DELETE FROM {table.name}"))
        connection.execute(text("INSERT INTO standing_crews VALUES (1, 'Our crew', UTC_TIMESTAMP())"))


@pytest.fixture
def session(engine) -> Iterator[Session]:
    """A session on an empty database."""
    _emptied(engine)
    with Session(engine, expire_on_commit=False) as made:
        enter_crew(made, FIRST_CREW)
        yield made


_DEMO_ROWS: dict[str, list[dict]] = {}
#: What was written since the demo's rows were put there; a test that only reads leaves them to the next.
_WRITTEN: list[str] = ["nothing is there yet"]


@event.listens_for(Engine, "before_cursor_execute")
def _note_writing(connection, cursor, statement, *rest) -> None:
    if statement.lstrip()[:6].upper() in ("INSERT", "UPDATE", "DELETE"):
        _WRITTEN.append(statement)


@pytest.fixture
def demo(engine) -> Iterator[Session]:
    """A session on the demo's gear, person and jobs; computed once a worker, then copied back where a test wrote."""
    with Session(engine, expire_on_commit=False) as session:
        if _WRITTEN:
            _emptied(engine)
            _fill(session)
            _WRITTEN.clear()
        enter_crew(session, FIRST_CREW)
        yield session


#: A device on which the demo's gaffer is signed in, so that no test pays for a password, a fifth of a second by design.
SIGNED_IN = "a-token-of-the-tests"


def _standing_sign_in(session: Session) -> SignInRow:
    """Seen tomorrow: nothing is written while it is used."""
    person = person_by_sign_in(session, DEMO_SIGN_IN)
    digest, at = hashlib.sha256(SIGNED_IN.encode()).hexdigest(), now()
    return SignInRow(
        token_digest=digest, person_id=person.id, began_at=at, seen_at=at + timedelta(days=1), address="", device=""
    )


def _fill(session: Session) -> None:
    if not _DEMO_ROWS:
        assert load_demo(session)
        with session.begin():
            session.add(_standing_sign_in(session))
        with session.begin():
            for table in METADATA.sorted_tables:
                _DEMO_ROWS[table.name] = [dict(row) for row in session.execute(table.select()).mappings()]
        return
    with session.begin():
        session.execute(text("DELETE FROM standing_crews"))
        for table in METADATA.sorted_tables:
            if _DEMO_ROWS[table.name]:
                session.execute(table.insert(), _DEMO_ROWS[table.name])


def to_undo(session: Session, kind: ScopeKind, number: int) -> int:
    """The number of the change that a page would offer to undo; 0 where there is none."""
    with session.begin():
        found = around(session, Scope(kind, number)).undo
    return found.number if found else 0


def to_redo(session: Session, kind: ScopeKind, number: int) -> int:
    with session.begin():
        found = around(session, Scope(kind, number)).redo
    return found.number if found else 0
