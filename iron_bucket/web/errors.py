"""What goes wrong, as statuses and pages: the one place that maps them."""

import logging

from flask import Flask, g, render_template, request
from sqlalchemy.exc import DBAPIError, SQLAlchemyError
from werkzeug.exceptions import HTTPException
from werkzeug.wrappers import Response

from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.desk.errors import ChangedMeanwhile, NotAllowed, NotFound
from iron_bucket.formats.errors import FormatError

_STATUSES: dict[type[Exception], tuple[int, str]] = {
    NotFound: (404, "Not here"),
    NotAllowed: (403, "Not yours"),
    ChangedMeanwhile: (409, "Changed meanwhile"),
    BadValue: (422, "That does not work"),
    NoAnswer: (422, "No answer"),
    FormatError: (422, "That file does not work"),
}
_SENTENCES = {
    400: "The form had expired or was incomplete. Go back, load the page anew and try again.",
    404: "There is no page at this address.",
    405: "This address is not opened that way.",
    413: "That is too large: a photometric file may have up to 4 MB, several together up to 64 MB.",
    429: "Too many tries. Wait a minute, then try again.",
}


def _page(status: int, title: str, sentence: str) -> tuple[str, int]:
    return render_template("shared/trouble.html", title=title, sentence=sentence, status=status), status


def attach(app: Flask) -> None:
    """Register every handler."""

    def refused(error: Exception) -> tuple[str, int]:
        status, title = next(found for kind, found in _STATUSES.items() if isinstance(error, kind))
        return _page(status, title, str(error))

    for kind in _STATUSES:
        app.register_error_handler(kind, refused)

    @app.errorhandler(HTTPException)
    def http_trouble(error: HTTPException) -> tuple[str, int] | Response:
        if error.code is None or error.code < 400:
            return error.get_response()
        return _page(error.code, error.name, _SENTENCES.get(error.code, error.description or error.name))

    @app.errorhandler(SQLAlchemyError)
    def database_trouble(error: SQLAlchemyError) -> tuple[str, int, dict[str, str]]:
        if isinstance(error, DBAPIError) and not _is_gone(error):
            logging.getLogger(__name__).error("database error at %s", request.path, exc_info=error)
        # Rendered bare: what Flask adds to a page would ask the database who is signed in.
        return app.jinja_env.get_template("shared/database_away.html").render(), 503, {"Retry-After": "5"}

    @app.errorhandler(Exception)
    def unforeseen(error: Exception) -> tuple[str, int]:
        logging.getLogger(__name__).error(
            "unforeseen at %s by %s", request.path, getattr(g, "person", None), exc_info=error
        )
        return _page(
            500, "Our fault", "Something here went wrong that should not. Nothing was half saved. It has been noted."
        )


def _is_gone(error: DBAPIError) -> bool:
    return error.connection_invalidated or type(error).__name__ in ("OperationalError", "InterfaceError")
