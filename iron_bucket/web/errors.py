"""What goes wrong, as statuses and pages: the one place that maps them."""

import logging
import secrets

from flask import Flask, g, render_template, request
from flask_login import current_user
from flask_wtf.csrf import CSRFError
from sqlalchemy.exc import SQLAlchemyError
from werkzeug.exceptions import HTTPException, SecurityError
from werkzeug.wrappers import Response

from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.desk.errors import ChangedMeanwhile, NotAllowed, NotFound, TooManyTries
from iron_bucket.formats.errors import FormatError
from iron_bucket.store.trouble import DatabaseTrouble, database_trouble
from iron_bucket.web.deadline import TookTooLong
from iron_bucket.web.shared.in_words import in_words
from iron_bucket.web.shared.reply import is_by_script

_STATUSES: dict[type[Exception], tuple[int, str]] = {
    NotFound: (404, "Not here"),
    NotAllowed: (403, "Not yours"),
    ChangedMeanwhile: (409, "Changed meanwhile"),
    BadValue: (422, "That does not work"),
    NoAnswer: (422, "No answer"),
    FormatError: (422, "That file does not work"),
}
_SENTENCES = {
    400: "The form had expired or was incomplete. Go back, reload the page and try again.",
    404: "There is no page at this address.",
    405: "This address cannot be opened that way.",
    413: "That is too large: a file may have up to 4 MB, a photo 16 MB, several together 64 MB.",
}
_DATABASE = {
    DatabaseTrouble.GONE: (
        503,
        "Away for a moment",
        "The database does not answer. Nothing that was saved is lost. Reload the page in a few seconds.",
    ),
    DatabaseTrouble.BUSY: (503, "Busy", "The database is busy. This change was not saved. Try again in a few seconds."),
    DatabaseTrouble.FULL: (
        507,
        "No room",
        (
            "The database's disk is full. Your last change was not saved; everything before it was. Some pages"
            " will not open until whoever runs this machine has made room."
        ),
    ),
}


def _page(status: int, title: str, sentence: str) -> tuple[str, int]:
    return render_template("shared/trouble.html", title=title, sentence=sentence, status=status), status


def attach(app: Flask) -> None:
    """Register every handler."""

    def refused(error: Exception) -> tuple[str, int]:
        status, title = next(found for kind, found in _STATUSES.items() if isinstance(error, kind))
        return _page(status, title, in_words(error))

    for kind in _STATUSES:
        app.register_error_handler(kind, refused)

    @app.errorhandler(TooManyTries)
    def too_many_tries(error: TooManyTries) -> tuple[str, int, dict[str, str]]:
        sentence, headers = in_words(error) + ".", {"Retry-After": str(error.seconds)}
        if is_by_script():
            return sentence, 429, headers
        return *_page(429, "Too many tries", sentence), headers

    def bare(status: int, title: str, sentence: str) -> tuple[str, int, dict[str, str]]:
        """Rendered without what Flask adds to a page, which would ask the database who is signed in."""
        page = app.jinja_env.get_template("shared/bare_trouble.html").render(title=title, sentence=sentence)
        return page, status, {"Retry-After": "5"} if status == 503 else {}

    @app.errorhandler(CSRFError)
    def token_expired(error: CSRFError) -> tuple[str, int] | Response:
        """With its session gone a page has no good token either: whoever sent it signs in first."""
        if is_by_script() and not current_user.is_authenticated:
            return "You were signed out.", 401
        return http_trouble(error)

    @app.errorhandler(HTTPException)
    def http_trouble(error: HTTPException) -> tuple[str, int] | Response:
        if error.code is None or error.code < 400:
            return error.get_response()
        return _page(error.code, error.name, _SENTENCES.get(error.code, error.description or error.name))

    @app.errorhandler(SecurityError)
    def other_host(error: SecurityError) -> tuple[str, int, dict[str, str]]:
        """A name that this does not answer to; no address of ours can be written on a page for it."""
        return bare(400, "Not this name", "Iron Bucket does not answer to the name in this address.")

    @app.errorhandler(SQLAlchemyError)
    def of_the_database(error: SQLAlchemyError) -> tuple[str, int, dict[str, str]]:
        trouble = database_trouble(error)
        if trouble is not DatabaseTrouble.GONE:
            number = _noted(f"database {trouble.value}", error)
        if trouble is DatabaseTrouble.FAULT:
            return bare(500, "Our fault", _our_fault(number))
        return bare(*_DATABASE[trouble])

    @app.errorhandler(TookTooLong)
    def took_too_long(error: TookTooLong) -> tuple[str, int, dict[str, str]]:
        g.session.invalidate()  # its connection may have been left in the middle of an answer
        _noted("took too long", error)
        sentence = "This took longer than 30 seconds and was stopped; nothing was saved. Ask for less, or try later."
        return bare(503, "Took too long", sentence)

    @app.errorhandler(Exception)
    def unforeseen(error: Exception) -> tuple[str, int, dict[str, str]]:
        return bare(500, "Our fault", _our_fault(_noted("unforeseen", error)))


def _noted(what: str, error: Exception) -> str:
    """Write an error into the log; gives the number under which it stands there."""
    number = str(g.get("request_id") or secrets.token_hex(4))
    logging.getLogger(__name__).error("%s %s: %s %s", number, what, request.method, request.path, exc_info=error)
    return number


def _our_fault(number: str) -> str:
    return f"Something went wrong here. Nothing was half saved. It is in the log as {number}."
