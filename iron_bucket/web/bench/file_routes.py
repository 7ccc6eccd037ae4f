"""Photometric files in and out."""

from flask import flash, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.bench.head import Technology
from iron_bucket.core.errors import BadValue
from iron_bucket.desk.bench import files as desk
from iron_bucket.web.bench.blueprint import bp
from iron_bucket.web.bench.forms import read_wish
from iron_bucket.web.shared.reply import wants_fragment
from iron_bucket.web.shared.request_session import person_id

MOST_FILES = 2000
_STARTING = {"technology": Technology.LED_DAY.value, "cct": "5600", "owned": "1"}


def _upload_form(
    typed: dict[str, str], bad: Exception | None, status: int = 200, taken: tuple[desk.TakenIn, ...] = ()
) -> tuple[str, int]:
    return render_template(
        "bench/upload.html", typed=typed, bad=bad, technologies=list(Technology), taken=taken
    ), status


@bp.get("/upload")
def upload() -> tuple[str, int]:
    """The form for photometric files."""
    return _upload_form(_STARTING, None)


@bp.post("/upload")
def import_files() -> tuple[str, int] | Response:
    """Take files in, each as a head with one configuration.

    The page's script sends them one by one and asks for fragments.
    """
    files = [file for file in request.files.getlist("file") if file.filename]
    try:
        if not 1 <= len(files) <= MOST_FILES:
            raise BadValue(
                "file",
                "missing" if not files else f"{len(files)} files",
                f"1 to {MOST_FILES} photometric files (.ies or .ldt)",
            )
        wish = read_wish(request.form, g.units)
        taken = desk.take_in_files(
            g.session, person_id(), tuple((str(file.filename), file.read()) for file in files), wish
        )
    except BadValue as bad:
        if wants_fragment():
            return render_template("bench/_taken.html", taken=(), bad=bad), 422
        return _upload_form(request.form.to_dict(), bad, 422)
    if wants_fragment():
        return render_template("bench/_taken.html", taken=taken, bad=None), 200
    if len(taken) == 1 and taken[0].head_slug:
        flash(
            "Imported. Its figures are the maker’s claim until you measure it."
            if taken[0].is_new
            else "That file was imported before: here it is."
        )
        return redirect(url_for("bench.head", slug=taken[0].head_slug), code=303)
    if len(taken) == 1:
        return _upload_form(request.form.to_dict(), BadValue(taken[0].file_name, "refused", taken[0].trouble), 422, ())
    return _upload_form(request.form.to_dict(), None, 200, taken)


@bp.get("/configurations/<slug>/file")
def file_page(slug: str) -> str:
    """A configuration as a file: what each format cannot hold, and the files themselves."""
    written = {ending: desk.give_out_file(g.session, slug, ending) for ending in ("ies", "ldt")}
    return render_template("bench/file.html", slug=slug, written=written)


@bp.get("/configurations/<slug>.<ending>")
def give_out_file(slug: str, ending: str) -> Response:
    """The file itself."""
    written = desk.give_out_file(g.session, slug, ending)
    headers = {"Content-Disposition": f'attachment; filename="{slug}.{written.ending}"'}
    return Response(written.data, mimetype="application/octet-stream", headers=headers)
