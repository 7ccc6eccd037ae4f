"""What the job brings: generators, boxes, batteries, chargers, everything else with watts."""

from typing import Any

from flask import g, request, url_for

from iron_bucket.core.errors import BadValue
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.desk.power.edit import change_power
from iron_bucket.desk.power.view import PowerView, open_power
from iron_bucket.formats.record_json import write_record
from iron_bucket.web.power.blueprint import bp
from iron_bucket.web.power.board_routes import Answer
from iron_bucket.web.power.kit_forms import JOB_FIELDS, KitList, added_kit, changed_kit, lists_of, shown_row
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.reply import after_change, reply
from iron_bucket.web.shared.request_session import person_id
from iron_bucket.web.shared.typed_fields import TypedField, changes_of, refusal

VIEW: dict[str, Any] = {"page": "power/kit.html", "fragment": "power/_kit.html"}


@bp.get("/kit")
def kit(job_id: int) -> tuple[str, int]:
    """All lists."""
    return reply(**VIEW, **_context(open_power(g.session, person_id(), job_id)))


def _context(
    view: PowerView, bad: str = "", bad_at: str = "", typed: dict[str, str] | None = None, *, is_saved: bool = False
) -> dict[str, Any]:
    g.job, g.units = view.job, view.job.rules.units
    number = whole_number(request.values.get("pass"))
    row = write_record(view.power)
    return {
        "view": view,
        "each": view.pass_of(number) if number else None,
        "here": "kit",
        "row": row,
        "lists": lists_of(view),
        "shown_row": shown_row,
        "job_fields": JOB_FIELDS,
        "kind_names": {each.slug: each.name for each in view.gear.batteries},
        "place_names": {each.place_id: each.place_name for each in view.passes},
        "is_saved": is_saved,
        "bad": bad,
        "bad_at": bad_at,
        "typed": typed or {},
    }


def _saved(view: PowerView) -> Answer:
    address = url_for("power.kit", job_id=view.job.job_id)
    return after_change(address, fragment=VIEW["fragment"], **_context(view, is_saved=True))


def _refused(job_id: int, bad: Exception, at: str, fields: tuple[TypedField, ...]) -> tuple[str, int]:
    view = open_power(g.session, person_id(), job_id)
    typed = {key: value for key, value in request.form.items() if not key.startswith("was-")}
    said = refusal(bad, fields, typed, view.rules.units)
    status = 409 if isinstance(bad, ChangedMeanwhile) else 422
    return reply(**VIEW, status=status, **_context(view, said.words, at, typed))


def _list_of(view: PowerView, where: str) -> KitList:
    found = next((each for each in lists_of(view) if each.where == where), None)
    if found is None:
        raise NotFound("a job's power has no such list")
    return found


@bp.post("/kit")
def change_own(job_id: int) -> Answer:
    """How leads lie."""
    view = open_power(g.session, person_id(), job_id)
    try:
        to, was = changes_of(JOB_FIELDS, request.form, view.rules.units)
        changes = [{"operation": "set", "to": to, "was": was}] if to else []
        return _saved(change_power(g.session, person_id(), job_id, changes, "changed how leads lie") if to else view)
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(job_id, bad, "own", JOB_FIELDS)


@bp.post("/kit/<where>")
def add(job_id: int, where: str) -> Answer:
    """One more of a list."""
    view = open_power(g.session, person_id(), job_id)
    pieces = _list_of(view, where)
    try:
        row = added_kit(pieces, view.power, request.form, view.rules.units)
        name = row["to"].get("name") or pieces.noun
        return _saved(change_power(g.session, person_id(), job_id, [row], f"added {name}"))
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(job_id, bad, f"{where}-new", pieces.fields)


@bp.post("/kit/<where>/<piece_id>")
def change(job_id: int, where: str, piece_id: str) -> Answer:
    """Change one, or take it out."""
    view = open_power(g.session, person_id(), job_id)
    pieces = _list_of(view, where)
    try:
        rows = changed_kit(pieces, piece_id, request.form, view.rules.units)
        return _saved(change_power(g.session, person_id(), job_id, rows) if rows else view)
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(job_id, bad, f"{where}-{piece_id}", pieces.fields)
