"""What replaces the light of a pass from a minute on; and whether two shots cut."""

from datetime import datetime, timedelta

from flask import flash, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.days.continuity import match_sheet
from iron_bucket.core.days.day_plan import clock_min
from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.desk.days import insurance as desk
from iron_bucket.desk.days.view import DaysView, OneDay, open_days
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.web.days.blueprint import bp
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.request_session import person_id

#: What is asked, by the word in the address.
_WAYS = {"light": "If its light goes", "sun": "If the sun comes", "night": "As night"}
Answer = Response | str | tuple[str, int]


def day_of_pass(view: DaysView, setup_id: int | None) -> tuple[OneDay, int]:
    """The day of a pass. Raises: NotFound."""
    if setup_id is None:
        raise NotFound("there is no such pass in this job now")
    return view.day_with(setup_id), setup_id


def _at(one: OneDay) -> datetime:
    text = request.values.get("at", "")
    minute = clock_min(text, "at")
    if minute is None:
        raise BadValue("at", repr(text), "a time such as 15:20")
    return one.midnight + timedelta(minutes=minute)


@bp.get("/insurance")
def insurance(job_id: int) -> Answer:
    """What replaces the light of a pass at another hour, keeps the sun out of it, or makes night of it."""
    view = open_days(g.session, person_id(), job_id)
    one, setup_id = day_of_pass(view, whole_number(request.args.get("setup")))
    return _page(view, one, setup_id)


def _way() -> desk.Way:
    text = request.values.get("way", desk.Way.LIGHT_GOES.value)
    try:
        return desk.Way(text)
    except ValueError:
        raise BadValue("way", repr(text), ", ".join(desk.Way)) from None


def _page(view: DaysView, one: OneDay, setup_id: int, refused: str = "", status: int = 200) -> Answer:
    g.job, g.units = view.power.job, view.power.rules.units
    each = next(each for each in one.passes if each.of.setup_id == setup_id)
    found, bad, at, way = None, refused, request.values.get("at", ""), _way()
    ask = {
        desk.Way.LIGHT_GOES: desk.open_insurance,
        desk.Way.SUN_COMES: desk.open_sun_out,
        desk.Way.NIGHT: desk.open_day_for_night,
    }[way]
    try:
        _, found = ask(g.session, person_id(), view.power.job.job_id, setup_id, _at(one))
    except (BadValue, NoAnswer) as why:
        bad, status = refused or str(why), 422
    page = render_template(
        "days/insurance.html",
        job=view.power.job,
        one=one,
        each=each,
        found=found,
        bad=bad,
        at=at,
        way=way.value,
        ways=_WAYS,
    )
    return page, status


@bp.post("/insurance")
def keep(job_id: int) -> Answer:
    """One of them as a pass of its own, in the bucket or not."""
    view = open_days(g.session, person_id(), job_id)
    one, setup_id = day_of_pass(view, whole_number(request.form.get("setup")))
    is_brought = request.form.get("brought") == "yes"
    try:
        text = request.form.get("text", "")
        number = desk.keep_ready(
            g.session, person_id(), job_id, setup_id, _at(one), _way(), text, is_brought=is_brought
        )
    except ChangedMeanwhile as changed:
        return _page(view, one, setup_id, str(changed), 409)
    except (BadValue, NoAnswer) as bad:
        return _page(view, one, setup_id, str(bad), 422)
    flash(
        "It is on the plan, and its kit in the bucket."
        if is_brought
        else "It is ready, and put away till it is asked for."
    )
    return redirect(url_for("setups.setup", job_id=job_id, setup_id=number), code=303)


@bp.get("/match")
def match(job_id: int) -> str:
    """Two passes beside each other: what would be seen in the cut, and what would close it."""
    view = open_days(g.session, person_id(), job_id)
    g.job, g.units = view.power.job, view.power.rules.units
    names = {
        each.setup_id: f"{each.setup.name}, {each.setup.width.value}, {each.setup.when:%-d %b %H:%M}"
        for each in view.power.passes
    }
    asked = [whole_number(request.args.get(name)) for name in ("one", "other")]
    sheet = None
    if all(each in names for each in asked):
        lits = []
        for setup_id in asked:
            one, number = day_of_pass(view, setup_id)
            lits.append(one.evaluation(next(e.of for e in one.passes if e.of.setup_id == number)).lit)
        sheet = match_sheet(*lits)
    return render_template("days/match.html", job=view.power.job, names=names, asked=asked, sheet=sheet)
