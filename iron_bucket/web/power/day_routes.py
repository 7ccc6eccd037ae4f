"""Batteries over a day: burn strips, what makes it last, the swap list; and how long each pass takes."""

from datetime import date
from typing import Any

from flask import g, render_template, request, url_for

from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.core.power.burn_day import Event, Happening
from iron_bucket.core.power.job.shooting_day import time_of
from iron_bucket.desk.errors import ChangedMeanwhile
from iron_bucket.desk.power.days import DayView, day_view, enough_changes
from iron_bucket.desk.power.edit import change_power
from iron_bucket.desk.power.view import PowerView, open_power
from iron_bucket.formats.record_json import write_record
from iron_bucket.web.power.blueprint import bp
from iron_bucket.web.power.board_routes import Answer
from iron_bucket.web.power.day_picture import UNIT_HIGH_PX, WIDTHS, day_picture
from iron_bucket.web.power.kit_forms import TIME_FIELDS
from iron_bucket.web.shared.heavy import heavy
from iron_bucket.web.shared.in_words import in_words
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.reply import after_change, reply
from iron_bucket.web.shared.request_session import person_id
from iron_bucket.web.shared.typed_fields import changes_of, refusal

VIEW: dict[str, Any] = {"page": "power/day.html", "fragment": "power/_day.html"}


@bp.get("/day")
@heavy
def day(job_id: int) -> tuple[str, int]:
    """A day of the job, by its date or one of its passes."""
    return reply(**VIEW, **_context(open_power(g.session, person_id(), job_id)))


def _asked(view: PowerView) -> DayView | None:
    text = request.values.get("day", "")
    try:
        named = date.fromisoformat(text) if text else None
    except ValueError:
        raise BadValue("day", repr(text), "a day such as 2026-11-27") from None
    return day_view(view, named, whole_number(request.values.get("pass")))


def _context(view: PowerView, bad: Exception | None = None, typed: dict[str, str] | None = None) -> dict[str, Any]:
    g.job, g.units = view.job, view.job.rules.units
    shown = _asked(view)
    found: dict[str, Any] = {"view": view, "shown": shown, "each": None, "here": "day", "bad": ""}
    if bad:
        found["bad"] = refusal(bad, TIME_FIELDS, typed, g.units).words if typed is not None else in_words(bad)
    if shown is None:
        return found
    return found | {
        "each": shown.day.passes[0].of,
        "pictures": {name: day_picture(shown, width) for name, width in WIDTHS.items()},
        "unit_high": UNIT_HIGH_PX,
        "times": [(timed, write_record(timed.time)) for timed in shown.day.passes],
        "time_fields": TIME_FIELDS,
        "place_names": {each.place_id: each.place_name for each in view.passes},
    }


@bp.get("/day/swaps")
def swaps(job_id: int) -> str:
    """The swap list of a day: a sheet for the phone."""
    view = open_power(g.session, person_id(), job_id)
    g.job, g.units = view.job, view.job.rules.units
    shown = _asked(view)
    rows = (
        [(f"{shown.day.clock(event.minute):%H:%M}", event, _words(shown, event)) for event in shown.events]
        if shown
        else []
    )
    return render_template("power/swaps.html", view=view, shown=shown, rows=rows, each=None, here="day")


def _words(shown: DayView, event: Event) -> str:
    """What is done, or happens, at a lamp."""
    kind = next(each.kind.name for each in shown.hours.lamps if each.lamp_id == event.lamp_id)
    off, put = (", ".join(shown.unit_name(unit) for unit in units) for units in (event.taken, event.put))
    match event.what:
        case Happening.SWAP if not off:
            return f"put on {put} ({kind})"
        case Happening.SWAP:
            return f"{off} off, {put} on ({kind})"
        case Happening.DARK:
            return f"goes dark: no full {kind} is left"
        case Happening.REFUSES:
            return f"does not run: it asks more than {kind} may give"
    return "is lit again"


@bp.post("/day/times")
def change_times(job_id: int) -> Answer:
    """How long one pass takes."""
    setup_id = whole_number(request.form.get("setup_id"))
    typed = {key: value for key, value in request.form.items() if not key.startswith("was-")}
    try:
        to, was = changes_of(TIME_FIELDS, request.form, g.get("units") or _units(job_id))
        if not to:
            return _answer(open_power(g.session, person_id(), job_id))
        return _answer(change_power(g.session, person_id(), job_id, *_time_change(job_id, setup_id, to, was)))
    except (BadValue, ChangedMeanwhile) as bad:
        status = 409 if isinstance(bad, ChangedMeanwhile) else 422
        return reply(**VIEW, status=status, **_context(open_power(g.session, person_id(), job_id), bad, typed))


def _units(job_id: int) -> Any:
    return open_power(g.session, person_id(), job_id).job.rules.units


def _time_change(
    job_id: int, setup_id: int | None, to: dict[str, Any], was: dict[str, Any]
) -> tuple[list[dict[str, Any]], str]:
    """A change of a pass's time, which is added where it was only usual so far."""
    view = open_power(g.session, person_id(), job_id)
    each = view.pass_of(setup_id)
    if each is None:
        raise BadValue("pass", repr(setup_id), "a pass of this job")
    text = f"changed the times of {each.setup.name}, {each.setup.width.value}"
    whole = {key: int(value) if key.endswith("_min") else value for key, value in to.items()}
    if view.power.time_of(each.setup_id) is None:
        piece = write_record(time_of(each, view.power)) | whole
        return [{"operation": "add", "where": "times", "to": piece}], text
    row = {"operation": "set", "where": "times", "piece_id": f"pass-{each.setup_id}", "to": whole, "was": was}
    return [row], text


@bp.post("/day/enough")
def bring_enough(job_id: int) -> Answer:
    """The least number of each battery that lasts the day."""
    view = open_power(g.session, person_id(), job_id)
    try:
        shown = _asked(view)
        changes = enough_changes(shown) if shown else []
        if changes:
            view = change_power(g.session, person_id(), job_id, changes, "brought batteries enough for the day")
    except (BadValue, NoAnswer, ChangedMeanwhile) as bad:
        return reply(**VIEW, status=422, **_context(open_power(g.session, person_id(), job_id), bad))
    return _answer(view)


def _answer(view: PowerView) -> Answer:
    address = url_for("power.day", job_id=view.job.job_id, day=request.form.get("day") or None)
    return after_change(address, fragment=VIEW["fragment"], **_context(view))
