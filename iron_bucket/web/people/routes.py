"""Add people, rename and disable them, give them a code for a new password; what was done, told."""

from flask import Blueprint, current_app, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.roles import Role
from iron_bucket.desk import crews
from iron_bucket.desk.errors import NotAllowed
from iron_bucket.desk.people import administration as desk
from iron_bucket.desk.people.by_mail import mail_invitation
from iron_bucket.desk.trail import read_trail
from iron_bucket.devices.mail import MailTrouble
from iron_bucket.web.shared.in_words import in_words
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.outside import outside
from iron_bucket.web.shared.request_session import person_id

bp = Blueprint("people", __name__, template_folder="templates", url_prefix="/people")
Answer = Response | tuple[str, int]


def _page(
    invitation: desk.Invitation | None = None,
    bad: Exception | None = None,
    at: str = "",
    status: int = 200,
    mailed: str = "",
) -> tuple[str, int]:
    return render_template(
        "people/index.html",
        people=desk.list_people(g.session),
        crews=crews.my_crews(g.session, person_id()),
        roles=list(Role),
        me=person_id(),
        invitation=invitation,
        link=outside("account.welcome", code=invitation.code) if invitation else "",
        can_mail=current_app.extensions["post"] is not None,
        mailed=mailed,
        bad=in_words(bad) if bad else "",
        bad_at=at,
        typed=request.form,
    ), status


@bp.get("")
def index() -> Answer:
    """Everybody."""
    return _page()


@bp.post("")
def add() -> Answer:
    """Somebody new; their code is shown once."""
    form = request.form
    try:
        crew = whole_number(form.get("crew"))
        role = form.get("role", "")
        if role not in list(Role):
            raise BadValue("role", repr(role), "one of " + ", ".join(Role))
        made = desk.invite(
            g.session,
            person_id(),
            name=form.get("name", ""),
            sign_in=form.get("sign_in", ""),
            is_admin=form.get("admin") == "yes",
            crew_id=crew if crew in {each.crew_id for each in crews.my_crews(g.session, person_id())} else None,
            role=Role(role),
        )
    except BadValue as bad:
        return _page(bad=bad, at="add", status=422)
    return _page(made)


@bp.post("/<int:number>/reset")
def reset(number: int) -> Answer:
    """A code for a new password, shown once; the old one ends."""
    return _page(desk.reset_password(g.session, person_id(), number))


@bp.post("/mail")
def mail() -> Answer:
    """The link of a code that was just shown, by mail; the code stays on the page, in case it does not arrive."""
    code, address = request.form.get("code", "")[:100], request.form.get("address", "")
    link, post = outside("account.welcome", code=code), current_app.extensions["post"]
    if post is None:
        raise NotAllowed("no mail is sent from here; give the code or the link by hand")
    shown = desk.standing_invitation(g.session, code)
    try:
        mail_invitation(g.session, person_id(), shown, link, address, post)
    except (BadValue, MailTrouble) as bad:
        return _page(shown, bad, "mail", 422 if isinstance(bad, BadValue) else 502)
    return _page(shown, mailed=address.strip())


@bp.post("/<int:number>/name")
def rename(number: int) -> Answer:
    """Another name."""
    try:
        desk.rename(g.session, person_id(), number, request.form.get("name", ""))
    except BadValue as bad:
        return _page(bad=bad, at=f"name-{number}", status=422)
    return redirect(url_for("people.index"), code=303)


@bp.post("/<int:number>/<any(disable,enable,admin,plain):what>")
def settle(number: int, what: str) -> Answer:
    """Let somebody in no more, or again; make them administrator, or no longer."""
    try:
        if what in ("disable", "enable"):
            desk.disable(g.session, person_id(), number, is_disabled=what == "disable")
        else:
            desk.make_admin(g.session, person_id(), number, is_admin=what == "admin")
    except NotAllowed as bad:
        return _page(bad=bad, at=f"name-{number}", status=403)
    return redirect(url_for("people.index"), code=303)


@bp.get("/trail")
def trail() -> str:
    """What was done with people, crews and links, and who signed in, newest first."""
    told = read_trail(g.session, whole_number(request.args.get("before")))
    return render_template("people/trail.html", told=told)
