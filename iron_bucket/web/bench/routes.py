"""The list, one head, one other piece."""

import math
from typing import Any
from urllib.parse import urlencode

from flask import flash, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.bench.figure_origins import voices
from iron_bucket.core.bench.search import FACETS, search, wanted_of
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.seen import swatch
from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.core.photometry.illuminance import illuminance_lx
from iron_bucket.core.quantities import parse
from iron_bucket.desk import bench as desk
from iron_bucket.desk.bench.changes import bench_steps, step_bench
from iron_bucket.desk.bench.head_view import HeadView, open_head, open_piece
from iron_bucket.desk.past import past_of_bench, return_bench_to
from iron_bucket.formats.gear_rows import GEAR_KINDS
from iron_bucket.web.bench.blueprint import bp
from iron_bucket.web.bench.pictures import cross_section, fall_off, polar
from iron_bucket.web.bench.setting_picture import duv_picture_of, output_picture
from iron_bucket.web.bench.spectrum_pictures import duv_picture, passes_picture, spectrum_picture
from iron_bucket.web.shared.numbers import page_number, whole_number
from iron_bucket.web.shared.reply import after_step, reply
from iron_bucket.web.shared.request_session import person_id

VIEW: dict[str, Any] = {"page": "bench/list.html", "fragment": "bench/_list.html"}
#: The white balance against which lamps are drawn where no camera is known.
DAYLIGHT = LightColour.of_cct(5600.0)
TABLE_THROWS_M = (1.0, 2.0, 3.0, 5.0, 7.5, 10.0)
PAGE_ROWS = 60
#: What the list can show; configurations and units are shown with their head.
LISTED = tuple(kind for kind in GEAR_KINDS if kind not in ("configurations", "units"))


def shown(light_k: float) -> str:
    """A lamp's colour against daylight."""
    return swatch(LightColour.of_cct(light_k), DAYLIGHT)


@bp.get("")
def index() -> tuple[str, int]:
    """Heads and modifiers, searched and filtered."""
    words = request.args
    kind = words.get("kind", "heads") if words.get("kind") in LISTED else "heads"
    shelf = desk.shelf(g.session)
    found = search(
        shelf.index(kind),
        wanted_of(words.get("text", "")[:80], g.units),
        {facet: words.get(facet, "") for facet in FACETS},
    )
    page = page_number(words.get("page"))
    kept = {key: value for key, value in words.items() if key != "page"}
    return reply(
        **VIEW,
        words=words,
        kind=kind,
        noun=GEAR_KINDS[kind].noun,
        kinds=[(each, GEAR_KINDS[each].noun, len(shelf.index(each).items)) for each in LISTED],
        counts=found.counts,
        items=found.items[(page - 1) * PAGE_ROWS : page * PAGE_ROWS],
        total=len(found.items),
        number=page,
        pages=max(1, math.ceil(len(found.items) / PAGE_ROWS)),
        shown=shown,
        measured_heads={each.claimed.head_slug for each in shelf.measured.configurations.values()},
        undone=bench_steps(g.session, person_id()),
        unreadable=shelf.unreadable,
        page_address=lambda number: f"{url_for('bench.index')}?{urlencode({**kept, 'page': number})}",
        export_address=f"{url_for('bench.give_out')}?{urlencode({**kept, 'kind': kind})}",
    )


@bp.get("/heads/<slug>")
def head(slug: str) -> str:
    """One head with its configurations, what the maker says and what the meter found."""
    view = open_head(g.session, person_id(), slug)
    chosen = next((each for each in view.configurations if each.slug == request.args.get("configuration")), None)
    chosen = (
        chosen
        or next((each for each in view.configurations if not each.is_retired), None)
        or (view.configurations or (None,))[0]
    )
    pictures = {}
    if chosen is not None:
        measured = view.measured.get(chosen.slug)
        pictures = {
            "polar": polar(chosen),
            "section": cross_section(chosen, g.units),
            "fall": fall_off(chosen, view.stated[chosen.slug], view.head, g.units, measured),
            "settings": output_picture(view.head),
            "duv_settings": duv_picture_of(
                view.head, [each.reading for several in view.readings.values() for each in several]
            ),
            "voices": voices(view.stated[chosen.slug], view.head, measured, TABLE_THROWS_M),
            "measured": measured,
        }
    return render_template(
        "bench/head.html",
        view=view,
        chosen=chosen,
        shown=shown,
        undone=bench_steps(g.session, person_id()),
        focus_answer=_focus_answer(view),
        spectrum_picture=spectrum_picture,
        duv_picture=duv_picture,
        **pictures,
    )


def _focus_answer(view: HeadView) -> tuple[float, float, float] | str | None:
    """Candela, level and distance between two focus positions, or a sentence why not; None where nothing was asked."""
    asked = request.args.get("beam", "").strip()
    if not asked or not view.focus:
        return None
    lens = next((each for each in view.focus if each.optic == request.args.get("optic")), view.focus[0])
    try:
        throw_m = parse.length_m(request.args.get("throw") or "3 m", "distance", g.units)
        candela, offset_m = lens.at_beam(parse.number(asked, "beam", "°"))
        return candela, float(illuminance_lx(candela, throw_m, offset_m=offset_m)), throw_m
    except (BadValue, NoAnswer) as bad:
        return str(bad)


@bp.get("/pieces/<slug>")
def piece(slug: str) -> str:
    """One modifier, battery or stand."""
    view = open_piece(g.session, person_id(), slug)
    return render_template(
        "bench/piece.html",
        view=view,
        item=view.item,
        kind=view.kind,
        noun=GEAR_KINDS[view.kind].noun,
        undone=bench_steps(g.session, person_id()),
        spectrum_picture=spectrum_picture,
        passes_picture=passes_picture,
        duv_picture=duv_picture,
    )


@bp.post("/step/<any(back,on):way>/<int:number>")
def step(way: str, number: int) -> Response:
    """Undo this person's last change to the bench, or do it again."""
    return after_step(step_bench(g.session, person_id(), number, is_back=way == "back"), way)


@bp.get("/past")
def past() -> str:
    """What was done to the bench, by whom."""
    found = past_of_bench(g.session, whole_number(request.args.get("before")))
    here, home = url_for("bench.past"), url_for("bench.index")
    return render_template("shared/past.html", past=found, back=here, here=here, home=home, home_word="The bench")


@bp.post("/past/<int:number>")
def go_back(number: int) -> Response:
    """As it stood after a change."""
    flash(f"As it stood after: {return_bench_to(g.session, person_id(), number)}.")
    return redirect(url_for("bench.past"), code=303)
