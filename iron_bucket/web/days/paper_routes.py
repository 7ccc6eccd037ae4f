"""The day out and in: a sheet on paper, a calendar, and the page for the day itself with its running clock."""

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

from flask import flash, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.errors import BadValue
from iron_bucket.desk.days.calendar import calendar_of, take_calendar
from iron_bucket.desk.days.view import DaysView, OneDay, open_days
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.desk.throttle import take_turn
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.sheet_pdf import sheet_pdf
from iron_bucket.web.days.blueprint import bp
from iron_bucket.web.days.day_routes import VIEW, asked_day, page_of
from iron_bucket.web.shared.heavy import heavy
from iron_bucket.web.shared.paper_limits import MINUTE, PAPERS_A_MINUTE
from iron_bucket.web.shared.reply import reply
from iron_bucket.web.shared.request_session import person_id

SIZES = ("A4", "letter")


def _one(view: DaysView) -> OneDay:
    """The day that is asked for, else the first. Raises: NotFound, BadValue."""
    g.job, g.units = view.power.job, view.power.rules.units
    one = view.day(asked_day())
    if one is None:
        raise NotFound("nothing is shot on that day")
    return one


@bp.get("/sheet.pdf")
@heavy
def sheet(job_id: int) -> Response:
    """A day on paper."""
    one = _one(open_days(g.session, person_id(), job_id))
    size = request.args.get("size", SIZES[0])
    if size not in SIZES:
        raise BadValue("size", repr(size), ", ".join(SIZES))
    take_turn(g.session, {f"paper of {person_id()}": PAPERS_A_MINUTE}, MINUTE)
    page = render_template("days/paper.html", one=one, job=one.view.power.job, size=size)
    headers = {"Content-Disposition": f'inline; filename="day-{one.day}.pdf"'}
    return Response(sheet_pdf(page), mimetype="application/pdf", headers=headers)


@bp.get("/days.ics")
@heavy
def calendar(job_id: int) -> Response:
    """All days as iCalendar."""
    headers = {"Content-Disposition": 'attachment; filename="days.ics"'}
    return Response(calendar_of(g.session, person_id(), job_id), mimetype="text/calendar", headers=headers)


@bp.post("/calendar")
def take(job_id: int) -> Response | tuple[str, int]:
    """A production's calendar: what it names is shot when it says."""
    file = request.files.get("file")
    try:
        if file is None or not file.filename:
            raise BadValue("calendar", "missing", "an iCalendar file (.ics)")
        taken = take_calendar(g.session, person_id(), job_id, file.read())
    except (BadValue, FormatError, ChangedMeanwhile) as bad:
        return reply(**VIEW, status=422, **page_of(open_days(g.session, person_id(), job_id), bad))
    flash(f"Fixed: {'; '.join(taken.fixed)}." if taken.fixed else "No event names a pass of this job.")
    if taken.unknown:
        flash(f"Not known here: {'; '.join(taken.unknown[:8])}.")
    return redirect(url_for("days.day", job_id=job_id), code=303)


@bp.get("/now")
def now(job_id: int) -> str:
    """What now, what next, how much light is left: by the clock of the place, or at a time that is named."""
    view = open_days(g.session, person_id(), job_id)
    g.job, g.units = view.power.job, view.power.rules.units
    if not view.days:
        raise NotFound("nothing is shot yet")
    when = _clock(view)
    days = [day for day in map(view.day, view.days) if day is not None]
    one = next(
        (day for day in days if day.midnight + timedelta(hours=5) <= when < day.midnight + timedelta(hours=29)), None
    )
    here = (
        [each for each in one.passes if one.shooting.clock(each.rig_min) <= when < one.shooting.clock(each.end_min)]
        if one
        else []
    )
    later = [(day, each) for day in days for each in day.passes if day.shooting.clock(each.rig_min) > when]
    return render_template(
        "days/now.html",
        job=view.power.job,
        one=one,
        when=when,
        here=here,
        following=later[0] if later else None,
        is_live="at" not in request.args,
    )


def _clock(view: DaysView) -> datetime:
    text = request.args.get("at", "")
    if text:
        try:
            return datetime.fromisoformat(text).replace(tzinfo=None)
        except ValueError:
            raise BadValue("at", repr(text), "a time such as 2026-11-26T14:30") from None
    zone = ZoneInfo(view.power.surroundings(view.power.passes[0]).place.time_zone)
    return datetime.now(UTC).astimezone(zone).replace(tzinfo=None)
