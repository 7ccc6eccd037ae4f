"""Sign in, sign out."""

from flask import Blueprint, current_app, g, redirect, render_template, request, session, url_for
from flask_login import current_user, login_user, logout_user
from werkzeug.wrappers import Response

from iron_bucket.demo.sign_in import DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.desk import people
from iron_bucket.desk.errors import NotAllowed
from iron_bucket.web.shared.guards import limiter
from iron_bucket.web.shared.reply import is_local, wants_fragment
from iron_bucket.web.shared.request_session import SignedIn

bp = Blueprint("account", __name__, template_folder="templates")


def _onward() -> str:
    wanted = request.values.get("next", "")
    return wanted if is_local(wanted) else url_for("jobs.index")


def _page(sentence: str | None, status: int) -> tuple[str, int]:
    demo = {"sign_in": DEMO_SIGN_IN, "password": DEMO_PASSWORD} if current_app.config["IS_DEMO"] else None
    return render_template(
        "account/sign_in.html", sentence=sentence, typed=request.form.get("sign_in", ""), demo=demo, onward=_onward()
    ), status


@bp.get("/sign-in")
def sign_in() -> tuple[str, int] | Response:
    """The sign-in page; who is signed in already goes on."""
    return redirect(_onward()) if current_user.is_authenticated else _page(None, 200)


@bp.post("/sign-in")
@limiter.limit(lambda: current_app.config["SIGN_IN_LIMIT"])
def check_sign_in() -> tuple[str, int] | Response:
    """Take a sign-in and a password."""
    try:
        person = people.sign_in(g.session, request.form.get("sign_in", ""), request.form.get("password", ""))
    except NotAllowed as refused:
        sentence = f"{str(refused).capitalize()}."
        return (sentence, 403) if wants_fragment() else _page(sentence, 403)
    session.permanent = True
    login_user(SignedIn(person))
    return Response(status=204) if wants_fragment() else redirect(_onward(), code=303)


@bp.post("/sign-out")
def sign_out() -> Response:
    """End the session."""
    logout_user()
    return redirect(url_for("account.sign_in"), code=303)
