"""Guards of every page: tokens against forged forms, a strict content policy, nothing private kept on the way."""

from flask import Flask, current_app, request
from flask_wtf.csrf import CSRFProtect
from werkzeug.wrappers import Response

from iron_bucket.web.shared.rights import ANYBODY

#: Pictures may come inside a page: the light of a set-up does, with the lines drawn over it.
POLICY = (
    "default-src 'self'; img-src 'self' data:; object-src 'none'; base-uri 'none'; frame-ancestors 'none';"
    " form-action 'self'"
)
_YEAR_S = 365 * 86_400
#: Where more may be sent than elsewhere: several files in one form, and a whole bench.
ROOMY_BYTES = 64_000_000
_ROOMY = ("bench.import_files", "bench.import_bench", "places.add_photos", "jobs.take_in")
#: Shown to whoever has the link: not for lists of what there is to be found.
_BY_LINK = ("setups.shared", "setups.shared_pdf", "open_bucket.shared_list", "account.welcome")


def attach(app: Flask) -> None:
    """Switch them on."""

    @app.before_request
    def make_room() -> None:  # before the token is looked for, which reads the whole form
        if request.endpoint in _ROOMY:
            request.max_content_length = ROOMY_BYTES

    CSRFProtect(app)

    @app.after_request
    def guard(answer: Response) -> Response:
        answer.headers["Content-Security-Policy"] = POLICY
        answer.headers["X-Content-Type-Options"] = "nosniff"
        answer.headers["Referrer-Policy"] = "same-origin"
        if current_app.config["SESSION_COOKIE_SECURE"]:
            answer.headers["Strict-Transport-Security"] = f"max-age={_YEAR_S}; includeSubDomains"
        if answer.mimetype == "text/html" or request.endpoint not in ANYBODY:
            answer.headers["Cache-Control"] = "no-store"
        if answer.mimetype == "text/html":
            answer.vary.add("HX-Request-Type")
        if request.endpoint in _BY_LINK:
            answer.headers["X-Robots-Tag"] = "noindex, nofollow"
        return answer
