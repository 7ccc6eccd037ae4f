"""Every request counted, timed, and told in one line of JSON: who, what, how long; never a secret."""

import json
import logging
import re
import secrets
import time
from datetime import UTC, datetime

from flask import Flask, g, has_request_context, request
from prometheus_client import CollectorRegistry, Counter, Gauge, Histogram, ProcessCollector
from werkzeug.wrappers import Response

REGISTRY = CollectorRegistry()
ProcessCollector(registry=REGISTRY)
REQUESTS = Counter("iron_bucket_requests", "Requests by route and status", ("route", "status"), registry=REGISTRY)
SECONDS = Histogram(
    "iron_bucket_request_seconds",
    "How long requests took",
    ("route",),
    buckets=(0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1.0, 2.5, 5.0, 10.0, 30.0),
    registry=REGISTRY,
)
RUNNING = Gauge("iron_bucket_requests_running", "Requests being answered", registry=REGISTRY)
REFUSED = Counter("iron_bucket_refusals", "Sign-ins and addresses refused", ("status",), registry=REGISTRY)
_LOG = logging.getLogger("iron_bucket.requests")
#: Given by a proxy, so that its lines and ours can be laid side by side.
_GIVEN_ID = re.compile(r"[A-Za-z0-9-]{8,64}")
_QUIET = frozenset({"static", "seen.alive", "seen.ready", "seen.metrics"})


class JsonLines(logging.Formatter):
    """A line of JSON for each record; one of a request has its number."""

    def format(self, record: logging.LogRecord) -> str:
        """One line, whatever stands in it."""
        told = {
            "at": datetime.fromtimestamp(record.created, UTC).isoformat(timespec="milliseconds"),
            "level": record.levelname.lower(),
            "from": record.name,
            "text": record.getMessage(),
        }
        if has_request_context() and "request_id" in g:
            told["request"] = g.request_id
        told |= getattr(record, "told", {})
        if record.exc_info:
            told["trace"] = self.formatException(record.exc_info)
        return json.dumps(told, ensure_ascii=False, default=str)


def log_as_json(level: str) -> None:
    """To the standard error, which whoever runs this keeps."""
    handler = logging.StreamHandler()
    handler.setFormatter(JsonLines())
    logging.basicConfig(level=level.upper(), handlers=[handler], force=True)
    for noisy in ("weasyprint", "fontTools", "numba", "PIL"):
        logging.getLogger(noisy).setLevel(logging.ERROR)


def count(route: str, status: int, took_s: float) -> None:
    """One request that was answered."""
    REQUESTS.labels(route, status).inc()
    SECONDS.labels(route).observe(took_s)
    if status in (401, 403, 429):
        REFUSED.labels(status).inc()


def attach(app: Flask) -> None:
    """Look at every request."""

    @app.before_request
    def begin() -> None:
        given = request.headers.get("X-Request-Id", "")
        g.request_id = given if _GIVEN_ID.fullmatch(given) else secrets.token_hex(8)
        g.began = time.perf_counter()
        RUNNING.inc()
        g.is_counted = True

    @app.after_request
    def tell(answer: Response) -> Response:
        if "began" not in g:
            return answer
        answer.headers["X-Request-Id"] = g.request_id
        route, took_s = request.endpoint or "nowhere", time.perf_counter() - g.began
        count(route, answer.status_code, took_s)
        if route not in _QUIET:
            _LOG.info("%s %s", request.method, answer.status_code, extra={"told": _told(answer, route, took_s)})
        return answer

    @app.teardown_request
    def end(error: BaseException | None) -> None:
        if g.pop("is_counted", False):
            RUNNING.dec()


def _told(answer: Response, route: str, took_s: float) -> dict[str, object]:
    """The route and its numbers, not the address as asked: a link's token stands there, a query may hold anything."""
    numbers = {name: value for name, value in (request.view_args or {}).items() if isinstance(value, int)}
    user = getattr(g, "_login_user", None)  # asking who it is might ask the database once more
    who = user.person.person_id if user is not None and user.is_authenticated else None
    return {
        "route": route,
        "numbers": numbers,
        "who": who,
        "role": g.role.value if g.get("role") else None,
        "status": answer.status_code,
        "ms": round(took_s * 1000.0, 1),
        "bytes": answer.calculate_content_length(),
        "address": request.remote_addr,
    }
