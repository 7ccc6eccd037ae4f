"""Work that takes long, in a process beside the one that answers: whoever signs in meanwhile does not wait for it."""

import contextlib
import multiprocessing
import threading
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from datetime import timedelta
from typing import ParamSpec, TypeVar

from flask import current_app

from iron_bucket.web.parent import end_with_parent

P = ParamSpec("P")
R = TypeVar("R")
#: Below what a request may last.
LONGEST_S = 25.0
#: How many sheets of paper somebody may ask for in a minute, and how many come to one address by a link.
MINUTE, PAPERS_A_MINUTE, PAPERS_A_MINUTE_BY_LINK = timedelta(minutes=1), 30, 6


class HeavyWork:
    """A small pool, started when it is first asked for and again where it broke; with no processes at all the work is
    done where it is asked for.
    """

    def __init__(self, processes: int) -> None:
        self._processes = processes
        self._pool: ProcessPoolExecutor | None = None
        self._lock = threading.Lock()

    def do(self, work: Callable[P, R], *args: P.args, **kwargs: P.kwargs) -> R:
        """What a function of a module gives, of arguments that can be sent. Raises: what it raises; TimeoutError."""
        if not self._processes:
            return work(*args, **kwargs)
        with contextlib.suppress(BrokenProcessPool):
            return self._running().submit(work, *args, **kwargs).result(LONGEST_S)
        with self._lock:
            self._pool = None
        return self._running().submit(work, *args, **kwargs).result(LONGEST_S)

    def _running(self) -> ProcessPoolExecutor:
        with self._lock:
            if self._pool is None:
                self._pool = ProcessPoolExecutor(
                    self._processes,
                    mp_context=multiprocessing.get_context("spawn"),  # a fork of a process with threads may stand still
                    initializer=end_with_parent,
                    max_tasks_per_child=200,
                )
            return self._pool


def heavy() -> HeavyWork:
    """Of this application."""
    found: HeavyWork = current_app.extensions["heavy"]
    return found
