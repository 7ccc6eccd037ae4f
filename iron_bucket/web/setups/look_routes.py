"""The look: what level this camera wants, what it holds, and what must give for a window to hold."""

from collections.abc import Sequence
from datetime import date, datetime, time
from typing import Any

from flask import flash, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.checks import require_time
from iron_bucket.core.daylight.hours import brighter_span
from iron_bucket.core.daylight.sky import Weather
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities import parse as read_typed
from iron_bucket.core.setups.evaluate.ladder import Ladder
from iron_bucket.core.setups.plan.look import HeldWindow, Look, grey_luminance_cd_m2, held_window
from iron_bucket.desk import places as desk_places
from iron_bucket.desk.jobs import JobView
from iron_bucket.desk.setups import passes
from iron_bucket.formats.record_json import read_record, write_record
from iron_bucket.web.setups.blueprint import bp
from iron_bucket.web.setups.forms import LOOK_FIELDS
from iron_bucket.web.shared.pictures.ladder import ladder_picture
from iron_bucket.web.shared.request_session import person_id
from iron_bucket.web.shared.today import today
from iron_bucket.web.shared.typed_fields import read_row

#: What the page asks beside the camera: the light that is there, and a window. Typical: an overcast sky of 3000 cd/m2
#: behind clear glass.
_ASKED = {"there": "", "outside": "9400 lx", "passes": "80", "place": "", "weather": "overcast"}


@bp.get("/jobs/<int:job_id>/look")
def look(job_id: int) -> str | tuple[str, int]:
    """The job's look, and two questions."""
    job, look = passes.job_look(g.session, person_id(), job_id)
    g.job, g.units = job, job.rules.units
    asked = {key: request.args.get(key, usual) for key, usual in _questions().items()}
    try:
        return _page(job, look, asked, None)
    except BadValue as bad:
        return _page(job, look, _questions(), bad, asked), 422


def _questions() -> dict[str, str]:
    """As they stand before anybody has asked anything."""
    return _ASKED | {"day": today().isoformat()}


def _page(
    job: JobView, look: Look, asked: dict[str, str], bad: Exception | None, typed: dict[str, str] | None = None
) -> str:
    receptor = job.rules.receptor
    wanted = look.wanted_lx(receptor)
    ladder = ladder_picture(
        Ladder(rungs=(), above=look.clip_stops, below=look.floor_stops, wanted_lx=wanted),
        g.units,
        width=300.0,
        height=560.0,
    )
    there_lx = read_typed.illuminance_lx(asked["there"], "Available light", g.units) if asked["there"].strip() else None
    window, places = _window(look, asked, job), desk_places.list_places(g.session)
    return render_template(
        "setups/look.html",
        job=job,
        places=[each for each in places if not each.is_archived],
        weathers=list(Weather),
        hours=_hours(asked, window, places),
        look=look,
        row=write_record(look),
        fields=LOOK_FIELDS,
        wanted_lx=wanted,
        ladder=ladder,
        there_lx=there_lx,
        t_stop=look.t_stop_at(there_lx, receptor) if there_lx else None,
        window=window,
        asked=typed or asked,
        bad=bad,
        typed=request.form.to_dict() if request.method == "POST" else {},
    )


def _hours(asked: dict[str, str], window: HeldWindow, places: Sequence[desk_places.PlaceView]) -> dict[str, Any]:
    """When of a day at a place it is too bright outside; empty where no place is asked for."""
    view = next((each for each in places if str(each.place_id) == asked["place"]), None)
    if view is None:
        return {}
    try:
        day, weather = date.fromisoformat(asked["day"]), Weather(asked["weather"])
        require_time("day", datetime.combine(day, time()))
    except BadValue:
        raise
    except ValueError:
        said = f"{asked['day']}, {asked['weather']}"
        raise BadValue("day", repr(said), "a day such as 2026-11-26, and clear, partly cloudy or overcast") from None
    return {
        "at": view.place.name,
        "day": day,
        "weather": weather,
        "span": brighter_span(window.outside_lx, weather, day, view.surroundings.sun),
    }


def _window(look: Look, asked: dict[str, str], job: JobView) -> HeldWindow:
    """A view outside of so many lux on middle grey."""
    outside_lx = read_typed.illuminance_lx(asked["outside"], "Outside", g.units)
    passes = read_typed.number(asked["passes"], "Glass passes", "%") / 100.0
    if not 0.0 < passes <= 1.0:
        raise BadValue("Glass passes", asked["passes"], "above 0, up to 100 %")
    return held_window(
        luminance_cd_m2=grey_luminance_cd_m2(outside_lx), passes=passes, look=look, receptor=job.rules.receptor
    )


@bp.post("/jobs/<int:job_id>/look")
def set_look(job_id: int) -> Response | tuple[str, int]:
    """Keep the look for set-ups that start from now on."""
    job, look = passes.job_look(g.session, person_id(), job_id)
    g.job, g.units = job, job.rules.units
    try:
        passes.set_look(
            g.session,
            person_id(),
            job_id,
            read_record(Look, write_record(look) | read_row(LOOK_FIELDS, request.form, g.units)),
        )
    except BadValue as bad:
        return _page(job, look, _questions(), bad), 422
    flash("Saved. New set-ups start from this look.")
    return redirect(url_for("setups.look", job_id=job_id), code=303)
