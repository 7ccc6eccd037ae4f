"""The kit in cases, the cases in vehicles and by the door."""

from typing import Any

from flask import g, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.errors import BadValue
from iron_bucket.desk.bucket import BucketView
from iron_bucket.desk.bucket.plan import change_plan
from iron_bucket.desk.errors import ChangedMeanwhile
from iron_bucket.web.bucket.blueprint import bp
from iron_bucket.web.bucket.load_picture import hold_picture, laid_picture
from iron_bucket.web.bucket.opened import open_for_page, shown
from iron_bucket.web.bucket.rules_forms import list_change
from iron_bucket.web.shared.heavy import heavy
from iron_bucket.web.shared.reply import after_change, reply
from iron_bucket.web.shared.request_session import person_id
from iron_bucket.web.shared.typed_fields import Takes, TypedField, field, refusal

Answer = Response | str | tuple[str, int]
VIEW: dict[str, Any] = {"page": "bucket/load.html", "fragment": "bucket/_load.html"}
_TEXTS = {"cases": "changed the cases", "vehicles": "changed the vehicles", "stowed": "changed what goes where"}


@bp.get("/load")
@heavy
def load(job_id: int) -> tuple[str, int]:
    """What is in which case, and how they stand."""
    return reply(**VIEW, **_context(open_for_page(job_id)))


def _fields(view: BucketView) -> dict[str, tuple[TypedField, ...]]:
    def items(kind: str) -> list[tuple[str, str]]:
        return [(each.slug, each.name) for each in getattr(view.gear, kind) if not each.is_retired]

    labels = [box.label for box in view.packed.boxes if box.case] + list(view.packed.empty)
    lines = {line.item.slug: line.item.name for line in view.kit.lines}
    return {
        "vehicles": (field("item", "Vehicle", Takes.CHOICE, items("vehicles")), field("count", "How many")),
        "cases": (
            field("item", "Case", Takes.CHOICE, items("cases")),
            field("count", "How many"),
            field("name", "Written on it", Takes.TEXT),
        ),
        "stowed": (
            field("item", "What", Takes.CHOICE, list(lines.items())),
            field("case", "Goes into", Takes.CHOICE, labels),
        ),
    }


def _context(view: BucketView, bad: str = "", bad_at: str = "") -> dict[str, Any]:
    places = view.contents.places
    layouts = {
        place_id: layout for place_id, layout in view.layouts().items() if layout.laid or layout.areas or layout.seen
    }
    return {
        "bucket": view,
        "here": "load",
        "fields": _fields(view),
        "holds": [(hold, hold_picture(hold)) for hold in view.loaded.holds],
        "layouts": [
            (places[place_id].place, each, laid_picture(places[place_id], each)) for place_id, each in layouts.items()
        ],
        "names": {item.slug: item.name for item in view.gear.items()},
        "bad": bad,
        "bad_at": bad_at,
        "typed": request.form.to_dict() if bad else {},
    }


@bp.post("/load/<where>")
def change_load(job_id: int, where: str) -> Answer:
    """One more case, vehicle or place of a piece; or one out."""
    view, form = open_for_page(job_id), request.form
    fields = _fields(view).get(where)
    try:
        change = list_change(view, where, fields, form)
        changed = shown(change_plan(g.session, person_id(), job_id, [change], _TEXTS[where]))
    except (BadValue, ChangedMeanwhile) as bad:
        said = refusal(bad, fields or (), form.to_dict(), view.job.rules.units)
        status = 409 if isinstance(bad, ChangedMeanwhile) else 422
        return reply(**VIEW, status=status, **_context(open_for_page(job_id), said.words, where))
    return after_change(url_for("bucket.load", job_id=job_id), fragment=VIEW["fragment"], **_context(changed))
