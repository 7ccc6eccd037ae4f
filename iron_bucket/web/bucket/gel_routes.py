"""Gels of the job, cut by cut, as they are laid out on offcuts and sheets."""

from flask import render_template

from iron_bucket.core.bucket.gel_layout import laid_out
from iron_bucket.core.modifiers.kinds import Sheet
from iron_bucket.web.bucket.blueprint import bp
from iron_bucket.web.bucket.opened import open_for_page


@bp.get("/gels")
def gels(job_id: int) -> str:
    """A picture of each piece of stock that is cut into."""
    view = open_for_page(job_id)
    layouts = [
        laid_out([cut for cut, count in line.peak.cuts for _ in range(count)], line.item)
        for line in view.kit.lines
        if line.peak and line.peak.cuts and isinstance(line.item, Sheet)
    ]
    return render_template("bucket/gels.html", bucket=view, here="gels", layouts=layouts)
