"""List, begin, open, change, try, undo; passes; ways out; solve."""

import json
from collections.abc import Callable
from datetime import datetime
from itertools import groupby
from typing import Any

from flask import flash, g, redirect, render_template, request, url_for
from werkzeug.datastructures import MultiDict
from werkzeug.wrappers import Response

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.core.places.place import Place, require_named
from iron_bucket.core.power.job.load_board import CircuitBar
from iron_bucket.core.setups.evaluate.cell import cell_of
from iron_bucket.core.setups.evaluation import Evaluation, piece_names
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.core.setups.scene.build_scene import Side
from iron_bucket.core.setups.suggest.new_light import likeliest_mark
from iron_bucket.core.setups.suggest.presets import Preset
from iron_bucket.desk import jobs as desk_jobs
from iron_bucket.desk import places as desk_places
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.desk.setups import edit, fixes, passes
from iron_bucket.desk.setups.view import SetupView
from iron_bucket.formats.change_json import change_row
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.json_text import parsed_json
from iron_bucket.formats.record_json import write_record
from iron_bucket.web.setups import forms
from iron_bucket.web.setups.blueprint import bp
from iron_bucket.web.setups.effect_strips import effect_strips, played_json
from iron_bucket.web.setups.plan_picture import setup_paper, setup_picture
from iron_bucket.web.setups.signs import light_colours, mark_swatches, moved_pieces
from iron_bucket.web.setups.small_ladder import small_ladder
from iron_bucket.web.shared.letters import letters_of
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.pictures.ladder import ladder_picture
from iron_bucket.web.shared.pictures.load_bars import WIDTHS, DrawnBar, circuit_bar, marks_of
from iron_bucket.web.shared.reply import after_change, reply
from iron_bucket.web.shared.request_session import person_id
from iron_bucket.web.shared.today import today
from iron_bucket.web.shared.typed_fields import refusal

VIEW: dict[str, Any] = {"page": "setups/page.html", "fragment": "setups/_board.html"}
#: A group of everything on a full plan moves at once.
MOST_CHANGES = 200
Answer = Response | str | tuple[str, int]


@bp.get("/jobs/<int:job_id>/setups")
def index(job_id: int) -> tuple[str, int]:
    """All set-ups of a job, each with its little ladder."""
    return _index(job_id)


def _index(job_id: int, bad: Exception | None = None) -> tuple[str, int]:
    job, cards, away = passes.list_setups(g.session, person_id(), job_id)
    g.job, g.units = job, job.rules.units
    places = desk_places.list_places(g.session)
    typed = request.form.to_dict() if bad else {}
    day = max((card.setup.when.date() for card in cards if card.setup), default=today())
    return render_template(
        "setups/index.html",
        job=job,
        cards=cards,
        away=away,
        places=places,
        beginnings=list(Preset),
        proposed=f"{day}T11:00",
        small_ladder=small_ladder,
        bad=bad,
        typed=typed,
    ), 422 if bad else 200


@bp.post("/jobs/<int:job_id>/setups")
def begin(job_id: int) -> Answer:
    """A new set-up, from an arrangement."""
    try:
        number = passes.begin_setup(g.session, person_id(), job_id, *_beginning())
    except (BadValue, NoAnswer) as bad:
        return _index(job_id, bad)
    return redirect(url_for("setups.setup", job_id=job_id, setup_id=number), code=303)


def _beginning() -> tuple[int, str, Preset, datetime]:
    form = request.form
    require_named("name", form.get("name", ""))
    place_id = whole_number(form.get("place_id"))
    if place_id is None:
        raise BadValue("place", repr(form.get("place_id", "")), "one of your places; add one first")
    try:
        beginning = Preset(form.get("beginning", ""))
        when = datetime.fromisoformat(form.get("when", "")).replace(tzinfo=None)
    except ValueError:
        raise BadValue("beginning", repr(form.get("beginning")), "one of the arrangements, on a day and hour") from None
    return place_id, form["name"].strip(), beginning, when


def board(
    view: SetupView, bad: Exception | None = None, typed: dict[str, str] | None = None, piece: str | None = None
) -> dict[str, Any]:
    """What the board shows. ``piece``: the one that is chosen, else as the address or the form says."""
    g.job, g.units = view.job, view.job.rules.units
    chosen = request.values.get("piece", "") if piece is None else piece
    setup, place, gear = view.setup, view.now.lit.built.surroundings.place, view.now.gear
    found = setup.find(chosen)
    inspected: dict[str, Any] = {"where": "", "fields": forms.setup_fields(place), "row": write_record(setup)}
    if chosen == "camera":
        inspected = {"where": "camera", "fields": forms.CAMERA_FIELDS, "row": write_record(setup.camera)}
    elif chosen == "look":
        inspected = {"where": "look", "fields": forms.LOOK_FIELDS, "row": write_record(setup.look)}
    elif found:
        inspected = {
            "where": found[0],
            "fields": forms.piece_fields(found[0], setup, place, gear),
            "row": write_record(found[1]),
        }
    else:
        chosen = ""
    effects = effect_strips(view.now)
    return levels(view.now) | {
        "view": view,
        "picture": setup_picture(view.now, g.units, view.job.rules.receptor),
        "chosen": chosen,
        "inspected": inspected,
        "light_at": likeliest_mark(view.now.ladder, chosen),
        "additions": forms.ADDITIONS,
        "effects": effects,
        "effects_json": played_json(effects),
        "piece_words": piece_names(setup, place),
        "strip": _power_strip(view, chosen),
        "bad": refusal(bad, inspected["fields"], typed or {}, g.units) if bad else None,
        "typed": typed or {},
    }


def _power_strip(view: SetupView, chosen: str) -> list[tuple[CircuitBar, dict[str, DrawnBar]]]:
    """Circuits that anything of the pass hangs on, as bars."""
    letters, white = letters_of(view.setup, view.now.gear), view.setup.look.white
    marks = marks_of(view.board, letters, white=white, chosen=chosen, pinned=frozenset())
    return [
        (bar, {name: circuit_bar(bar, marks, width) for name, width in WIDTHS.items()})
        for bar in view.board.bars
        if bar.loads
    ]


def levels(now: Evaluation) -> dict[str, Any]:
    """Ladder and table: what follows a piece while it is dragged."""
    marks = now.lit.built.marks
    shown = [at for at, mark in enumerate(marks) if mark.side != Side.NOSE]
    names = [marks[at].mark_id for at in shown]
    # Plain numbers, row by row: a table of a hundred cells is filled while somebody waits.
    rows = (list(zip(names, row, strict=True)) for row in now.lit.by_light_lx[:, shown].tolist())
    return {
        "now": now,
        "ladder": ladder_picture(now.ladder, g.units, width=484.0, height=470.0),
        "letters": letters_of(now.setup, now.gear),
        "colours": light_colours(now),
        "swatches": mark_swatches(now),
        "by_light": list(zip(now.lit.built.lights, rows, strict=True)),
        "together": list(zip((marks[at] for at in shown), now.lit.total_lx[shown].tolist(), strict=True)),
        "lead_school": now.rules.ratio_school,
    }


@bp.get("/jobs/<int:job_id>/setups/<int:setup_id>")
def setup(job_id: int, setup_id: int) -> tuple[str, int]:
    """One set-up."""
    return reply(**VIEW, **board(edit.open_setup(g.session, person_id(), job_id, setup_id)))


def _changed(view: SetupView) -> Response | str:
    address = url_for(
        "setups.setup", job_id=view.job.job_id, setup_id=view.setup_id, piece=request.values.get("piece") or None
    )
    return after_change(address, fragment=VIEW["fragment"], **board(view))


def _refused(job_id: int, setup_id: int, bad: Exception, typed: dict[str, str] | None = None) -> tuple[str, int]:
    view = edit.open_setup(g.session, person_id(), job_id, setup_id)
    return reply(**VIEW, status=409 if isinstance(bad, ChangedMeanwhile) else 422, **board(view, bad, typed))


def changes_in(form: MultiDict[str, str]) -> list[dict[str, Any]]:
    """Changes as rows. Raises: BadValue."""
    text = form.get("changes", "")
    try:
        rows = parsed_json(text, "changes")
    except FormatError:
        rows = None
    if not isinstance(rows, list) or not 1 <= len(rows) <= MOST_CHANGES:
        raise BadValue("changes", repr(text), f"a list of 1 to {MOST_CHANGES} changes as JSON")
    return rows


@bp.post("/jobs/<int:job_id>/setups/<int:setup_id>/changes")
def change(job_id: int, setup_id: int) -> Answer:
    """Changes as rows: what a hand on the plan does, and what a way out proposes."""
    try:
        return _changed(
            edit.change_setup(
                g.session, person_id(), job_id, setup_id, changes_in(request.form), request.form.get("text", "")[:200]
            )
        )
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(job_id, setup_id, bad)


@bp.post("/jobs/<int:job_id>/setups/<int:setup_id>/try")
def attempt(job_id: int, setup_id: int) -> str:
    """What changes would do, kept nowhere."""
    now = edit.try_changes(g.session, person_id(), job_id, setup_id, changes_in(request.form))
    g.units = now.rules.units
    ghosts: dict[str, Any] = {"ghosts": ()}
    if request.form.get("ghosts"):
        kept = edit.open_setup(g.session, person_id(), job_id, setup_id).now
        paper = setup_paper(kept)
        ghosts = {"ghosts": moved_pieces(kept, now, paper, g.units), "paper": paper}
    return render_template("setups/_levels.html", job_id=job_id, setup_id=setup_id, **levels(now), **ghosts)


@bp.post("/jobs/<int:job_id>/setups/<int:setup_id>/form/<where>")
def change_by_form(job_id: int, setup_id: int, where: str) -> Answer:
    """The inspector's form: of a piece, the camera, the look, or the pass itself (``pass``)."""
    g.units = desk_jobs.open_job(g.session, person_id(), job_id, with_bucket=False).rules.units

    def changes(setup: Setup, place: Place, gear: Gear) -> list[dict[str, Any]]:
        return forms.changes_by_form(where, request.form, g.units, setup, place, gear)

    try:
        return _changed(edit.change_setup(g.session, person_id(), job_id, setup_id, changes))
    except (BadValue, ChangedMeanwhile) as bad:
        typed = {key: value for key, value in request.form.items() if not key.startswith("was-")}
        return _refused(job_id, setup_id, bad, typed)


def _added(job_id: int, setup_id: int, make: Callable[[Setup, Place, Gear], dict[str, Any]]) -> Answer:
    """One more piece; its id is drawn where nobody else can draw the same."""
    numbers: list[str] = []

    def changes(setup: Setup, place: Place, gear: Gear) -> list[dict[str, Any]]:
        row = make(setup, place, gear)
        numbers.append(row["to"]["piece_id"])
        return [row]

    view = edit.change_setup(g.session, person_id(), job_id, setup_id, changes)
    address = url_for("setups.setup", job_id=job_id, setup_id=setup_id, piece=numbers[-1])
    return after_change(address, fragment=VIEW["fragment"], **board(view, piece=numbers[-1]))


@bp.post("/jobs/<int:job_id>/setups/<int:setup_id>/add/<what>")
def add(job_id: int, setup_id: int, what: str) -> Answer:
    """One more piece, with usual values."""
    chosen = request.form.get("chosen") or (request.form.get("piece", "") if what == "position" else "")
    try:
        return _added(job_id, setup_id, lambda setup, place, gear: forms.new_piece(what, setup, place, gear, chosen))
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(job_id, setup_id, bad)


@bp.post("/jobs/<int:job_id>/setups/<int:setup_id>/copy/<piece_id>")
def copy_piece(job_id: int, setup_id: int, piece_id: str) -> Answer:
    """The same piece once more, beside it."""
    try:
        return _added(job_id, setup_id, lambda setup, place, gear: forms.copied_piece(setup, piece_id))
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(job_id, setup_id, bad)


@bp.post("/jobs/<int:job_id>/setups/<int:setup_id>/step/<any(back,on):way>/<int:number>")
def step(job_id: int, setup_id: int, way: str, number: int) -> Answer:
    """Undo (``back``) or redo."""
    try:
        return _changed(edit.step_setup(g.session, person_id(), job_id, setup_id, number, is_back=way == "back"))
    except ChangedMeanwhile as bad:
        return _refused(job_id, setup_id, bad)


@bp.get("/jobs/<int:job_id>/setups/<int:setup_id>/since/<int:version>")
def since(job_id: int, setup_id: int, version: int) -> Answer:
    """The board anew where somebody changed it since; else nothing."""
    if edit.setup_version(g.session, person_id(), job_id, setup_id) == version:
        return "", 204
    return reply(**VIEW, **board(edit.open_setup(g.session, person_id(), job_id, setup_id)))


@bp.get("/jobs/<int:job_id>/setups/<int:setup_id>/cell/<light>/<mark>")
def cell(job_id: int, setup_id: int, light: str, mark: str) -> str:
    """One cell of the table, unfolded to its steps."""
    view = edit.open_setup(g.session, person_id(), job_id, setup_id)
    g.units = view.job.rules.units
    found = cell_of(view.now.lit, light, mark, g.units)
    if found is None:
        raise NotFound("there is no such light or mark in this set-up now")
    return render_template("setups/_cell.html", cell=found)


@bp.get("/jobs/<int:job_id>/setups/<int:setup_id>/walks")
def walks(job_id: int, setup_id: int) -> str:
    """How everybody with several positions is lit on the way."""
    view = edit.open_setup(g.session, person_id(), job_id, setup_id)
    g.units = view.job.rules.units
    walked = fixes.walks_of(view)
    return render_template("setups/_walks.html", walks=walked, wanted_lx=view.now.ladder.wanted_lx)


@bp.get("/jobs/<int:job_id>/setups/<int:setup_id>/ways/<mark>")
def fixes_for(job_id: int, setup_id: int, mark: str) -> str:
    """Every single change that would meet a target."""
    view = edit.open_setup(g.session, person_id(), job_id, setup_id)
    g.job, g.units = view.job, view.job.rules.units
    rung, found = fixes.fixes_of(view, mark)
    rows = [(way, json.dumps([change_row(each) for each in way.changes])) for way in found]
    groups = [(fetch, list(some)) for fetch, some in groupby(rows, key=lambda row: row[0].fetch)]
    return render_template("setups/_ways.html", view=view, rung=rung, count=len(rows), groups=groups)


@bp.post("/jobs/<int:job_id>/setups/<int:setup_id>/solve")
def solve(job_id: int, setup_id: int) -> Answer:
    """Levels for all targets at once."""
    try:
        view, solved = fixes.solve(g.session, person_id(), job_id, setup_id)
    except (BadValue, NoAnswer, ChangedMeanwhile) as bad:
        return _refused(job_id, setup_id, bad)
    return after_change(
        url_for("setups.setup", job_id=job_id, setup_id=setup_id),
        fragment=VIEW["fragment"],
        **board(view),
        solved=solved,
    )


@bp.post("/jobs/<int:job_id>/setups/<int:setup_id>/pass/<way>")
def next_pass(job_id: int, setup_id: int, way: str) -> Answer:
    """A pass that begins as this one: ``tighter`` or ``wider``."""
    number = passes.next_pass(g.session, person_id(), job_id, setup_id, is_tighter=way == "tighter")
    flash("New pass, copied from the last. What you change now is the move sheet.")
    piece = request.form.get("piece") or None
    return redirect(url_for("setups.setup", job_id=job_id, setup_id=number, piece=piece), code=303)


@bp.post("/jobs/<int:job_id>/setups/<int:setup_id>/again/<any(pass,setup):what>")
def copy_whole(job_id: int, setup_id: int, what: str) -> Answer:
    """This pass once more, or the set-up with all its passes under the name that was typed."""
    try:
        if what == "pass":
            number = passes.copy_pass(g.session, person_id(), job_id, setup_id)
        else:
            number = passes.copy_setup(g.session, person_id(), job_id, setup_id, request.form.get("name", ""))
    except BadValue as bad:
        return _refused(job_id, setup_id, bad)
    flash("Copied. What you change now is the copy.")
    return redirect(url_for("setups.setup", job_id=job_id, setup_id=number), code=303)


@bp.post("/jobs/<int:job_id>/setups/<int:setup_id>/archive")
def archive(job_id: int, setup_id: int) -> Answer:
    """Put a set-up away, or bring it back; away from the list it can still be opened and brought back."""
    is_archived = request.form.get("archived") == "yes"
    passes.archive_setup(g.session, person_id(), job_id, setup_id, is_archived=is_archived)
    flash("Archived: off the list of set-ups." if is_archived else "Restored.")
    return redirect(url_for("setups.setup", job_id=job_id, setup_id=setup_id), code=303)
