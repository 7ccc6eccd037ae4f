"""The colours of a set-up: told at every mark, made to agree, to disagree, matched, and over the day."""

from typing import Any

from flask import flash, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.seen import Seen, seen_against, swatch
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities import parse
from iron_bucket.core.setups.colour.agree import School, cheapest_of, sources_of
from iron_bucket.core.setups.colour.disagree import Contrast, after_a_practical, contrasts
from iron_bucket.core.setups.colour.match import by_hue, by_meter, by_xy
from iron_bucket.core.setups.colour.through_time import through_the_day
from iron_bucket.core.setups.colour.ways import ColourWay
from iron_bucket.core.setups.evaluate.mark_colours import estimated_ra
from iron_bucket.desk.errors import ChangedMeanwhile
from iron_bucket.desk.setups import colour as desk
from iron_bucket.desk.setups.edit import open_setup
from iron_bucket.desk.setups.view import SetupView
from iron_bucket.web.setups.blueprint import bp
from iron_bucket.web.setups.colour_picture import colour_picture
from iron_bucket.web.shared.heavy import heavy
from iron_bucket.web.shared.letters import letters_of
from iron_bucket.web.shared.request_session import person_id

Answer = Response | str | tuple[str, int]
_PRACTICAL = "after a practical"


@bp.get("/jobs/<int:job_id>/setups/<int:setup_id>/colour")
def colour(job_id: int, setup_id: int) -> Answer:
    """All of it."""
    view = open_setup(g.session, person_id(), job_id, setup_id)
    try:
        return _page(view)
    except BadValue as bad:
        return _page(view, bad, is_plain=True), 422


def _page(view: SetupView, bad: Exception | None = None, *, is_plain: bool = False) -> str:
    """``is_plain``: nothing is worked out anew, what was typed stays in its fields."""
    g.job, g.units = view.job, view.job.rules.units
    values = {} if is_plain else request.values
    asked = _agree_asked(values)
    white, lit = view.setup.look.white, view.now.lit
    marks, plans = view.now.mark_colours, desk.plans_of(view, asked)
    lights = [light for light, _ in sources_of(lit)]
    groups = _groups(request.values, [light.light_id for light in lights])
    disagreement = None
    if values.get("contrast"):
        disagreement = desk.disagreement_of(view, _contrast(view, values), groups, asked.tolerance)
    matched: tuple[ColourWay, ...] = ()
    target = None
    if values.get("match"):
        target = _reading(values, white)
        matched = desk.ways_of(view, values["match"], target, asked.tolerance)
    letters = letters_of(view.setup, view.now.gear)
    return render_template(
        "setups/colour.html",
        view=view,
        marks=marks,
        white=white,
        plans=plans,
        cheapest=cheapest_of(plans, asked.tolerance),
        asked=asked,
        lights=lights,
        letters=letters,
        picture=colour_picture(marks, plans[0].sources, letters, white, asked.tolerance),
        contrasts=[*(each.name for each in contrasts()), _PRACTICAL],
        disagreement=disagreement,
        groups=groups,
        matched=matched,
        target=target,
        seen=lambda each, by=white: seen_against(each, by),
        swatch=lambda each: swatch(each, white),
        estimated_ra=estimated_ra,
        key=next((mark.lights[0].colour for mark in marks if mark.lights and "." in mark.mark_id), white),
        names={light.light_id: light.name for light in lit.built.lights},
        typed=request.values,
        bad=bad,
    )


def _agree_asked(values: Any) -> desk.AgreeAsked:
    tolerance = parse.number(values.get("tolerance", "20"), "tolerance")
    if not 1.0 <= tolerance <= 200.0:
        raise BadValue("tolerance", f"{tolerance:g} mired", "1 to 200 mired")
    return desk.AgreeAsked(target=values.get("target", desk.WHITE), tolerance=tolerance)


def _groups(values: Any, ids: list[str]) -> dict[str, bool]:
    """By light, whether it is of the warm group; what is in neither is left out."""
    words = {each: values.get(f"group-{each}", "") for each in ids}
    return {each: word == "warm" for each, word in words.items() if word in ("warm", "cool")}


def _contrast(view: SetupView, values: Any) -> Contrast:
    name = values["contrast"]
    known = {each.name: each for each in contrasts()}
    if name == _PRACTICAL:
        practical = desk.target_of(view, values.get("practical", ""))
        return after_a_practical(practical, view.setup.look.white, Seen(mired=0.0, duv=0.0))
    if name not in known:
        raise BadValue("contrast", repr(name), ", ".join((*known, _PRACTICAL)))
    found = known[name]
    if values.get("mired", "").strip():
        return found.wider(parse.number(values["mired"], "mired apart"))
    return found


def _reading(values: Any, white: LightColour) -> LightColour:
    """What a colour meter said, in whichever way it says it."""

    def fine(name: str, words: str) -> float:
        return parse.number(values.get(name, ""), words, is_fine=True)

    match values.get("meter", "cct"):
        case "xy":
            return by_xy(fine("first", "x"), fine("second", "y"))
        case "hue":
            return by_hue(fine("first", "hue"), fine("second", "saturation") / 100.0, white)
    tint = values.get("second", "").strip()
    return by_meter(parse.cct_k(values.get("first", ""), "CCT"), fine("second", "Duv") if tint else 0.0)


@bp.get("/jobs/<int:job_id>/setups/<int:setup_id>/colour/day")
@heavy
def colour_day(job_id: int, setup_id: int) -> str:
    """Over the day, which takes a moment."""
    view = open_setup(g.session, person_id(), job_id, setup_id)
    g.job, g.units = view.job, view.job.rules.units
    asked = _agree_asked(request.args)
    white = view.setup.look.white
    days = through_the_day(desk.colour_scene(view), asked.tolerance)
    return render_template(
        "setups/_colour_day.html", view=view, days=days, asked=asked, swatch=lambda each: swatch(each, white)
    )


@bp.get("/jobs/<int:job_id>/setups/<int:setup_id>/colour/rendering")
def colour_rendering(job_id: int, setup_id: int) -> str:
    """Ra and Rf of the marks whose light has spectra: apart, because the library they need is slow to load."""
    view = open_setup(g.session, person_id(), job_id, setup_id)
    found = desk.renderings_of(view)
    return render_template("setups/_colour_rendering.html", found=found)


@bp.post("/jobs/<int:job_id>/setups/<int:setup_id>/colour/agree")
def agree(job_id: int, setup_id: int) -> Answer:
    """The cheapest whole plan of a school, by one key."""

    def take() -> SetupView:
        named, asked = request.form.get("school", ""), _agree_asked(request.form)
        school = next((each for each in School if each.value == named), None)
        if school is None:
            raise BadValue("school", repr(named), ", ".join(School))
        return desk.take_plan(g.session, person_id(), job_id, setup_id, asked, school)

    return _taken(job_id, setup_id, take)


@bp.post("/jobs/<int:job_id>/setups/<int:setup_id>/colour/disagree")
def disagree(job_id: int, setup_id: int) -> Answer:
    """Both groups as they were asked."""

    def take() -> SetupView:
        view, form = open_setup(g.session, person_id(), job_id, setup_id), request.form
        ids = [light.light_id for light, _ in sources_of(view.now.lit)]
        asked = _agree_asked(form)
        contrast, groups = _contrast(view, form), _groups(form, ids)
        return desk.take_disagreement(g.session, person_id(), job_id, setup_id, contrast, groups, asked.tolerance)

    return _taken(job_id, setup_id, take)


@bp.post("/jobs/<int:job_id>/setups/<int:setup_id>/colour/match")
def match(job_id: int, setup_id: int) -> Answer:
    """One way of one light."""

    def take() -> SetupView:
        view, form = open_setup(g.session, person_id(), job_id, setup_id), request.form
        target, asked = _reading(form, view.setup.look.white), _agree_asked(form)
        number = int(parse.number(form.get("way", "1"), "way")) - 1
        light = form.get("match", "")
        return desk.take_way(g.session, person_id(), job_id, setup_id, light, target, asked.tolerance, number)

    return _taken(job_id, setup_id, take)


def _taken(job_id: int, setup_id: int, take: Any) -> Answer:
    try:
        take()
    except (BadValue, ChangedMeanwhile) as bad:
        view = open_setup(g.session, person_id(), job_id, setup_id)
        return _page(view, bad, is_plain=True), 409 if isinstance(bad, ChangedMeanwhile) else 422
    flash("Done. Undo, or z, on the plan takes it back.")
    return redirect(url_for("setups.colour", job_id=job_id, setup_id=setup_id), code=303)
