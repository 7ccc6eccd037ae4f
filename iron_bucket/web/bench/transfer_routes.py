"""The bench, or what a search leaves of it, as one file; and such a file taken in."""

import json

from flask import flash, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.bench.search import FACETS, search, wanted_of
from iron_bucket.core.errors import BadValue
from iron_bucket.desk import bench as desk_bench
from iron_bucket.desk.bench import transfer as desk
from iron_bucket.desk.uploads import UploadKind
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.gear_json import bench_json
from iron_bucket.web.bench.blueprint import bp
from iron_bucket.web.shared.large_files import take_in_file


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
    try:
        taken = take_in_file(UploadKind.BENCH, request.form.get("differ", ""))
    except (BadValue, FormatError) as bad:
        return render_template("bench/transfer.html", bad=bad), 422
    if isinstance(taken, int):
        return redirect(url_for("shared.upload", number=taken), code=303)
    flash(taken.words)
    return redirect(url_for("bench.index"), code=303)
