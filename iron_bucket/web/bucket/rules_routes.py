"""By which rules the crew packs, which passes are out together, what is lent."""

from collections import Counter
from typing import Any

from flask import g, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.errors import BadValue
from iron_bucket.desk.bucket import BucketView
from iron_bucket.desk.bucket.plan import change_plan, put_own_rule, remove_own_rule, set_packing, set_rule
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.web.bucket.blueprint import bp
from iron_bucket.web.bucket.opened import open_for_page, shown
from iron_bucket.web.bucket.rules_forms import (
    PACKING_FIELDS,
    house_rules,
    list_change,
    own_fields,
    plan_fields,
    read_own,
    read_packing,
    read_rule,
    rule_fields,
)
from iron_bucket.web.jobs.forms import read_version
from iron_bucket.web.shared.reply import after_change, reply
from iron_bucket.web.shared.request_session import person_id
from iron_bucket.web.shared.typed_fields import TypedField, refusal

Answer = Response | str | tuple[str, int]
VIEW: dict[str, Any] = {"page": "bucket/rules.html", "fragment": "bucket/_rules.html"}


@bp.get("/rules")
def rules(job_id: int) -> tuple[str, int]:
    """All of them, and what each brought."""
    return reply(**VIEW, **_context(open_for_page(job_id)))


def _context(view: BucketView, bad: str = "", bad_at: str = "", *, is_saved: bool = False) -> dict[str, Any]:
    fired = Counter(why.rule for line in view.kit.lines for why in line.whys)
    typed = {key: value for key, value in request.form.items() if not key.startswith("was-")} if bad else {}
    return {
        "bucket": view,
        "here": "rules",
        "subjects": house_rules(view.crew),
        "fired": fired,
        "rule_fields": rule_fields,
        "packing_fields": PACKING_FIELDS,
        "own_fields": own_fields(view),
        "plan_fields": plan_fields(view),
        "names": {str(each.setup_id): each.name for each in view.kit.passes}
        | {item.slug: item.name for item in view.gear.items()},
        "is_saved": is_saved,
        "bad": bad,
        "bad_at": bad_at,
        "typed": typed,
    }


def _saved(view: BucketView) -> Answer:
    address = url_for("bucket.rules", job_id=view.job.job_id)
    return after_change(address, fragment=VIEW["fragment"], **_context(shown(view), is_saved=True))


def _refused(job_id: int, bad: Exception, at: str, fields: tuple[TypedField, ...]) -> tuple[str, int]:
    view = open_for_page(job_id)
    said = refusal(bad, fields, request.form.to_dict(), view.job.rules.units)
    status = 409 if isinstance(bad, ChangedMeanwhile) else 422
    return reply(**VIEW, status=status, **_context(view, said.words, at))


@bp.post("/rules/packing")
def change_packing(job_id: int) -> Answer:
    """School, wind, lifting limit, days, currency."""
    view = open_for_page(job_id)
    try:
        row = read_packing(request.form, view.job.rules.units)
        return _saved(set_packing(g.session, person_id(), job_id, read_version(request.form), row))
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(job_id, bad, "packing", PACKING_FIELDS)


@bp.post("/rules/house/<rule_id>")
def change_rule(job_id: int, rule_id: str) -> Answer:
    """One of the house's rules."""
    view = open_for_page(job_id)
    rule = next((each for each in view.crew.rules if each.rule_id == rule_id and not each.is_own), None)
    if rule is None or rule.is_fixed:
        raise NotFound("there is no such rule that can be changed")
    try:
        change = read_rule(rule, request.form, view.job.rules.units)
        return _saved(set_rule(g.session, person_id(), job_id, read_version(request.form), change))
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(job_id, bad, rule_id, rule_fields(rule))


@bp.post("/rules/own")
def change_own_rule(job_id: int) -> Answer:
    """A rule of the crew's own: new, changed or out."""
    view, form = open_for_page(job_id), request.form
    try:
        version = read_version(form)
        if form.get("out"):
            return _saved(remove_own_rule(g.session, person_id(), job_id, version, form.get("rule_id", "")))
        return _saved(put_own_rule(g.session, person_id(), job_id, version, read_own(view, form)))
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(job_id, bad, form.get("rule_id") or "own", own_fields(view))


@bp.post("/rules/plan/<where>")
def change_what_is_said(job_id: int, where: str) -> Answer:
    """One more that is out together or lent, or one out."""
    view, form = open_for_page(job_id), request.form
    fields = plan_fields(view).get(where)
    try:
        change = list_change(view, where, fields, form)
        text = {"together": "changed what is out together", "borrowed": "changed what is lent"}[where]
        return _saved(change_plan(g.session, person_id(), job_id, [change], text))
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(job_id, bad, where, fields or ())
