"""A request that lasts too long is ended, so that a few of them cannot take every thread away from everybody else."""

import ctypes
import os
import threading
import time
from collections.abc import Callable, Iterable
from typing import Any

#: Well above the slowest page (a fifth of it), below what people wait for.
DEADLINE_S = 30.0
LOOK_S = 0.25
#: What does not end when told to sits in a routine that does not listen; then the worker goes, and another takes its
#: place.
LAST_RESORT = 2.0
STUCK_EXIT = 70

Wsgi = Callable[..., Iterable[bytes]]


class TookTooLong(Exception):
    """Raised within the thread of a request whose time is over."""


class Deadline:
    """Wraps a WSGI application. One thread looks after all requests of the process."""

    def __init__(self, app: Wsgi, *, seconds: float = DEADLINE_S) -> None:
        self._app, self._seconds = app, seconds
        self._running: dict[int, float] = {}
        self._told: set[int] = set()
        self._lock = threading.Lock()
        threading.Thread(target=self._look_after, daemon=True, name="deadline").start()

    def __call__(self, environ: dict[str, Any], start_response: Any) -> Iterable[bytes]:
        """Serve, within the time."""
        thread = threading.get_ident()
        with self._lock:
            self._running[thread] = time.monotonic()
        try:
            return self._app(environ, start_response)
        finally:
            with self._lock:
                del self._running[thread]
                if thread in self._told:  # it may have ended at the same moment: nothing is left to be raised later
                    self._told.discard(thread)
                    _raise_in(thread, None)

    def _look_after(self) -> None:
        while True:
            time.sleep(min(LOOK_S, self._seconds / 4.0))
            with self._lock:
                for thread, began in self._running.items():
                    lasted = time.monotonic() - began
                    if lasted > self._seconds and thread not in self._told:
                        self._told.add(thread)
                        _raise_in(thread, TookTooLong)
                    elif lasted > LAST_RESORT * self._seconds:
                        os._exit(STUCK_EXIT)


def _raise_in(thread: int, what: type[Exception] | None) -> None:
    """Raised at the next step of that thread's Python code; None takes back what was not raised yet."""
    kind = ctypes.py_object(what) if what else None
    ctypes.pythonapi.PyThreadState_SetAsyncExc(ctypes.c_ulong(thread), kind)
