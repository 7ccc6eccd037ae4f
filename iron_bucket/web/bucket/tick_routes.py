"""Ticking the kit out and back, by phone: live for several people, through a lost connection."""

import json
from datetime import UTC, datetime
from typing import Any
from uuid import uuid4

from flask import g, render_template, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.bucket.load.cases import Box
from iron_bucket.core.bucket.ticks import Stage, Trouble, thing_of
from iron_bucket.core.errors import BadValue
from iron_bucket.desk.bucket.ticks import TickView, open_ticks, put_ticks
from iron_bucket.desk.errors import NotFound
from iron_bucket.web.bucket.blueprint import bp
from iron_bucket.web.bucket.opened import shown
from iron_bucket.web.bucket.tick_forms import read_ticks
from iron_bucket.web.shared.reply import after_change, reply
from iron_bucket.web.shared.request_session import person_id

VIEW: dict[str, Any] = {"page": "bucket/tick.html", "fragment": "bucket/_tick.html"}
ALL, LOOSE = "all", "loose"


def _stage(word: str | None) -> Stage:
    if word is None:
        return Stage.PULLED
    if word not in list(Stage):
        raise BadValue("stage", repr(word), ", ".join(Stage))
    return Stage(word)


def _context(view: TickView) -> dict[str, Any]:
    """What of the list is shown: all, one case, one pass, or what is still missing."""
    shown(view.bucket)
    stage, case = _stage(request.values.get("stage")), request.values.get("case", "")
    setup, show = request.values.get("setup", ""), request.values.get("show", "")
    groups = [(title, rows) for title, rows in _groups(view, case, setup)]
    if thing := request.values.get("thing", "") if request.method == "GET" else "":
        groups = [(title, [row for row in rows if row[0] == thing]) for title, rows in groups]
    if show == "missing":
        groups = [(title, [row for row in rows if not view.tallies[row[0]].is_done(stage)]) for title, rows in groups]
    things = {row[0] for _, rows in groups for row in rows}
    done = sum(view.tallies[thing].is_done(stage) for thing in things)
    return {
        "view": view,
        "bucket": view.bucket,
        "here": "tick",
        "stages": list(Stage),
        "stage": stage,
        "troubles": [each for each in Trouble if each],
        "case": case,
        "setup": setup,
        "show": show,
        "groups": [(title, rows) for title, rows in groups if rows],
        "done": done,
        "total": len(things),
        "boxes": [box.label for box in view.bucket.packed.boxes if box.case],
    }


def _groups(view: TickView, case: str, setup: str) -> list[tuple[str, list[tuple[str, str, int]]]]:
    """Headings with rows of thing, name and how many of it are there."""
    kit, by_thing = view.bucket.kit, view.needed
    lines = {line.sort: line for line in kit.lines if line.quantity}
    if setup:
        found = next((each for each in kit.passes if str(each.setup_id) == setup), None)
        if found is None:
            raise NotFound("there is no such pass in this job now")
        lines = {sort: line for sort, line in lines.items() if sort in found.by_sort}
    names = {thing_of(*sort): line.item.name + _size(line.kind, line.area_m2) for sort, line in lines.items()}
    boxes = view.bucket.packed.boxes
    groups: list[tuple[str, list[tuple[str, str, int]]]] = []
    for box in (each for each in boxes if each.case and case in ("", each.label)):
        groups.append((box.label, _rows([box], names, by_thing)))
    if case in ("", LOOSE):
        groups.append(("Loose", _rows([box for box in boxes if not box.case], names, by_thing)))
    return groups


def _rows(boxes: list[Box], names: dict[str, str], needed: dict[str, int]) -> list[tuple[str, str, int]]:
    counts: dict[str, int] = {}
    for box in boxes:
        for piece in box.pieces:
            thing = thing_of(*piece.line.sort)
            counts[thing] = counts.get(thing, 0) + 1
    return [(thing, names[thing], count) for thing, count in counts.items() if thing in names and thing in needed]


def _size(kind: str, area_m2: float) -> str:
    return f", {area_m2:.2g} m²" if kind == "cloths" else ""


@bp.get("/tick")
def tick(job_id: int) -> tuple[str, int]:
    """The list at one stage."""
    return reply(**VIEW, **_context(open_ticks(g.session, person_id(), job_id)))


@bp.get("/tick/since/<mark>")
def ticked_since(job_id: int, mark: str) -> Response | str:
    """The list anew where somebody ticked since; else nothing."""
    view = open_ticks(g.session, person_id(), job_id)
    if view.mark == mark:
        return Response(status=204)
    return render_template(VIEW["fragment"], is_swap=True, **_context(view))


@bp.post("/tick")
def put_tick(job_id: int) -> Response | str | tuple[str, int]:
    """Ticks of a phone, perhaps sent late or again; without a script one at a time."""
    form = request.form
    ticks = read_ticks(form) if "ticks" in form else read_ticks({"ticks": _one(form)})
    view = put_ticks(g.session, person_id(), job_id, ticks)
    asked = {name: form[name] for name in ("stage", "case", "setup", "show") if form.get(name)}
    address = url_for("bucket.tick", job_id=job_id, **asked)  # type: ignore[arg-type]
    return after_change(address, fragment=VIEW["fragment"], **_context(view))


def _one(form: Any) -> str:
    made_at = datetime.now(UTC).replace(tzinfo=None).isoformat(timespec="seconds")
    row = {
        "tick_id": str(uuid4()),
        "thing": form.get("unit") or form.get("thing", ""),
        "stage": form.get("stage", ""),
        "count": int(form["count"]) if form.get("count", "").lstrip("-").isdecimal() else 1,
        "trouble": form.get("trouble", ""),
        "note": form.get("note", ""),
        "made_at": made_at,
    }
    return json.dumps([row])
