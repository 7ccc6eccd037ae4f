"""The blueprint of the shared layout: its templates, and the switches that every page carries."""

from flask import Blueprint, g, redirect, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.desk.uploads import UploadKind, UploadState, open_upload
from iron_bucket.web.shared.preferences import KEYS, LIGHTS, keep
from iron_bucket.web.shared.reply import back_to, reply
from iron_bucket.web.shared.request_session import person_id

bp = Blueprint("shared", __name__, template_folder="templates")


@bp.post("/light")
def switch_light() -> Response:
    """Enamel or dim, kept in a cookie."""
    light = request.form.get("light", "")
    return keep(redirect(back_to()), "light", light if light in LIGHTS else LIGHTS[0])


@bp.get("/uploads/<int:number>")
def upload(number: int) -> tuple[str, int]:
    """How far a large file is."""
    found = open_upload(g.session, person_id(), number)
    if found.kind is UploadKind.JOB:
        onward = url_for("bucket.contents", job_id=found.job_id) if found.job_id else url_for("jobs.new")
    else:
        onward = url_for("bench.index") if found.state is UploadState.DONE else url_for("bench.transfer")
    return reply(page="shared/upload.html", fragment="shared/_upload.html", upload=found, onward=onward)


@bp.post("/units")
def switch_units() -> Response:
    """Metric or imperial for pages without a job, kept in a cookie."""
    units = request.form.get("units", "")
    known = [each.value for each in UnitSystem]
    return keep(redirect(back_to()), "units", units if units in known else known[0])


@bp.post("/keys")
def switch_keys() -> Response:
    """Single keys on or off, kept in a cookie."""
    keys = request.form.get("keys", "")
    return keep(redirect(back_to()), "keys", keys if keys in KEYS else KEYS[0])
