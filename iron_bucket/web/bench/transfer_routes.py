"""The bench, or what a search leaves of it, as one file; and such a file taken in."""

import json

from flask import flash, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.bench.search import FACETS, search, wanted_of
from iron_bucket.core.errors import BadValue
from iron_bucket.desk import bench as desk_bench
from iron_bucket.desk.bench import transfer as desk
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.gear_json import bench_json
from iron_bucket.web.bench.blueprint import bp
from iron_bucket.web.shared.request_session import person_id


def _selection() -> frozenset[str] | None:
    """The pieces that the address asks for; None for the whole bench."""
    named = request.args.getlist("slug")
    if named:
        return frozenset(named)
    words = request.args
    chosen = {facet: words.get(facet, "") for facet in FACETS}
    if not words.get("text") and not any(chosen.values()):
        return None
    index = desk_bench.shelf(g.session).index(words.get("kind", "heads"))
    return frozenset(item.slug for item in search(index, wanted_of(words.get("text", "")[:80], g.units), chosen).items)


@bp.get("/out.json")
def give_out() -> Response:
    """The gear, its readings and spectra."""
    document = bench_json(desk.bench_file(g.session, _selection()))
    headers = {"Content-Disposition": 'attachment; filename="bench.json"'}
    return Response(json.dumps(document, ensure_ascii=False, indent=1), mimetype="application/json", headers=headers)


@bp.get("/in")
def transfer() -> tuple[str, int]:
    """The form for a bench file."""
    return render_template("bench/transfer.html", bad=None), 200


@bp.post("/in")
def import_bench() -> tuple[str, int] | Response:
    """Put a bench file on the shelf, all of it or nothing."""
    file = request.files.get("file")
    try:
        if file is None or not file.filename:
            raise BadValue("file", "missing", "a bench file (.json)")
        text = file.read().decode("utf-8-sig")
        taken = desk.import_bench(g.session, person_id(), text, theirs_win=request.form.get("differ") == "theirs")
    except UnicodeDecodeError:
        return render_template("bench/transfer.html", bad="The file is no UTF-8 text, so it is no bench file."), 422
    except (BadValue, FormatError) as bad:
        return render_template("bench/transfer.html", bad=bad), 422
    flash(
        f"{taken.new} new, {taken.changed} changed, {taken.same} the same, {taken.kept_ours} kept as ours; "
        f"{taken.readings} readings and {taken.spectra} spectra."
    )
    return redirect(url_for("bench.index"), code=303)
