"""The bucket of a page."""

from flask import g

from iron_bucket.desk.bucket import BucketView, open_bucket
from iron_bucket.web.shared.request_session import person_id


def open_for_page(job_id: int) -> BucketView:
    """With the page's units and its bar. Raises: NotFound."""
    return shown(open_bucket(g.session, person_id(), job_id))


def shown(view: BucketView) -> BucketView:
    """The same for one that is at hand."""
    g.job, g.units = view.job, view.job.rules.units
    return view
