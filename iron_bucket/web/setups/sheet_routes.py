"""The sheet of a set-up: on a screen, on a phone, on A4, as a picture; and the link that shows it to others."""

import json
from typing import Any

from flask import Response, flash, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response as AnyResponse

from iron_bucket.desk.links import DAYS, USUAL_DAYS
from iron_bucket.desk.setups import edit, share
from iron_bucket.desk.setups.view import SetupView
from iron_bucket.desk.throttle import take_turn
from iron_bucket.formats.record_json import write_record
from iron_bucket.formats.sheet_pdf import sheet_pdf
from iron_bucket.web.setups.blueprint import bp
from iron_bucket.web.setups.light_picture import Wanted, light_on_plan
from iron_bucket.web.setups.plan_picture import setup_picture
from iron_bucket.web.setups.signs import light_colours
from iron_bucket.web.shared.heavy import heavy
from iron_bucket.web.shared.letters import letters_of
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.paper_limits import MINUTE, PAPERS_A_MINUTE, PAPERS_A_MINUTE_BY_LINK
from iron_bucket.web.shared.pictures.ladder import ladder_picture
from iron_bucket.web.shared.request_session import person_id


def _sheet(view: SetupView) -> dict[str, Any]:
    g.units = view.job.rules.units
    picture = setup_picture(view.now, g.units, view.job.rules.receptor, shown_px=660.0, most_px=380.0)
    return {
        "view": view,
        "now": view.now,
        "picture": picture,
        "light": light_on_plan(view.now, picture, Wanted(), g.units, is_coarse=False),
        "ladder": ladder_picture(view.now.ladder, g.units, width=430.0, height=380.0),
        "colours": light_colours(view.now),
        "letters": letters_of(view.setup, view.now.gear),
        "chosen": "",
    }


@bp.get("/jobs/<int:job_id>/setups/<int:setup_id>/sheet")
def sheet(job_id: int, setup_id: int) -> str:
    """One page of it, with what may be done with it."""
    view = edit.open_setup(g.session, person_id(), job_id, setup_id)
    g.job = view.job
    return render_template(
        "setups/sheet.html",
        **_sheet(view),
        link=share.share_token(g.session, person_id(), job_id, setup_id),
        days=DAYS,
        usual=USUAL_DAYS,
        is_shared=False,
    )


@bp.get("/jobs/<int:job_id>/setups/<int:setup_id>/sheet.pdf")
@heavy
def pdf(job_id: int, setup_id: int) -> Response:
    """The sheet on A4."""
    take_turn(g.session, {f"paper of {person_id()}": PAPERS_A_MINUTE}, MINUTE)
    return _pdf(edit.open_setup(g.session, person_id(), job_id, setup_id))


def _pdf(view: SetupView) -> Response:
    page = render_template(
        "setups/sheet_paper.html", is_paper=True, ladder_ink=render_template("setups/_ink.html"), **_sheet(view)
    )
    paper = sheet_pdf(page)
    return Response(
        paper,
        mimetype="application/pdf",
        headers={"Content-Disposition": f'inline; filename="set-up-{view.setup_id}.pdf"'},
    )


@bp.get("/jobs/<int:job_id>/setups/<int:setup_id>/plan.svg")
def svg(job_id: int, setup_id: int) -> Response:
    """The throw plan alone, with its own ink."""
    view = edit.open_setup(g.session, person_id(), job_id, setup_id)
    return Response(
        render_template("setups/plan.svg", **_sheet(view)),
        mimetype="image/svg+xml",
        headers={"Content-Disposition": f'attachment; filename="set-up-{setup_id}.svg"'},
    )


@bp.get("/jobs/<int:job_id>/setups/<int:setup_id>/setup.json")
def as_file(job_id: int, setup_id: int) -> Response:
    """What was placed, as a file."""
    view = edit.open_setup(g.session, person_id(), job_id, setup_id)
    text = json.dumps(write_record(view.setup), ensure_ascii=False, indent=1)
    return Response(
        text,
        mimetype="application/json",
        headers={"Content-Disposition": f'attachment; filename="set-up-{setup_id}.json"'},
    )


@bp.post("/jobs/<int:job_id>/setups/<int:setup_id>/share")
def open_share(job_id: int, setup_id: int) -> AnyResponse:
    """Make the link, or take it back (``revoke``)."""
    if request.form.get("revoke"):
        share.revoke_share(g.session, person_id(), job_id, setup_id)
        flash("Link off.")
    else:
        days = whole_number(request.form.get("days")) or USUAL_DAYS
        share.open_share(g.session, person_id(), job_id, setup_id, days)
    return redirect(url_for("setups.sheet", job_id=job_id, setup_id=setup_id), code=303)


@bp.get("/shared/<token>")
def shared(token: str) -> str:
    """What a link shows to whoever has it: the sheet, read only."""
    return render_template(
        "setups/sheet.html", **_sheet(share.shared_setup(g.session, token)), token=token, is_shared=True
    )


@bp.get("/shared/<token>/sheet.pdf")
@heavy
def shared_pdf(token: str) -> Response:
    """The same on A4."""
    take_turn(g.session, {f"paper by link {request.remote_addr}": PAPERS_A_MINUTE_BY_LINK}, MINUTE)
    return _pdf(share.shared_setup(g.session, token))
