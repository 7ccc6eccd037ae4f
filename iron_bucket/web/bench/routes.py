"""The list, one head, and a photometric file taken in."""

from urllib.parse import urlencode

from flask import Blueprint, flash, g, redirect, render_template, request, url_for
from flask_login import login_required
from werkzeug.wrappers import Response

from iron_bucket.core.bench.head import Technology
from iron_bucket.core.bench.output import output_table
from iron_bucket.core.colour.seen import seen_rgb
from iron_bucket.core.errors import BadValue
from iron_bucket.desk import bench as desk
from iron_bucket.formats.errors import FormatError
from iron_bucket.web.bench.filters import bench_list, read_filter
from iron_bucket.web.bench.forms import read_wish
from iron_bucket.web.bench.pictures import cross_section, fall_off, polar
from iron_bucket.web.shared.reply import reply

bp = Blueprint("bench", __name__, template_folder="templates", url_prefix="/bench")
VIEW = {"page": "bench/list.html", "fragment": "bench/_list.html"}
#: The white balance against which lamps are drawn where no camera is known.
DAYLIGHT_K = 5600.0
TABLE_THROWS_M = (1.0, 2.0, 3.0, 5.0, 7.5, 10.0)


@bp.get("")
@login_required
def index() -> tuple[str, int]:
    """Heads and modifiers, searched and filtered."""
    wanted = read_filter(request.args)
    words = {key: value for key, value in request.args.items() if key != "page"}
    return reply(
        **VIEW,
        wanted=wanted,
        found=bench_list(desk.shelf(g.session).gear, wanted),
        shown=_shown,
        page_address=lambda page: f"{url_for('bench.index')}?{urlencode({**words, 'page': page})}",
    )


def _shown(light_k: float) -> str:
    return seen_rgb(light_k=light_k, white_balance_k=DAYLIGHT_K)


@bp.get("/heads/<slug>")
@login_required
def head(slug: str) -> str:
    """One head with its configurations and their pictures."""
    view = desk.open_head(g.session, slug)
    chosen = next(
        (each for each in view.configurations if each.slug == request.args.get("configuration")), view.configurations[0]
    )
    return render_template(
        "bench/head.html",
        view=view,
        chosen=chosen,
        shown=_shown,
        polar=polar(chosen),
        section=cross_section(chosen, g.units),
        fall=fall_off(chosen, view.head, g.units),
        output=output_table(chosen, TABLE_THROWS_M),
    )


def _upload_form(typed: dict[str, str], bad: Exception | None, status: int = 200) -> tuple[str, int]:
    return render_template("bench/upload.html", typed=typed, bad=bad, technologies=list(Technology)), status


@bp.get("/upload")
@login_required
def upload() -> tuple[str, int]:
    """The form for a photometric file."""
    return _upload_form({"technology": Technology.LED_DAY.value, "cct": "5600", "owned": "1"}, None)


@bp.post("/upload")
@login_required
def take_in() -> tuple[str, int] | Response:
    """Take a file in as a head with one configuration."""
    file = request.files.get("file")
    try:
        if file is None or not file.filename:
            raise BadValue("file", "missing", "a photometric file (.ies or .ldt)")
        slug = desk.take_in_file(g.session, file.read(), file.filename, read_wish(request.form, g.units))
    except (BadValue, FormatError) as bad:
        return _upload_form(request.form.to_dict(), bad, 422)
    flash("Taken in. Its figures are claimed until somebody measures it.")
    return redirect(url_for("bench.head", slug=slug), code=303)
