"""Spectra in and out."""

import re

from flask import flash, g, redirect, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.errors import BadValue
from iron_bucket.desk import bench as desk_bench
from iron_bucket.desk.bench import spectra as desk
from iron_bucket.formats.spectrum_csv import write_spectrum_csv
from iron_bucket.formats.tm27 import write_tm27
from iron_bucket.web.bench.blueprint import bp
from iron_bucket.web.shared.request_session import person_id


def _page_of(subject_slug: str) -> str:
    configuration = next(
        (each for each in desk_bench.shelf(g.session).stated.configurations if each.slug == subject_slug), None
    )
    if configuration is None:
        return url_for("bench.piece", slug=subject_slug) + "#spectra"
    return url_for("bench.head", slug=configuration.head_slug, configuration=subject_slug) + "#spectra"


@bp.post("/spectra/<subject_slug>")
def take_in_spectrum(subject_slug: str) -> Response:
    """Attach a spectrum to a configuration or a modifier."""
    file = request.files.get("file")
    if file is None or not file.filename:
        raise BadValue("file", "missing", "a spectrum as CSV, or in the TM-27 XML form")
    desk.take_in_spectrum(g.session, person_id(), subject_slug, file.read(), file.filename)
    flash("Spectrum imported.")
    return redirect(_page_of(subject_slug), code=303)


@bp.post("/spectra/<int:spectrum_id>/off")
def take_off_spectrum(spectrum_id: int) -> Response:
    """Take a spectrum off."""
    subject_slug = desk.take_off_spectrum(g.session, person_id(), spectrum_id)
    flash("Spectrum removed.")
    return redirect(_page_of(subject_slug), code=303)


@bp.get("/spectra/<int:spectrum_id>.<ending>")
def give_out_spectrum(spectrum_id: int, ending: str) -> Response:
    """A spectrum as CSV or as TM-27 XML."""
    view = desk.open_spectrum(g.session, spectrum_id)
    if ending not in ("csv", "xml"):
        raise BadValue("ending", repr(ending), "csv or xml")
    name = re.sub(r"[^a-z0-9]+", "-", view.name.rpartition(".")[0].lower()).strip("-") or "spectrum"
    data: str | bytes = write_spectrum_csv(view.spectrum) if ending == "csv" else write_tm27(view.spectrum, view.name)
    headers = {"Content-Disposition": f'attachment; filename="{name}.{ending}"'}
    return Response(data, mimetype="text/csv" if ending == "csv" else "application/xml", headers=headers)
