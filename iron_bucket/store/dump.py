"""The whole database as one compressed file of SQL, and back."""

import contextlib
import gzip
import os
import shutil
import subprocess
from pathlib import Path

from sqlalchemy.engine import make_url

from iron_bucket.store.server_folder import ServerTrouble

_BLOCK = 1 << 20
#: What the dump ends with; one that does not was cut short.
_END = b"-- Dump completed"


def dump_database(database_url: str, path: Path) -> int:
    """Write everything as it stands at one moment, while others go on writing; gives the bytes of the file. The file is
    there whole or not at all.

    Raises: ServerTrouble.
    """
    consistent = ("--single-transaction", "--quick", "--hex-blob", "--no-tablespaces", "--skip-lock-tables")
    unfinished = path.with_name(path.name + ".unfinished")
    tail = b""
    try:
        with _client("mariadb-dump", database_url, *consistent, stdout=subprocess.PIPE) as dump:
            with gzip.open(unfinished, "wb", compresslevel=6) as file:
                while block := dump.stdout.read(_BLOCK):  # type: ignore[union-attr]
                    file.write(block)
                    tail = (tail + block)[-200:]
            _require_success(dump, "the dump")
        if _END not in tail:
            raise ServerTrouble("the dump was cut short")
        with unfinished.open("rb") as written:
            os.fsync(written.fileno())
        unfinished.rename(path)
    finally:
        unfinished.unlink(missing_ok=True)
    return path.stat().st_size


def load_database(database_url: str, path: Path) -> None:
    """Everything of a file into a database, in place of the tables there.

    Raises: ServerTrouble; before anything is written where the file was cut short.
    """
    try:
        _require_whole(path)
        with _client("mariadb", database_url, stdin=subprocess.PIPE) as load:
            with contextlib.suppress(BrokenPipeError), gzip.open(path, "rb") as file:
                shutil.copyfileobj(file, load.stdin, _BLOCK)  # type: ignore[arg-type]
            with contextlib.suppress(BrokenPipeError):
                load.stdin.close()  # type: ignore[union-attr]
            _require_success(load, "the restore")
    except (OSError, EOFError) as bad:
        raise ServerTrouble(f"{path} cannot be read: {bad}") from bad


def _require_whole(path: Path) -> None:
    tail = b""
    with gzip.open(path, "rb") as file:
        while block := file.read(_BLOCK):
            tail = (tail + block)[-200:]
    if _END not in tail:
        raise ServerTrouble(f"{path} is no whole backup")


def _client(program: str, database_url: str, *options: str, **pipes: int) -> "subprocess.Popen[bytes]":
    """A client of the database's own; the password goes by the environment, where no list of processes shows it."""
    if shutil.which(program) is None:
        raise ServerTrouble(f"{program} is not installed: apt-get install mariadb-client")
    url = make_url(database_url)
    where = ("--no-defaults", f"--host={url.host}", f"--port={url.port or 3306}", f"--user={url.username}")
    client: subprocess.Popen[bytes] = subprocess.Popen(
        [program, *where, *options, str(url.database)],
        env={**os.environ, "MYSQL_PWD": url.password or ""},
        stderr=subprocess.PIPE,
        **pipes,  # type: ignore[call-overload]
    )
    return client


def _require_success(process: "subprocess.Popen[bytes]", what: str) -> None:
    said = process.stderr.read().decode(errors="replace").strip() if process.stderr else ""
    if process.wait():
        raise ServerTrouble(f"{what} broke off: {said.splitlines()[-1] if said else process.returncode}")
