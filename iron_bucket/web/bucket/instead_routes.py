"""What else does the work of one head of the kit."""

from flask import flash, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.desk.bucket.best.instead import open_instead, take_instead
from iron_bucket.desk.errors import ChangedMeanwhile
from iron_bucket.web.bucket.blueprint import bp
from iron_bucket.web.bucket.opened import shown
from iron_bucket.web.shared.heavy import heavy
from iron_bucket.web.shared.request_session import person_id


@bp.get("/instead/<slug>")
@heavy
def instead(job_id: int, slug: str) -> str:
    """Found as the page is opened."""
    return _page(job_id, slug)


def _page(job_id: int, slug: str, bad: str = "") -> str:
    found = open_instead(g.session, person_id(), job_id, slug)
    shown(found.bucket)
    names = {each.setup_id: each.name for each in found.bucket.kit.passes}
    return render_template(
        "bucket/instead.html", bucket=found.bucket, here="contents", found=found, setup_names=names, bad=bad
    )


@bp.post("/instead/<slug>")
def put_instead(job_id: int, slug: str) -> Response | tuple[str, int]:
    """Another head wherever it does the work."""
    try:
        count = take_instead(g.session, person_id(), job_id, slug, request.form.get("head", ""))
    except ChangedMeanwhile as changed:
        return _page(job_id, slug, str(changed)), 409
    flash(f"Put in, in {count} set-up{'s' if count != 1 else ''}. Undo takes it back.")
    return redirect(url_for("bucket.contents", job_id=job_id), code=303)
