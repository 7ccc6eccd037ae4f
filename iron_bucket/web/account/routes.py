"""Sign in, sign out, set a password by a code; one's own page."""

import json

from flask import Blueprint, Response, current_app, flash, g, redirect, render_template, request, session, url_for
from flask_login import current_user, logout_user
from werkzeug.wrappers import Response as AnyResponse

from iron_bucket.core.errors import BadValue
from iron_bucket.demo.sign_in import DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.desk import crews, people
from iron_bucket.desk.errors import NotAllowed
from iron_bucket.desk.people import signing_in
from iron_bucket.desk.people.administration import change_password as put_password
from iron_bucket.desk.people.administration import redeem as redeem_code
from iron_bucket.desk.people.own_data import delete_person
from iron_bucket.desk.people.own_data import own_data as all_own_data
from iron_bucket.desk.people.passwords import SHORTEST
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.reply import is_local, wants_fragment
from iron_bucket.web.shared.request_session import device, let_in, person_id, remember_device, rules, sign_in_token

bp = Blueprint("account", __name__, template_folder="templates")
Answer = AnyResponse | tuple[str, int]


def _onward() -> str:
    wanted = request.values.get("next", "")
    return wanted if is_local(wanted) else url_for("jobs.index")


def _page(sentence: str | None, status: int) -> tuple[str, int]:
    demo = {"sign_in": DEMO_SIGN_IN, "password": DEMO_PASSWORD} if current_app.config["IS_DEMO"] else None
    return render_template(
        "account/sign_in.html", sentence=sentence, typed=request.form.get("sign_in", ""), demo=demo, onward=_onward()
    ), status


@bp.get("/sign-in")
def sign_in() -> Answer:
    """The sign-in page; who is signed in already goes on."""
    return redirect(_onward()) if current_user.is_authenticated else _page(None, 200)


@bp.post("/sign-in")
def check_sign_in() -> Answer:
    """Take a sign-in and a password."""
    name = request.form.get("sign_in", "")[:200]
    here = device(name)
    signing_in.count_try(g.session, name, here, rules())
    try:
        found = people.sign_in(g.session, name, request.form.get("password", ""), here, rules())
    except NotAllowed as refused:
        signing_in.refused_sign_in(g.session, name, here)
        sentence = f"{str(refused).capitalize()}."
        return (sentence, 403) if wants_fragment() else _page(sentence, 403)
    let_in(found)
    answer = Response(status=204) if wants_fragment() else redirect(_onward(), code=303)
    remember_device(answer, name)
    return answer


@bp.post("/sign-out")
def sign_out() -> AnyResponse:
    """End this sign-in, here and wherever its cookie was copied to."""
    if current_user.is_authenticated:
        signing_in.sign_out(g.session, person_id(), sign_in_token())
    logout_user()
    session.clear()
    return redirect(url_for("account.sign_in"), code=303)


def _welcome(code: str, sentence: str | None, status: int) -> tuple[str, int]:
    return render_template("account/welcome.html", code=code, sentence=sentence, shortest=SHORTEST), status


@bp.get("/welcome", defaults={"code": ""})
@bp.get("/welcome/<code>")
def welcome(code: str) -> Answer:
    """Where a one-time link leads: set a password."""
    return _welcome(code[:40], None, 200)


@bp.post("/welcome")
def redeem() -> Answer:
    """Take a code and a new password."""
    code, password = request.form.get("code", "")[:100], request.form.get("password", "")
    signing_in.count_try(g.session, "a one-time code", device(), rules())
    try:
        if password != request.form.get("again", ""):
            raise BadValue("password", "typed differently twice", "the same twice")
        found = redeem_code(g.session, code, password, device())
    except NotAllowed as refused:
        return _welcome(code, str(refused), 403)
    except BadValue as bad:
        return _welcome(code, str(bad), 422)
    let_in(found)
    flash(f"Welcome, {found.person.name}. Your sign-in is {found.person.sign_in}.")
    return redirect(url_for("jobs.index"), code=303)


def _own_page(bad: str = "", at: str = "", status: int = 200) -> tuple[str, int]:
    return render_template(
        "account/page.html",
        person=current_user.person,
        devices=signing_in.list_sign_ins(g.session, person_id(), sign_in_token(), rules()),
        crews=crews.my_crews(g.session, person_id()),
        bad=bad,
        bad_at=at,
        shortest=SHORTEST,
    ), status


@bp.get("/account")
def page() -> Answer:
    """One's own page: password, devices, crews, what is kept of one."""
    return _own_page()


@bp.post("/account/password")
def change_password() -> Answer:
    """Another password; every other device is signed out."""
    form = request.form
    signing_in.count_try(g.session, current_user.person.sign_in, device(current_user.person.sign_in), rules())
    try:
        if form.get("new", "") != form.get("again", ""):
            raise BadValue("password", "typed differently twice", "the same twice")
        token = put_password(g.session, person_id(), form.get("old", ""), form.get("new", ""), device())
    except NotAllowed as refused:
        return _own_page(str(refused), "password", 403)
    except BadValue as bad:
        return _own_page(str(bad), "password", 422)
    let_in(people.SignedIn(person=current_user.person, token=token))
    flash("Your password is another now. Every other device is signed out.")
    return redirect(url_for("account.page"), code=303)


@bp.post("/account/devices")
def end_sign_in() -> AnyResponse:
    """Sign another device out, or all others."""
    number = whole_number(request.form.get("number"))
    ended = signing_in.end_other_sign_ins(g.session, person_id(), sign_in_token(), number)
    flash(f"Signed out {ended} other device{'s' if ended != 1 else ''}.")
    return redirect(url_for("account.page"), code=303)


@bp.get("/account/mine.json")
def own_data() -> AnyResponse:
    """All that is kept of whoever asks, as a file."""
    text = json.dumps(all_own_data(g.session, person_id()), ensure_ascii=False, indent=1)
    headers = {"Content-Disposition": 'attachment; filename="iron-bucket-mine.json"'}
    return Response(text, mimetype="application/json", headers=headers)


@bp.post("/account/delete")
def delete() -> Answer:
    """Forget whoever asks."""
    signing_in.count_try(g.session, current_user.person.sign_in, device(current_user.person.sign_in), rules())
    try:
        delete_person(g.session, person_id(), request.form.get("password", ""))
    except NotAllowed as refused:
        return _own_page(str(refused), "delete", 403)
    logout_user()
    session.clear()
    flash("What was yours is deleted. You are signed out.")
    return redirect(url_for("account.sign_in"), code=303)
