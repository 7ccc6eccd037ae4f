"""Guards of every page: CSRF tokens, a strict content policy, a limit on sign-in tries."""

from flask import Flask, request
from flask_limiter import Limiter
from flask_limiter.util import get_remote_address
from flask_wtf.csrf import CSRFProtect
from werkzeug.wrappers import Response

#: Pictures may come inside a page: the light of a set-up does, with the lines drawn over it.
POLICY = (
    "default-src 'self'; img-src 'self' data:; object-src 'none'; base-uri 'none'; frame-ancestors 'none';"
    " form-action 'self'"
)
#: Counted in each process; behind several, one address gets so many tries with each.
limiter = Limiter(get_remote_address)


#: Where more may be sent than elsewhere: several files in one form, and a whole bench.
ROOMY_BYTES = 64_000_000
_ROOMY = ("bench.import_files", "bench.import_bench", "places.add_photos")


def attach(app: Flask) -> None:
    """Switch them on."""

    @app.before_request
    def make_room() -> None:  # before the token is looked for, which reads the whole form
        if request.endpoint in _ROOMY:
            request.max_content_length = ROOMY_BYTES

    CSRFProtect(app)
    limiter.init_app(app)

    @app.after_request
    def guard(answer: Response) -> Response:
        answer.headers["Content-Security-Policy"] = POLICY
        answer.headers["X-Content-Type-Options"] = "nosniff"
        answer.headers["Referrer-Policy"] = "same-origin"
        if answer.mimetype == "text/html":
            answer.headers["Cache-Control"] = "no-store"
            answer.vary.add("HX-Request-Type")
        return answer
