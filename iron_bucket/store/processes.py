"""Other processes of this machine: whether one still lives, and which serve a folder.

A number alone may be somebody else's after a restart.
"""

import contextlib
import os
import signal
import time
from dataclasses import dataclass
from pathlib import Path

_PROC = Path("/proc")
#: Counted from behind the name, which may hold spaces: the state, and the clock tick at which the process began.
_STATE_FIELD, _STARTED_FIELD = 0, 19


@dataclass(frozen=True, slots=True, kw_only=True)
class ProcessMark:
    """A process that cannot be taken for another: its number, and when it began."""

    pid: int
    started: int

    def __str__(self) -> str:
        return f"{self.pid}-{self.started}"

    @property
    def is_alive(self) -> bool:
        """Whether it runs still; one that ended and was not collected yet does not."""
        return mark_of(self.pid) == self


def mark_of(pid: int) -> ProcessMark | None:
    """The mark of a process that runs now; None where none has that number."""
    try:
        fields = (_PROC / str(pid) / "stat").read_text().rpartition(")")[2].split()
    except (OSError, ValueError):
        return None
    return None if fields[_STATE_FIELD] == "Z" else ProcessMark(pid=pid, started=int(fields[_STARTED_FIELD]))


def own_mark() -> ProcessMark:
    """The mark of the process that asks."""
    mark = mark_of(os.getpid())
    if mark is None:
        raise OSError("this machine does not tell of its processes under /proc")
    return mark


def read_mark(text: str) -> ProcessMark | None:
    """A mark from its text; None for anything else, such as a file that was cut short."""
    pid, _, started = text.strip().partition("-")
    return ProcessMark(pid=int(pid), started=int(started)) if pid.isdecimal() and started.isdecimal() else None


def servers_of(data_folder: Path) -> list[ProcessMark]:
    """Database servers that run on a data folder, whoever started them."""
    wanted = f"--datadir={data_folder}".encode()
    found = []
    for entry in _PROC.iterdir():
        if not entry.name.isdecimal():
            continue
        with contextlib.suppress(OSError):
            words = (entry / "cmdline").read_bytes().split(b"\0")
            if words[0].rpartition(b"/")[2] == b"mariadbd" and wanted in words:
                found.append(mark_of(int(entry.name)))
    return [mark for mark in found if mark is not None]


def end(mark: ProcessMark, *, within_s: float) -> None:
    """Ask a process to stop; what does not within the time is killed."""
    deadline = time.monotonic() + within_s
    _send(mark, signal.SIGTERM)
    while mark.is_alive:
        if time.monotonic() > deadline:
            _send(mark, signal.SIGKILL)
        time.sleep(0.02)


def _send(mark: ProcessMark, what: signal.Signals) -> None:
    if mark.is_alive:
        with contextlib.suppress(ProcessLookupError):
            os.kill(mark.pid, what)
