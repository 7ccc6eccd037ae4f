"""A light by what it must do, and heads by their names: what opens in place on a set-up."""

import json
from datetime import datetime, time
from itertools import groupby
from typing import Any

from flask import g, render_template, request

from iron_bucket.core.errors import BadValue
from iron_bucket.core.selection.fronts import FrontKind
from iron_bucket.core.setups.suggest.new_light import ON_A_HEAD
from iron_bucket.desk.setups import edit, lights
from iron_bucket.formats.change_json import change_row
from iron_bucket.web.setups import forms
from iron_bucket.web.setups.blueprint import bp
from iron_bucket.web.shared.request_session import person_id
from iron_bucket.web.shared.told_apart import told_apart
from iron_bucket.web.shared.typed_fields import Takes, field, read, refusal

#: What may be asked of a light, each empty where nobody has a wish.
FIELDS = (
    field("stops", "Level, from the exposure", Takes.STOPS),
    field("away_m", "Distance", Takes.LENGTH),
    field("height_m", "Height of the head", Takes.LENGTH),
    field("least_apparent_deg", "As soft as", Takes.DEGREES),
)
#: What may stand before the head, by the words that offer it.
FRONTS: dict[str, tuple[FrontKind, ...]] = {
    "on the head or through a frame": ON_A_HEAD,
    "without a second stand": (FrontKind.OPEN, FrontKind.GRID, FrontKind.FACE),
    "through a frame": (FrontKind.FRAME,),
    "off a bounce": (FrontKind.BOARD,),
    "as a book light": (FrontKind.BOOK,),
}


@bp.get("/jobs/<int:job_id>/setups/<int:setup_id>/new-light")
def new_light(job_id: int, setup_id: int) -> tuple[str, int]:
    """The need at a mark, or where somebody pointed, and what would meet it."""
    view = edit.open_setup(g.session, person_id(), job_id, setup_id)
    g.job, g.units = view.job, view.job.rules.units
    typed = {key: value for key, value in request.args.items() if value.strip()}
    bad, answer = None, None
    try:
        answer = lights.light_for(g.session, person_id(), job_id, setup_id, _asked(typed, view.setup.when))
    except BadValue as refused:
        bad = refusal(refused, FIELDS, typed, g.units)
    return render_template(
        "setups/_new_light.html",
        view=view,
        answer=answer,
        bad=bad,
        typed=typed,
        fields=FIELDS,
        fronts=list(FRONTS),
        feeds=forms.feeds(view.now.lit.built.surroundings.place, view.now.gear),
        marks=_marks(view.now.mark_names, {rung.mark_id for rung in view.now.ladder.rungs if rung.illuminance_lx}),
        groups=_groups(answer) if answer else [],
    ), 422 if bad else 200


def _marks(names: dict[str, str], lit: set[str]) -> list[tuple[str, str]]:
    """Whatever a meter can be held at."""
    marks = [mark for mark in names if mark in lit]
    return list(zip(marks, told_apart(names[mark] for mark in marks), strict=True))


def _asked(typed: dict[str, str], when: datetime) -> lights.LightAsked:
    wishes: dict[str, Any] = {each.key: read(each, typed[each.key], g.units) for each in FIELDS if each.key in typed}
    fronts = FRONTS.get(typed.get("fronts", ""), ON_A_HEAD)
    like_day = datetime.combine(when.date(), _hour(typed["like_day"])) if "like_day" in typed else None
    return lights.LightAsked(
        at=_at(typed.get("at", "")), like_day=like_day, feed_id=request.args.get("feed"), fronts=fronts, **wishes
    )


def _at(text: str) -> str | tuple[float, float]:
    """A mark, or metres across and up the plan."""
    parts = text.split(",")
    try:
        x_m, y_m = (float(part) for part in parts)
    except ValueError:
        return text
    return (x_m, y_m) if abs(x_m) < 1e4 and abs(y_m) < 1e4 else text


def _hour(text: str) -> time:
    try:
        return time.fromisoformat(text)
    except ValueError:
        raise BadValue("like_day", repr(text), "an hour such as 11:00") from None


def _groups(answer: lights.LightAnswer) -> list[tuple[Any, list[tuple[Any, str]]]]:
    """What is offered by where it comes from, each with its changes as JSON."""
    offers = answer.found.offers if answer.found else ()
    rows = [(way, json.dumps([change_row(each) for each in (*answer.first, *way.changes)])) for way in offers]
    return [(fetch, list(some)) for fetch, some in groupby(rows, key=lambda row: row[0].fetch)]


@bp.get("/jobs/<int:job_id>/setups/<int:setup_id>/heads")
def heads(job_id: int, setup_id: int) -> str:
    """Heads whose names hold what was typed, with their configurations, for the list under the field."""
    view = edit.open_setup(g.session, person_id(), job_id, setup_id)
    found = forms.heads_named(request.args.get("name", ""), view.now.gear)
    return render_template("setups/_heads.html", heads=found)
