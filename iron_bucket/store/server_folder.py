"""Where one private database server lives, and what it keeps there."""

import contextlib
import fcntl
import hashlib
import json
import os
import shutil
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from iron_bucket.store.processes import ProcessMark, read_mark

#: The database's own user on Debian; the server refuses to run as root.
SERVER_USER = "mysql"


class ServerTrouble(Exception):
    """The server cannot be started; the text says why and what to do."""


@dataclass(frozen=True, slots=True, kw_only=True)
class ServerFolder:
    """The paths of one private server. What is broken, cut short or gone reads as not there."""

    path: Path

    @property
    def data(self) -> Path:
        """The tables. Made under another name and renamed, so that it is whole wherever it is."""
        return self.path / "data"

    @property
    def temporary(self) -> Path:
        """The server's own: in a shared one, two servers that start at once can take each other's files away."""
        return self.path / "tmp"

    @property
    def users(self) -> Path:
        """One file for each use of the server, named after its process; when the last is gone the keeper stops it."""
        return self.path / "users"

    @property
    def keeper_file(self) -> Path:
        """The mark of the keeper's process."""
        return self.path / "keeper"

    @property
    def state_file(self) -> Path:
        """Port and password of the server, readable by its owner alone."""
        return self.path / "server.json"

    @property
    def log(self) -> Path:
        """What the keeper says: starts, restarts, stops."""
        return self.path / "keeper.log"

    @property
    def error_log(self) -> Path:
        """What the server says itself."""
        return self.path / "error.log"

    def state(self) -> dict[str, str]:
        """Port and password; empty where there is nothing that can be read."""
        with contextlib.suppress(OSError, ValueError):
            found = json.loads(self.state_file.read_text())
            if isinstance(found, dict) and str(found.get("port", "")).isdecimal() and found.get("password"):
                return {"port": str(found["port"]), "password": str(found["password"])}
        return {}

    def keeper(self) -> ProcessMark | None:
        """The keeper that lives; None where there is none."""
        with contextlib.suppress(OSError):
            mark = read_mark(self.keeper_file.read_text())
            return mark if mark and mark.is_alive else None
        return None

    def live_users(self) -> list[Path]:
        """Uses whose processes live still."""
        found: list[Path] = []
        with contextlib.suppress(FileNotFoundError):  # a folder thrown away may go at any moment
            for each in self.users.iterdir():
                mark = read_mark(each.name.rpartition("-")[0])
                if mark and mark.is_alive:
                    found.append(each)
        return found

    def hand_over(self, *paths: Path) -> None:
        """Give paths to the database's user, where root runs this."""
        if os.geteuid() == 0:
            for path in paths:
                shutil.chown(path, SERVER_USER, SERVER_USER)

    @contextlib.contextmanager
    def locked(self, *, is_waiting: bool = True) -> Iterator[bool]:
        """One at a time, in any process; a lock falls with the process that holds it. Yields whether it was got."""
        with (self.path / "lock").open("w") as lock:
            try:
                fcntl.flock(lock, fcntl.LOCK_EX | (0 if is_waiting else fcntl.LOCK_NB))
            except BlockingIOError:
                yield False
            else:
                yield True


def reachable_folder(wanted: Path) -> Path:
    """The wanted folder, or one under /var/lib where the database's own user cannot get to it (a home that others may
    not enter).
    """
    if os.geteuid() != 0 or _server_user_may_enter(wanted):
        return wanted
    mark = hashlib.sha256(str(wanted).encode()).hexdigest()[:12]
    return Path("/var/lib") / f"iron-bucket-{mark}"


def _server_user_may_enter(folder: Path) -> bool:
    """Whether others may pass through every folder above; the folder itself is handed to that user."""
    above = [parent for parent in folder.parents if parent.exists()]
    return all(parent.stat().st_mode & 0o001 for parent in above)
