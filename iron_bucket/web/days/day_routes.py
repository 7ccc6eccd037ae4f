"""The order of a day: shown, changed by hand, ordered by the program; its hours and rules."""

from collections.abc import Callable
from datetime import date, timedelta
from typing import Any

from flask import current_app, g, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.days.day_plan import clock_min
from iron_bucket.core.days.order import Cost
from iron_bucket.core.days.ordering import DaySchool
from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.core.quantities import display
from iron_bucket.desk.days import edit as desk
from iron_bucket.desk.days.pace import earlier_pace
from iron_bucket.desk.days.view import DaysView, OneDay, open_days
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.formats.record_json import write_record
from iron_bucket.web.days.blueprint import bp
from iron_bucket.web.days.rule_fields import DAY_FIELDS, RULE_FIELDS
from iron_bucket.web.days.strip import ROW_HIGH, SKY_HIGH, WEATHER_HIGH, WIDTHS, day_strip
from iron_bucket.web.shared.heavy import heavy
from iron_bucket.web.shared.in_words import in_words
from iron_bucket.web.shared.reply import after_change, reply
from iron_bucket.web.shared.request_session import person_id
from iron_bucket.web.shared.typed_fields import changes_of

Answer = Response | str | tuple[str, int]
#: What a mark of a pass is called as it is set, and as it is taken away.
_MARKS = {
    "is_pinned": ("fixed the hour of", "freed"),
    "is_hero": ("made a hero of", "no hero any more:"),
    "has_sound": ("sound with", "no sound with"),
}
_MOST_DIGITS = 9
VIEW: dict[str, Any] = {"page": "days/page.html", "fragment": "days/_day.html"}


@bp.get("")
@heavy
def day(job_id: int) -> Answer:
    """A day of the job, the first where none is named."""
    return reply(**VIEW, **page_of(open_days(g.session, person_id(), job_id)))


def asked_day() -> date | None:
    """The day that an address or a form names. Raises: BadValue."""
    text = request.values.get("day", "")
    try:
        return date.fromisoformat(text) if text else None
    except ValueError:
        raise BadValue("day", repr(text), "a day such as 2026-11-27") from None


def page_of(view: DaysView, bad: Exception | None = None) -> dict[str, Any]:
    """What the page of a day needs; ``bad``: what was refused."""
    g.job, g.units = view.power.job, view.power.rules.units
    asked = asked_day()
    one = view.day(asked)
    if one is None and asked is not None and view.days:
        raise NotFound("nothing is shot on that day")
    return {
        "view": view,
        "job": view.power.job,
        "one": one,
        "strips": {name: day_strip(one, width) for name, width in WIDTHS.items()} if one else {},
        "size": (SKY_HIGH, ROW_HIGH, WEATHER_HIGH),
        "orders": _orders(one) if one else [],
        "day_fields": DAY_FIELDS,
        "rule_fields": RULE_FIELDS,
        "day_row": write_record(found) if one and (found := view.plan.day(one.day)) else {},
        "plan_row": write_record(view.plan),
        "bad": in_words(bad) if bad else "",
        "bad_field": getattr(bad, "field", ""),
        "typed": request.form if bad else {},
        "learned": earlier_pace(g.session, person_id(), view.power.job.job_id),
        "has_office": current_app.extensions["weather"] is not None,
    }


def _orders(one: OneDay) -> list[dict[str, Any]]:
    """What is offered beside what is: its name, its cost, and what changes."""
    now, best = one.as_it_is, one.best
    found = [{"name": "best", "words": "The cheapest", "order": best.order, "ordered": best}]
    found += [
        {"name": school.value, "words": school.value.capitalize(), "order": one.schools[school], "ordered": None}
        for school in DaySchool
    ]
    return [{"changes": each["order"].cost.over(now.cost), **each} for each in found]  # type: ignore[attr-defined]


def changed_page(job_id: int, change: Callable[[], DaysView]) -> Answer:
    """The page after a change, with what that cost; the same page with the sentence where it was refused."""
    before = _cost(open_days(g.session, person_id(), job_id))
    try:
        view = change()
    except (BadValue, NoAnswer, ChangedMeanwhile) as bad:
        status = 409 if isinstance(bad, ChangedMeanwhile) else 422
        return reply(**VIEW, status=status, **page_of(open_days(g.session, person_id(), job_id), bad))
    address = url_for("days.day", job_id=job_id, day=request.form.get("day") or None)
    return after_change(address, fragment=VIEW["fragment"], **page_of(view), told=_told(before, _cost(view)))


def _cost(view: DaysView) -> Cost | None:
    """Of the day that the form names, as it stands."""
    one = view.day(asked_day())
    return one.as_it_is.cost if one else None


def _told(before: Cost | None, after: Cost | None) -> str:
    """What a change costs, or saves, in words; empty where it does neither."""
    if before is None or after is None or abs(after.total - before.total) < 0.5:
        return ""
    lines = ", ".join(f"{display.signed(count)} {words}" for words, count in after.over(before))
    more = after.total - before.total
    return f"That {'costs' if more > 0 else 'saves'} {abs(more):.0f} points: {lines}."


def whole_of_form(name: str, accepted: str = "a pass of this job") -> int:
    """A number that a form sends. Raises: BadValue."""
    text = request.form.get(name, "").strip()
    if not text.isdecimal() or len(text) > _MOST_DIGITS:
        raise BadValue(name, repr(text), accepted)
    return int(text)


@bp.post("/time")
def time_of(job_id: int) -> Answer:
    """One pass at another hour of its day."""

    def change() -> DaysView:
        view = open_days(g.session, person_id(), job_id)
        one, setup_id = view.day(asked_day()), whole_of_form("setup_id")
        minute = clock_min(request.form.get("at", ""), "time")
        if one is None or minute is None:
            raise BadValue("time", repr(request.form.get("at", "")), "a time such as 14:30")
        when = one.midnight + timedelta(minutes=minute)
        return desk.shoot_at(g.session, person_id(), job_id, setup_id, when, request.form.get("was", ""))

    return changed_page(job_id, change)


@bp.post("/move/<any(earlier,later):way>")
def move(job_id: int, way: str) -> Answer:
    """One pass before its neighbour, or behind it."""
    return changed_page(
        job_id,
        lambda: desk.move_pass(g.session, person_id(), job_id, whole_of_form("setup_id"), is_earlier=way == "earlier"),
    )


@bp.post("/place")
def place(job_id: int) -> Answer:
    """One pass to another place of its day, counted from 1."""

    def change() -> DaysView:
        to = whole_of_form("place", "a place in the day such as 1") - 1
        return desk.put_pass(g.session, person_id(), job_id, whole_of_form("setup_id"), to)

    return changed_page(job_id, change)


@bp.post("/order")
def order(job_id: int) -> Answer:
    """The whole day in another order."""

    def change() -> DaysView:
        day = asked_day()
        if day is None:
            raise BadValue("day", repr(""), "a day such as 2026-11-27")
        return desk.take_order(g.session, person_id(), job_id, day, request.form.get("named", "best"))

    return changed_page(job_id, change)


@bp.post("/pass/<any(is_pinned,is_hero,has_sound):field>")
def mark(job_id: int, field: str) -> Answer:
    """A pass that is fixed, that the day is built round, or that has sound; or not any more."""

    def change() -> DaysView:
        view, setup_id = open_days(g.session, person_id(), job_id), whole_of_form("setup_id")
        each = view.power.pass_of(setup_id)
        is_so = request.form.get("yes") == "yes"
        word = _MARKS[field]
        rows = desk.said_of_pass(view.plan, setup_id, **{field: is_so})
        name = f"{each.setup.name}, {each.setup.width.value}" if each else ""
        return desk.change_days(g.session, person_id(), job_id, rows, f"{word[not is_so]} {name}")

    return changed_page(job_id, change)


@bp.post("/hours")
def hours(job_id: int) -> Answer:
    """Call, wrap, curfew and sound hours of a day."""

    def change() -> DaysView:
        view, day = open_days(g.session, person_id(), job_id), asked_day()
        if day is None:
            raise BadValue("day", repr(""), "a day such as 2026-11-27")
        said = view.plan.day(day)
        row = write_record(said) if said else {}
        to = {f.key: request.form[f.key].strip() for f in DAY_FIELDS if f.key in request.form}
        to = {key: value for key, value in to.items() if value != row.get(key, "")}
        if not to:
            return view
        rows = desk.said_of_day(view.plan, day, to, {key: row.get(key, "") for key in to} if said else {})
        return desk.change_days(g.session, person_id(), job_id, rows, f"changed the hours of {day:%-d %b}")

    return changed_page(job_id, change)


@bp.post("/rules")
def rules(job_id: int) -> Answer:
    """What counts how much, and how long moves and breaks are."""

    def change() -> DaysView:
        to, was = changes_of(RULE_FIELDS, request.form, g.units)
        if not to:
            return open_days(g.session, person_id(), job_id)
        to = {key: int(value) if key.endswith("_min") else value for key, value in to.items()}
        rows = [{"operation": "set", "to": to, "was": was}]
        return desk.change_days(g.session, person_id(), job_id, rows, "changed the rules of the days")

    return changed_page(job_id, change)


@bp.post("/step/<any(back,on):way>/<int:number>")
def step(job_id: int, way: str, number: int) -> Answer:
    """Undo, or redo."""
    return changed_page(job_id, lambda: desk.step_days(g.session, person_id(), job_id, number, is_back=way == "back"))
