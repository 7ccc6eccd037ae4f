"""JSON over HTTP: asked with a short patience, and answered by the stand-ins."""

import json
import urllib.error
import urllib.request
from collections.abc import Callable, Iterable
from typing import Any, TypeVar
from wsgiref.types import StartResponse, WSGIEnvironment

from iron_bucket.core.errors import BadValue

PATIENCE_S = 1.5
LONGEST_ANSWER_BYTES = 4_000_000
Row = TypeVar("Row")
Application = Callable[[WSGIEnvironment, StartResponse], Iterable[bytes]]


class DeviceTrouble(Exception):
    """It does not answer, or answers what cannot be read; the text says which."""


def asked_rows(
    who: str, url: str, patience_s: float, key: str, read: Callable[[dict[str, Any]], Row], trouble: type[DeviceTrouble]
) -> tuple[Row, ...]:
    """The rows under a key of what it answers, each as ``read`` reads it; ``who``: what it is called in a sentence.

    Raises: trouble, whatever went wrong.
    """
    try:
        return tuple(read(each) for each in _asked(who, url, patience_s)[key])
    except DeviceTrouble as silent:
        raise trouble(str(silent)) from silent
    except (KeyError, TypeError, ValueError) as bad:
        sentence = str(bad) if isinstance(bad, BadValue) else "it is not what the protocol says"
        raise trouble(f"the {who}'s answer cannot be read: {sentence}") from bad


def _asked(who: str, url: str, patience_s: float) -> Any:
    try:
        with urllib.request.urlopen(url, timeout=patience_s) as answer:
            data = answer.read(LONGEST_ANSWER_BYTES + 1)
    except urllib.error.HTTPError as refused:
        with refused:
            raise DeviceTrouble(f"the {who} refused with status {refused.code}") from refused
    except (OSError, ValueError) as gone:
        raise DeviceTrouble(f"the {who} is not answering") from gone
    if len(data) > LONGEST_ANSWER_BYTES:
        raise DeviceTrouble(f"the {who}'s answer is longer than 4 MB")
    try:
        return json.loads(data)
    except ValueError as bad:
        raise DeviceTrouble(f"the {who}'s answer cannot be read: it is no JSON") from bad


def answering(answered: Callable[[WSGIEnvironment], tuple[str, object]]) -> Application:
    """A WSGI application that answers what a function gives: a status, and what is told as JSON."""

    def answer(environ: WSGIEnvironment, start: StartResponse) -> Iterable[bytes]:
        status, body = ("405 Method Not Allowed", {"error": "accepted: GET"})
        if environ["REQUEST_METHOD"] == "GET":
            status, body = answered(environ)  # type: ignore[assignment]
        data = json.dumps(body).encode()
        start(status, [("Content-Type", "application/json"), ("Content-Length", str(len(data)))])
        return [data]

    return answer
