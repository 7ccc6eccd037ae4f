"""Pages that take long, made by a process beside the one that serves: whoever signs in meanwhile does not wait for
them.
"""

import contextlib
import multiprocessing
import os
import resource
import sys
import threading
import time
from collections.abc import Iterable
from concurrent.futures import CancelledError, Future, ProcessPoolExecutor
from io import BytesIO
from typing import Any, NamedTuple

from flask import Flask
from werkzeug.exceptions import HTTPException
from werkzeug.wrappers import Response

from iron_bucket.web.app import create_app, warm_up
from iron_bucket.web.deadline import DEADLINE_S, Deadline, Wsgi
from iron_bucket.web.parent import end_with_parent
from iron_bucket.web.settings import Settings
from iron_bucket.web.shared.heavy import heavy_endpoints
from iron_bucket.web.shared.measured import RUNNING, count, log_as_json

#: Of a worker's threads at most so many wait for what is made beside; the rest are for everybody else.
MOST_WAITING = 24
#: One that has ever taken more is replaced, as a worker is.
MOST_MB = 1500.0
#: A process with less than its share of the machine where others want to answer.
NICENESS = 5
_METHODS = ("GET", "HEAD")


class Made(NamedTuple):
    """A page as it is sent, and the most memory that the process that made it ever took."""

    status: str
    headers: list[tuple[str, str]]
    body: bytes
    peak_mb: float


class Beside:
    """Wraps an application: it serves within its own time, and what is marked as heavy is made within as much by the
    process beside. That begins with the first of those; until it has, and where it breaks, they are made here.
    """

    def __init__(self, app: Flask, settings: Settings, *, processes: int = 1) -> None:
        self._app, self._inner, self._settings = app, Deadline(app.wsgi_app), settings
        self._processes, self._heavy = processes, heavy_endpoints(app)
        self._pool: ProcessPoolExecutor | None = None
        self._begun: Future[int] = Future()
        self._lock = threading.Lock()
        self._room = threading.Semaphore(MOST_WAITING)

    def __call__(self, environ: dict[str, Any], start_response: Any) -> Iterable[bytes]:
        """Serve."""
        endpoint = self._endpoint(environ)
        if endpoint not in self._heavy:
            return self._inner(environ, start_response)
        if not self._begun.done():
            self.begin(instead_of=None)
            return self._inner(environ, start_response)
        if not self._room.acquire(blocking=False):
            return self._busy()(environ, start_response)
        began, pool = time.perf_counter(), self._pool
        try:
            with RUNNING.track_inprogress():
                made = self._made(environ, pool)
        except (RuntimeError, CancelledError):  # it broke, or somebody who saw that has ended it
            self.begin(instead_of=pool)
            return self._inner(environ, start_response)
        except TimeoutError:
            self.begin(instead_of=pool)
            return self._busy()(environ, start_response)
        finally:
            self._room.release()
        if made.peak_mb > MOST_MB:
            self.begin(instead_of=pool)
        count(endpoint, int(made.status.split()[0]), time.perf_counter() - began)
        start_response(made.status, made.headers)
        return [made.body]

    def begin(self, *, instead_of: ProcessPoolExecutor | None) -> None:
        """Start the process in place of that one, unless somebody did already; it takes a few seconds."""
        with self._lock:
            if self._pool is not instead_of:
                return
            if instead_of is not None:
                instead_of.shutdown(wait=False, cancel_futures=True)
            self._pool = ProcessPoolExecutor(
                self._processes,
                mp_context=multiprocessing.get_context("spawn"),  # a fork of a process with threads may stand still
                initializer=_begin,
                initargs=(self._settings,),
            )
            self._begun = self._pool.submit(os.getpid)

    def wait(self) -> int:
        """Until it has begun; gives its number."""
        return self._begun.result(DEADLINE_S)

    def stop(self) -> None:
        """End it."""
        if self._pool is not None:
            self._pool.shutdown(wait=False, cancel_futures=True)
        self._begun = Future()

    def _endpoint(self, environ: dict[str, Any]) -> str:
        if environ["REQUEST_METHOD"] not in _METHODS:
            return ""
        try:
            return str(self._app.url_map.bind_to_environ(environ).match()[0])
        except HTTPException:  # no address of ours, or one that stands elsewhere
            return ""

    def _made(self, environ: dict[str, Any], pool: ProcessPoolExecutor | None) -> Made:
        if pool is None:
            raise RuntimeError("there is none")
        plain = {name: value for name, value in environ.items() if isinstance(value, str | int | bool | tuple)}
        return pool.submit(make, plain).result(2.0 * DEADLINE_S)

    def _busy(self) -> Response:
        sentence = "Very many ask at once. Try again in a few seconds."
        page = self._app.jinja_env.get_template("shared/bare_trouble.html").render(title="Busy", sentence=sentence)
        return Response(page, 503, {"Retry-After": "3", "Cache-Control": "no-store"}, mimetype="text/html")


#: Of the process beside, once it has begun.
_SERVING: list[Wsgi] = []


def _begin(settings: Settings) -> None:
    end_with_parent()
    with contextlib.suppress(OSError):
        os.nice(NICENESS)
    log_as_json(settings.log_level)
    app = create_app(settings)
    _SERVING.append(Deadline(app.wsgi_app))
    threading.Thread(target=warm_up, args=(app,), daemon=True).start()


def make(environ: dict[str, Any]) -> Made:
    """A page, in the process beside: by the same application, with the same guards."""
    environ = environ | {"wsgi.input": BytesIO(), "wsgi.errors": sys.stderr}
    answer = Response.from_app(_SERVING[0], environ, buffered=True)
    peak_mb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024.0
    return Made(answer.status, list(answer.headers), answer.get_data(), peak_mb)
