"""The process that keeps one private database server: starts it, starts it again when it dies, stops it when nobody
uses it.

Run as ``python -m iron_bucket.store.server_keeper FOLDER [--throw-away]``. It belongs to no session, so that it
outlives whoever
started it, as long as anybody uses the server; the server ends with it, however it ends.
"""

import contextlib
import json
import os
import secrets
import shutil
import signal
import socket
import subprocess
import sys
import time
from datetime import UTC, datetime
from pathlib import Path

import pymysql

from iron_bucket.store.atomic_file import write_atomically
from iron_bucket.store.processes import end, own_mark, servers_of
from iron_bucket.store.server_folder import SERVER_USER, ServerFolder, ServerTrouble
from iron_bucket.store.server_install import install

START_SECONDS, STOP_SECONDS, LOOK_SECONDS = 60.0, 30.0, 0.1
#: A server that dies so often within a minute has a reason that starting it again does not mend.
MOST_RESTARTS, RESTARTS_WITHIN_S = 10, 60.0
DATABASE = "app_main"


class Keeper:
    """One server and its folder."""

    def __init__(self, folder: ServerFolder, *, is_throw_away: bool) -> None:
        self._folder, self._is_throw_away = folder, is_throw_away
        self._server: subprocess.Popen[bytes] | None = None
        self._is_over = False

    def keep(self) -> None:
        """Until nobody uses it."""
        for left in servers_of(self._folder.data):
            self._say(f"found the server {left.pid} without a keeper; stopping it")
            end(left, within_s=STOP_SECONDS)
        install(self._folder)
        self._start()
        starts: list[float] = []
        while not self._stopped_for_want_of_users():
            time.sleep(LOOK_SECONDS)
            if self._server is not None and self._server.poll() is not None:
                self._say(f"the server ended with {self._server.returncode}; starting it again")
                starts = [each for each in starts if each > time.monotonic() - RESTARTS_WITHIN_S]
                starts.append(time.monotonic())
                if len(starts) > MOST_RESTARTS:
                    raise ServerTrouble(f"the database keeps ending; its own words are in {self._folder.error_log}")
                self._start()

    def stop(self) -> None:
        """The server, and what says that it runs; once, for the next keeper may be at work already."""
        if self._is_over:
            return
        self._is_over = True
        if self._server is not None and self._server.poll() is None:
            self._server.terminate()
            try:
                self._server.wait(STOP_SECONDS)
            except subprocess.TimeoutExpired:
                self._server.kill()
                self._server.wait()
        if self._is_throw_away:
            shutil.rmtree(self._folder.path, ignore_errors=True)
        else:
            self._say("stopped")
            self._folder.keeper_file.unlink(missing_ok=True)

    def _stopped_for_want_of_users(self) -> bool:
        if self._folder.live_users():
            return False
        with self._folder.locked(is_waiting=False) as is_mine:
            if not is_mine or self._folder.live_users():  # somebody comes in at this moment
                return False
            self.stop()
            return True

    def _start(self) -> None:
        former = self._folder.state()
        port, password = _port(former.get("port")), former.get("password") or secrets.token_urlsafe(24)
        init = self._folder.path / "init.sql"
        write_atomically(init, _init_sql(password))
        self._folder.hand_over(init)
        as_user = [f"--reuid={SERVER_USER}", f"--regid={SERVER_USER}", "--init-groups"] if os.geteuid() == 0 else []
        command = [
            "setpriv",
            "--pdeathsig=TERM",
            *as_user,
            shutil.which("mariadbd") or "mariadbd",
            "--no-defaults",
            f"--datadir={self._folder.data}",
            f"--tmpdir={self._folder.temporary}",
            "--socket=server.sock",  # beside the tables: an absolute path may be longer than a socket's may
            f"--pid-file={self._folder.path / 'server.pid'}",
            f"--port={port}",
            "--bind-address=127.0.0.1",
            "--skip-name-resolve",
            f"--log-error={self._folder.error_log}",
            "--character-set-server=utf8mb4",
            "--collation-server=utf8mb4_unicode_520_ci",
            "--innodb-log-file-size=16M",
            "--max-allowed-packet=128M",  # a whole bench in one change
            f"--init-file={init}",
            *(["--innodb-flush-log-at-trx-commit=2"] if self._is_throw_away else []),
        ]
        with (self._folder.path / "start.log").open("wb") as log:
            self._server = subprocess.Popen(command, stdin=subprocess.DEVNULL, stdout=log, stderr=log)
        self._wait_until_it_answers(port, password)
        write_atomically(self._folder.state_file, json.dumps({"port": str(port), "password": password}))
        self._say(f"the server {self._server.pid} answers on port {port}")

    def _wait_until_it_answers(self, port: int, password: str) -> None:
        deadline = time.monotonic() + START_SECONDS
        while not answers(port, password):
            if self._server is None or self._server.poll() is not None or time.monotonic() > deadline:
                raise ServerTrouble(f"the database did not start; its own words are in {self._folder.error_log}")
            time.sleep(0.03)

    def _say(self, text: str) -> None:
        print(f"{datetime.now(UTC):%Y-%m-%d %H:%M:%S} {text}", flush=True)  # noqa: T201 - this is the keeper's log


def answers(port: int, password: str) -> bool:
    """Whether our own server, and no other, serves that port."""
    with contextlib.suppress(pymysql.MySQLError, OSError):
        pymysql.connect(
            host="127.0.0.1", port=port, user="app", password=password, database=DATABASE, connect_timeout=2
        ).close()
        return True
    return False


def _init_sql(password: str) -> str:
    """What the server does at each start; the password is set anew, for a state file that was lost names another."""
    lines = [
        f"CREATE USER IF NOT EXISTS 'app'@'{host}' IDENTIFIED BY '{password}';\n"
        f"ALTER USER 'app'@'{host}' IDENTIFIED BY '{password}';\n"
        f"GRANT ALL ON `app\\_%`.* TO 'app'@'{host}';\n"
        for host in ("127.0.0.1", "localhost")
    ]
    return "".join([*lines, f"CREATE DATABASE IF NOT EXISTS {DATABASE} CHARACTER SET utf8mb4;\n"])


def _port(former: str | None) -> int:
    """The port that the server had before, so that who was connected finds it again; any free one
    where that is taken."""
    for wanted in (int(former or 0), 0):
        with contextlib.suppress(OSError), socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            probe.bind(("127.0.0.1", wanted))
            return int(probe.getsockname()[1])
    raise ServerTrouble("no port is free on 127.0.0.1")


def main(path: str, *flags: str) -> None:
    """Keep the server of one folder. Raises: SystemExit with the trouble, which the log holds then."""
    folder = ServerFolder(path=Path(path))
    keeper = Keeper(folder, is_throw_away="--throw-away" in flags)
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    write_atomically(folder.keeper_file, str(own_mark()))
    try:
        keeper.keep()
    except ServerTrouble as trouble:
        sys.exit(str(trouble))
    finally:
        with contextlib.suppress(OSError):
            keeper.stop()


if __name__ == "__main__":
    main(*sys.argv[1:])
