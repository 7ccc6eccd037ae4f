"""Readings: walking away from a lamp, a pasted table, one struck out."""

from collections.abc import Mapping
from typing import Any

from flask import flash, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.measured_configuration import MeasuredConfiguration
from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities import display
from iron_bucket.desk import bench as desk_bench
from iron_bucket.desk.bench import readings as desk
from iron_bucket.desk.bench.head_view import HeadView, open_head
from iron_bucket.desk.errors import NotFound
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.reading_table import COLUMN_USES
from iron_bucket.web.bench.blueprint import bp
from iron_bucket.web.bench.pictures import fall_off
from iron_bucket.web.bench.reading_forms import reading_of, start_of
from iron_bucket.web.shared.reply import after_change, back_to, reply
from iron_bucket.web.shared.request_session import person_id

WALK: dict[str, Any] = {"page": "bench/walk.html", "fragment": "bench/_walk.html"}
#: What is carried from one reading to the next.
_KEPT = (
    "modifier",
    "frame",
    "head_to_frame",
    "unit",
    "set_cct",
    "set_tint",
    "setting",
    "ambient",
    "meter",
    "watts",
    "amps",
)


def _head_of(configuration_slug: str) -> HeadView:
    """The head of a configuration. Raises: NotFound."""
    gear = desk_bench.shelf(g.session).stated
    configuration = gear.find(Configuration, configuration_slug)
    if configuration is None:
        raise NotFound("there is no such configuration on the bench")
    return open_head(g.session, person_id(), configuration.head_slug)


def _walk(slug: str, typed: Mapping[str, str], bad: Exception | None = None) -> dict[str, Any]:
    """What the walking page needs."""
    view = _head_of(slug)
    chosen = next(each for each in view.configurations if each.slug == slug)
    measured: MeasuredConfiguration | None = view.measured.get(slug)
    modifier = typed.get("modifier", "")
    counted = [each for each in view.readings[slug] if not each.is_struck and each.reading.modifier_slug == modifier]
    gear = desk_bench.shelf(g.session).stated
    return {
        "view": view,
        "chosen": chosen,
        "measured": measured,
        "fall": fall_off(chosen, view.stated[slug], view.head, g.units, measured),
        "readings": counted[::-1],
        "next_m": str(display.length(desk.next_throw_m([each.reading.throw_m for each in counted]), g.units)),
        "modifiers": [
            item
            for item in gear.modifiers()
            if not item.is_retired and item not in gear.optics and item not in gear.frames
        ],
        "frames": [frame for frame in gear.frames if not frame.is_retired],
        "typed": typed,
        "kept": _carried(typed),
        "bad": bad,
    }


def _carried(typed: Mapping[str, str]) -> dict[str, Any]:
    return {key: typed[key] for key in _KEPT if typed.get(key)}


@bp.get("/walk/<slug>")
def walk(slug: str) -> tuple[str, int]:
    """Readings put down one by one, with the running fit."""
    return reply(**WALK, **_walk(slug, request.args))


@bp.post("/walk/<slug>")
def add_reading(slug: str) -> tuple[str, int] | Response | str:
    """One reading; the next distance is proposed."""
    try:
        desk.add_reading(g.session, person_id(), [reading_of(request.form, slug, g.units)])
    except BadValue as bad:
        return reply(**WALK, status=422, **_walk(slug, request.form, bad))
    kept = _carried(request.form)
    return after_change(url_for("bench.walk", slug=slug, **kept), fragment=WALK["fragment"], **_walk(slug, kept))


@bp.post("/readings/<int:reading_id>/strike")
def strike(reading_id: int) -> Response:
    """Leave a reading out, or count it again; on the way away from a lamp that is how the last one is undone."""
    slug = desk.strike(g.session, person_id(), reading_id, is_struck=request.form.get("struck") == "yes")
    head = _head_of(slug).head
    if "back" in request.form:
        flash("Last reading struck out. It can be counted again on the head’s page.")
        return redirect(back_to(), code=303)
    return redirect(url_for("bench.head", slug=head.slug, configuration=slug) + "#readings", code=303)


def _table_page(slug: str, status: int = 200, **context: object) -> tuple[str, int]:
    view = _head_of(slug)
    chosen = next(each for each in view.configurations if each.slug == slug)
    gear = desk_bench.shelf(g.session).stated
    needs = {"table": None, "bad": None, "text": "", "typed": request.form}
    page = render_template(
        "bench/table.html",
        view=view,
        chosen=chosen,
        uses=list(COLUMN_USES.values()),
        modifiers=[
            item
            for item in gear.modifiers()
            if not item.is_retired and item not in gear.optics and item not in gear.frames
        ],
        frames=[frame for frame in gear.frames if not frame.is_retired],
        **(needs | context),
    )
    return page, status


@bp.get("/table/<slug>")
def table(slug: str) -> tuple[str, int]:
    """The form for a pasted table or a CSV file."""
    return _table_page(slug)


@bp.post("/table/<slug>")
def read_table(slug: str) -> tuple[str, int] | Response:
    """First look at the table; once its columns are agreed on, keep its good rows."""
    file = request.files.get("file")
    data = file.read() if file and file.filename else request.form.get("text", "").encode()
    text = data.decode("utf-8-sig", errors="replace")
    uses = tuple(request.form.getlist("use")) or None
    try:
        start = start_of(request.form, slug, g.units)
        seen = desk.look_at_table(g.session, person_id(), data, uses, start, g.units)
        if request.form.get("keep") == "yes" and seen.good and not seen.trouble:
            return _kept(slug, seen)
    except (BadValue, FormatError) as bad:
        return _table_page(slug, 422, bad=bad, text=text)
    return _table_page(slug, 422 if seen.trouble else 200, table=seen, text=text, bad=seen.trouble or None)


def _kept(slug: str, seen: desk.TableView) -> Response:
    good: tuple[Reading, ...] = seen.good
    desk.remember_columns(g.session, person_id(), seen.table, seen.uses)
    count = desk.add_reading(g.session, person_id(), good)
    flash(f"{count} {'reading' if count == 1 else 'readings'} logged, {len(seen.bad)} left out.")
    return redirect(url_for("bench.head", slug=_head_of(slug).head.slug, configuration=slug) + "#readings", code=303)
