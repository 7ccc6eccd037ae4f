"""Look into the bucket, change it, take it away."""

import json
import re
from typing import Any

from flask import Response, g, request, url_for
from werkzeug.wrappers import Response as AnyResponse

from iron_bucket.core.bucket.kit_groups import GroupedBy, groups_of
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities.parse import number
from iron_bucket.desk import bucket as desk
from iron_bucket.desk.errors import ChangedMeanwhile
from iron_bucket.formats.bucket_files import bucket_csv, bucket_json
from iron_bucket.web.bucket.blueprint import bp
from iron_bucket.web.bucket.opened import open_for_page
from iron_bucket.web.jobs.forms import read_version
from iron_bucket.web.shared.reply import after_change, reply
from iron_bucket.web.shared.request_session import person_id

VIEW: dict[str, Any] = {"page": "bucket/page.html", "fragment": "bucket/_contents.html"}


@bp.get("")
def contents(job_id: int) -> tuple[str, int]:
    """What is in it, and the totals."""
    return reply(**VIEW, **_context(open_for_page(job_id)))


def _context(view: desk.BucketView, bad: Exception | None = None) -> dict[str, Any]:
    word = request.values.get("by", GroupedBy.KIND.value)
    if word not in list(GroupedBy):
        raise BadValue("by", repr(word), ", ".join(GroupedBy))
    by = GroupedBy(word)
    groups = groups_of(view.kit, view.sources, by)
    return {"bucket": view, "by": by, "ways": list(GroupedBy), "groups": groups, "bad": bad}


def _changed(job_id: int, view: desk.BucketView) -> AnyResponse | str:
    g.job = view.job
    return after_change(url_for("bucket.contents", job_id=job_id), fragment=VIEW["fragment"], **_context(view))


def _refused(job_id: int, bad: Exception) -> tuple[str, int]:
    return reply(
        **VIEW, status=409 if isinstance(bad, ChangedMeanwhile) else 422, **_context(open_for_page(job_id), bad)
    )


def _whole(text: str) -> int:
    value = number(text, "quantity")
    if value != int(value):
        raise BadValue("quantity", repr(text), "a whole number")
    return int(value)


@bp.post("/<int:line>/quantity")
def set_quantity(job_id: int, line: int) -> AnyResponse | str | tuple[str, int]:
    """How many of one entry."""
    open_for_page(job_id)
    try:
        view = desk.set_quantity(
            g.session, person_id(), job_id, read_version(request.form), line, _whole(request.form.get("quantity", ""))
        )
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(job_id, bad)
    return _changed(job_id, view)


@bp.post("/<int:line>/purpose")
def set_purpose(job_id: int, line: int) -> AnyResponse | str | tuple[str, int]:
    """What one entry is for."""
    open_for_page(job_id)
    try:
        view = desk.set_purpose(
            g.session, person_id(), job_id, read_version(request.form), line, request.form.get("purpose", "")
        )
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(job_id, bad)
    return _changed(job_id, view)


@bp.post("/<int:line>/out")
def take_out(job_id: int, line: int) -> AnyResponse | str | tuple[str, int]:
    """Remove one entry with what hangs on it."""
    open_for_page(job_id)
    try:
        view = desk.take_out(g.session, person_id(), job_id, read_version(request.form), line)
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(job_id, bad)
    return _changed(job_id, view)


def _file(text: str, kind: str, view: desk.BucketView, ending: str) -> Response:
    name = re.sub(r"[^a-z0-9]+", "-", view.job.name.lower()).strip("-") or "bucket"
    return Response(text, mimetype=kind, headers={"Content-Disposition": f'attachment; filename="{name}.{ending}"'})


@bp.get("/list.csv")
def as_csv(job_id: int) -> Response:
    """The list for a spreadsheet."""
    view = open_for_page(job_id)
    return _file(bucket_csv(view.entries), "text/csv; charset=utf-8", view, "csv")


@bp.get("/list.json")
def as_json(job_id: int) -> Response:
    """The list for a program."""
    view = open_for_page(job_id)
    return _file(
        json.dumps(bucket_json(view.job.name, view.entries, view.job.totals), ensure_ascii=False, indent=1),
        "application/json",
        view,
        "json",
    )
