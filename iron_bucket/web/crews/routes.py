"""Who belongs to a crew or a job and as what; joining, leaving, handing over."""

from collections.abc import Callable

from flask import Blueprint, flash, g, redirect, render_template, request, session, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.roles import Act, Role, may
from iron_bucket.desk import crews as desk
from iron_bucket.desk.errors import NotAllowed
from iron_bucket.desk.jobs import open_job
from iron_bucket.web.shared.in_words import in_words
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.request_session import person_id

bp = Blueprint("crews", __name__, template_folder="templates")
Answer = Response | tuple[str, int]


def _role() -> Role:
    word = request.form.get("role", "")
    if word not in list(Role):
        raise BadValue("role", repr(word), "one of " + ", ".join(Role))
    return Role(word)


def _number(field: str) -> int:
    number = whole_number(request.form.get(field))
    if number is None:
        raise BadValue(field, repr(request.form.get(field, "")), "somebody of the list")
    return number


def _crew_page(bad: Exception | None = None, at: str = "", status: int = 200) -> tuple[str, int]:
    mine = desk.my_crews(g.session, person_id())
    wanted = whole_number(request.values.get("crew")) or (g.crew.crew_id if g.crew else session.get("crew"))
    crew = next((each for each in mine if each.crew_id == wanted), mine[0] if mine else None)
    return render_template(
        "crews/crew.html",
        mine=mine,
        crew=crew,
        people=desk.people_of_crew(g.session, crew.crew_id) if crew else (),
        may_settle=crew is not None and may(crew.role, Act.SETTLE),
        me=person_id(),
        roles=list(Role),
        bad=in_words(bad) if bad else "",
        bad_at=at,
        typed=request.form,
    ), status


def _job_page(job_id: int, bad: Exception | None = None, at: str = "", status: int = 200) -> tuple[str, int]:
    g.job = job = open_job(g.session, person_id(), job_id)
    return render_template(
        "crews/job.html",
        job=job,
        people=desk.people_of_job(g.session, job_id),
        may_settle=may(g.role, Act.SETTLE),
        me=person_id(),
        roles=list(Role),
        bad=in_words(bad) if bad else "",
        bad_at=at,
        typed=request.form,
    ), status


def _refused(bad: Exception) -> int:
    return 403 if isinstance(bad, NotAllowed) else 422


def _of_crew(act: Callable[[], None], at: str) -> Answer:
    """The crew's page after a change, or the same form with why not."""
    try:
        act()
    except (BadValue, NotAllowed) as bad:
        return _crew_page(bad, at, _refused(bad))
    return redirect(url_for("crews.index"), code=303)


def _of_job(job_id: int, act: Callable[[], None], at: str) -> Answer:
    """The same for a job."""
    try:
        act()
    except (BadValue, NotAllowed) as bad:
        return _job_page(job_id, bad, at, _refused(bad))
    return redirect(url_for("crews.job", job_id=job_id), code=303)


@bp.get("/crew")
def index() -> Answer:
    """The crews of whoever asks, and who is in the one they work for."""
    return _crew_page()


@bp.post("/crew/new")
def make() -> Answer:
    """A new crew, with an empty bench."""
    try:
        session["crew"] = desk.make_crew(g.session, person_id(), request.form.get("name", ""))
    except BadValue as bad:
        return _crew_page(bad, "make", 422)
    return redirect(url_for("crews.index"), code=303)


@bp.post("/crew/work-for")
def work_for() -> Response:
    """Whose bench and places are shown from now on."""
    wanted = whole_number(request.form.get("crew"))
    if wanted in {each.crew_id for each in desk.my_crews(g.session, person_id())}:
        session["crew"] = wanted
    return redirect(url_for("crews.index"), code=303)


@bp.post("/crew/people")
def put() -> Answer:
    """Somebody into the crew, or in another role."""
    return _of_crew(
        lambda: desk.put_in_crew(g.session, person_id(), g.crew.crew_id, request.form.get("sign_in", ""), _role()),
        "put",
    )


@bp.post("/crew/people/out")
def take_out() -> Answer:
    """Somebody out of the crew."""
    return _of_crew(lambda: desk.take_out_of_crew(g.session, person_id(), g.crew.crew_id, _number("person")), "put")


@bp.post("/crew/leave")
def leave() -> Answer:
    """Whoever asks leaves the crew."""
    try:
        desk.take_out_of_crew(g.session, person_id(), g.crew.crew_id, person_id())
    except NotAllowed as bad:
        return _crew_page(bad, "put", 403)
    flash(f"You left {g.crew.name}.")
    return redirect(url_for("account.page"), code=303)


@bp.post("/crew/hand-over")
def hand_over() -> Answer:
    """Somebody else is gaffer of the crew from now on."""
    return _of_crew(
        lambda: desk.hand_over(g.session, person_id(), (), g.crew.crew_id, request.form.get("sign_in", "")), "hand-over"
    )


@bp.post("/crew/name")
def rename() -> Answer:
    """Another name for the crew."""
    return _of_crew(
        lambda: desk.rename_crew(g.session, person_id(), g.crew.crew_id, request.form.get("name", "")), "rename"
    )


@bp.get("/jobs/<int:job_id>/crew")
def job(job_id: int) -> Answer:
    """Who works on a job."""
    return _job_page(job_id)


@bp.post("/jobs/<int:job_id>/crew/people")
def put_on_job(job_id: int) -> Answer:
    """Somebody onto the job, or in another role."""
    return _of_job(
        job_id, lambda: desk.put_on_job(g.session, person_id(), job_id, request.form.get("sign_in", ""), _role()), "put"
    )


@bp.post("/jobs/<int:job_id>/crew/out")
def take_off_job(job_id: int) -> Answer:
    """Somebody off the job."""
    return _of_job(job_id, lambda: desk.take_off_job(g.session, person_id(), job_id, _number("person")), "put")


@bp.post("/jobs/<int:job_id>/crew/leave")
def leave_job(job_id: int) -> Answer:
    """Whoever asks leaves the job."""
    try:
        desk.take_off_job(g.session, person_id(), job_id, person_id())
    except NotAllowed as bad:
        return _job_page(job_id, bad, "put", 403)
    flash("You left the job.")
    return redirect(url_for("jobs.index"), code=303)


@bp.post("/jobs/<int:job_id>/crew/all")
def bring_crew(job_id: int) -> Response:
    """Everybody of the crew whose gear the job uses."""
    come = desk.bring_crew(g.session, person_id(), job_id)
    flash(f"{come} more {'people work' if come != 1 else 'person works'} on this job now.")
    return redirect(url_for("crews.job", job_id=job_id), code=303)


@bp.post("/jobs/<int:job_id>/crew/hand-over")
def hand_over_job(job_id: int) -> Answer:
    """Somebody else is gaffer of the job from now on."""
    return _of_job(
        job_id,
        lambda: desk.hand_over(g.session, person_id(), (job_id,), None, request.form.get("sign_in", "")),
        "hand-over",
    )
