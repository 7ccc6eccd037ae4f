"""The search for the best kit: asked for, on its way, found, taken over."""

from typing import Any

from flask import current_app, g, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bucket.best.problem import Goal
from iron_bucket.core.errors import BadValue
from iron_bucket.desk.background import begin_in_background
from iron_bucket.desk.bucket.best.apply import apply_way
from iron_bucket.desk.bucket.best.findings import BEST
from iron_bucket.desk.bucket.best.search import SearchState, begin_search, open_search, stop_search
from iron_bucket.desk.errors import ChangedMeanwhile
from iron_bucket.web.bucket.best_forms import (
    CAP_FIELDS,
    GOAL_FIELDS,
    TYPICAL_WEIGHTS,
    WEIGHT_FIELDS,
    goal_values,
    read_goal,
)
from iron_bucket.web.bucket.blueprint import bp
from iron_bucket.web.bucket.opened import shown
from iron_bucket.web.shared.reply import after_change, reply
from iron_bucket.web.shared.request_session import person_id
from iron_bucket.web.shared.typed_fields import refusal

Answer = Response | str | tuple[str, int]
VIEW: dict[str, Any] = {"page": "bucket/best.html", "fragment": "bucket/_best.html"}


@bp.get("/best")
def best(job_id: int) -> tuple[str, int]:
    """What was found last, or how far it is."""
    return reply(**VIEW, **_context(job_id))


def _context(job_id: int, bad: str = "", bad_at: str = "") -> dict[str, Any]:
    bucket, search = open_search(g.session, person_id(), job_id)
    shown(bucket)
    ways = search.result.get("ways", []) if search else []
    named = request.values.get("way", BEST)
    way = next((each for each in ways if each["name"] == named and not each["refused"]), None)
    goal = search.goal if search else Goal(weights=TYPICAL_WEIGHTS)
    return {
        "bucket": bucket,
        "here": "best",
        "search": search,
        "is_running": search is not None and search.state is SearchState.RUNNING,
        "ways": ways,
        "way": way,
        "setup_names": {each.setup_id: each.name for each in bucket.kit.passes},
        "names": _names(bucket.gear),
        "weight_fields": WEIGHT_FIELDS,
        "cap_fields": CAP_FIELDS,
        "values": goal_values(goal),
        "bad": bad,
        "bad_at": bad_at,
        "typed": request.form.to_dict() if bad_at == "goal" else {},
    }


def _names(gear: Gear) -> dict[str, str]:
    """Of all gear; a configuration with its head."""
    heads = {head.slug: head.name for head in gear.heads}
    lamps = {
        each.slug: f"{heads[each.head_slug]}, {each.name}" for each in gear.configurations if each.head_slug in heads
    }
    return {item.slug: item.name for item in gear.items()} | lamps


@bp.post("/best")
def search_best(job_id: int) -> Answer:
    """Begin, in the background."""
    view, _ = open_search(g.session, person_id(), job_id)
    units = view.job.rules.units
    try:
        goal = read_goal(request.form, units)
    except BadValue as bad:
        words = refusal(bad, GOAL_FIELDS, request.form.to_dict(), units).words
        return reply(**VIEW, status=422, **_context(job_id, words, "goal"))
    run = begin_search(g.session, person_id(), job_id, goal)
    url = current_app.extensions["engine"].url.render_as_string(hide_password=False)
    begin_in_background(url, "best-kit", str(job_id), run)
    return _changed(job_id)


@bp.post("/best/stop")
def stop_best(job_id: int) -> Answer:
    """Nothing of it is kept."""
    stop_search(g.session, person_id(), job_id)
    return _changed(job_id)


@bp.post("/best/apply")
def apply_best(job_id: int) -> Answer:
    """A way, whole or in one set-up."""
    form, setup = request.form, request.form.get("setup", "")
    number = int(setup) if setup.isdecimal() else None
    try:
        apply_way(g.session, person_id(), job_id, form.get("run", ""), form.get("way", ""), number)
    except (BadValue, ChangedMeanwhile) as bad:
        status = 409 if isinstance(bad, ChangedMeanwhile) else 422
        return reply(**VIEW, status=status, **_context(job_id, str(bad), "apply"))
    return _changed(job_id)


def _changed(job_id: int) -> Answer:
    way = request.form.get("way", "")
    address = url_for("bucket.best", job_id=job_id, way=way or None)
    return after_change(address, fragment=VIEW["fragment"], **_context(job_id))
