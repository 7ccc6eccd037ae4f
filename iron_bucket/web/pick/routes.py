"""The sentence, the list, one fit compared, and into the bucket."""

from typing import Any
from urllib.parse import urlencode

from flask import Blueprint, flash, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.selection.ranking import WANTED_RESERVE_STOPS, WASTE_FROM_STOPS, SortBy, house_weights
from iron_bucket.desk import bench as desk_bench
from iron_bucket.desk import bucket as desk_bucket
from iron_bucket.desk import jobs as desk_jobs
from iron_bucket.desk import pick as desk
from iron_bucket.desk.pick_start import PickStart, pick_start
from iron_bucket.desk.setups.lights import place_fit
from iron_bucket.desk.setups.passes import setup_names
from iron_bucket.web.pick.forms import (
    FRONT_GROUPS,
    TECHNOLOGY_GROUPS,
    echoes,
    read_need,
    read_sort,
    starting_words,
    words_of,
)
from iron_bucket.web.shared.heavy import heavy
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.pictures.staircase import Staircase, staircase
from iron_bucket.web.shared.reply import after_change, reply, wants_fragment
from iron_bucket.web.shared.request_session import person_id

bp = Blueprint("pick", __name__, template_folder="templates")
#: Asks for the rest of the list.
FURTHER = "further"
VIEW: dict[str, Any] = {"page": "pick/page.html", "fragment": "pick/_answer.html"}


def _rules() -> HouseRules:
    return g.job.rules if g.job else HouseRules(units=g.units)


def _start() -> dict[str, str]:
    """What the sentence says before anybody has typed: in a job what that job's look and place say."""
    start: PickStart | None = g.get("pick_start")
    return starting_words(_rules(), g.units, start)


def _words() -> dict[str, str]:
    """What the sentence says: the address where it says anything, else the starting words."""
    start = _start()
    return start | {key: value for key, value in request.values.items() if key in start}


def _open_for_pick(job_id: int) -> None:
    g.pick_start = pick_start(g.session, person_id(), job_id)
    g.job, g.units = g.pick_start.job, g.pick_start.job.rules.units


def _large(row: desk.FitView) -> Staircase:
    return staircase(row.chain, g.units, width=500, height=186, top=26, foot=56)


def _narrow(row: desk.FitView) -> Staircase:
    return staircase(row.chain, g.units, width=320, height=130, top=24, foot=26)


def _small(row: desk.FitView) -> Staircase:
    return staircase(row.chain, g.units, width=92, height=22, top=2, foot=2)


def _address(endpoint: str, words: dict[str, str]) -> str:
    """An address of this station that holds a sentence."""
    where = url_for(f"pick.{endpoint}in_job", job_id=g.job.job_id) if g.job else url_for(f"pick.{endpoint}anywhere")
    return f"{where}?{urlencode(words)}"


def _page() -> tuple[str, int]:
    words = _words()
    start: PickStart | None = g.get("pick_start")
    shelf = start.shelf if start else desk_bench.shelf(g.session)
    jobs = () if g.job else desk_jobs.open_job_names(g.session, person_id())
    context: dict[str, Any] = {
        "words": words,
        "echoes": echoes(words, g.units),
        "circuits": start.circuits if start else {},
        "place": start.place if start else None,
        "batteries": shelf.in_use.batteries,
        "left": start.batteries_left if start else {},
        "groups": list(TECHNOLOGY_GROUPS),
        "throughs": list(FRONT_GROUPS),
        "sorts": list(SortBy),
        "jobs": jobs,
        "weights": house_weights(),
        "reserve": WANTED_RESERVE_STOPS,
        "waste_from": WASTE_FROM_STOPS,
        "per_head": desk.PER_HEAD,
        "large": _large,
        "narrow": _narrow,
        "small": _small,
        "address": _address,
        "words_of": lambda need: words_of(need, words, g.units),
    }
    try:
        need = read_need(words, shelf.in_use, _rules(), g.units, start.circuits if start else {})
    except BadValue as bad:
        return reply(**VIEW, status=422, bad=bad, answer=None, **context)
    asked = shelf, need, read_sort(words), g.units
    if FURTHER not in request.args:
        return reply(**VIEW, bad=None, answer=desk.pick_view(*asked), further=None, **context)
    further = desk.further_rows(*asked)
    if wants_fragment():
        return render_template("pick/_fits.html", rows=further, opens=False, **context), 200
    return reply(**VIEW, bad=None, answer=desk.pick_view(*asked), further=further, **context)


@bp.get("/pick")
@heavy
def anywhere() -> tuple[str, int]:
    """Pick with no job."""
    return _page()


@bp.get("/jobs/<int:job_id>/pick")
@heavy
def in_job(job_id: int) -> tuple[str, int]:
    """Pick for a job."""
    _open_for_pick(job_id)
    return _page()


def _compared() -> tuple[str, int]:
    words = _words()
    start: PickStart | None = g.get("pick_start")
    need = read_need(words, desk_bench.shelf(g.session).in_use, _rules(), g.units, start.circuits if start else {})
    rows = desk.compare(g.session, need, tuple(request.args.getlist("with")), g.units)
    return render_template(
        "pick/compare.html",
        rows=rows,
        words=words,
        need=need,
        narrow=_narrow,
        address=_address,
        too_many=len(request.args.getlist("with")) > desk.MOST_COMPARED,
    ), 200


@bp.get("/pick/compare")
@heavy
def compare_anywhere() -> tuple[str, int]:
    """Up to three fits side by side."""
    return _compared()


@bp.get("/jobs/<int:job_id>/pick/compare")
@heavy
def compare_in_job(job_id: int) -> tuple[str, int]:
    """The same within a job."""
    _open_for_pick(job_id)
    return _compared()


@bp.get("/jobs/<int:job_id>/pick/setups")
def places_for(job_id: int) -> str:
    """The set-ups that a fit can be placed in."""
    _open_for_pick(job_id)
    setups = setup_names(g.session, person_id(), job_id)
    return render_template("pick/_places.html", setups=setups, words=_words(), key=request.args.get("key", ""))


@bp.post("/jobs/<int:job_id>/pick/setups")
def place(job_id: int) -> Response:
    """Put one fit into a set-up, and go there."""
    _open_for_pick(job_id)
    number = whole_number(request.form.get("setup_id"))
    if number is None:
        raise BadValue("set-up", repr(request.form.get("setup_id", "")), "one of this job's set-ups")
    start: PickStart = g.pick_start
    need = read_need(_words(), start.shelf.in_use, _rules(), g.units, start.circuits)
    try:
        _, piece = place_fit(g.session, person_id(), job_id, number, need, request.form.get("key", ""))
    except NoAnswer as why:
        flash(str(why))
        return redirect(_address("", _words()), code=303)
    return redirect(url_for("setups.setup", job_id=job_id, setup_id=number, piece=piece), code=303)


@bp.post("/pick/bucket")
def into_bucket() -> Response | str | tuple[str, int]:
    """Put one fit into a job's bucket, with a note what it is for."""
    form = request.form
    number = whole_number(form.get("job_id"))
    if number is None:
        raise BadValue("job", repr(form.get("job_id", "")), "one of your jobs")
    _open_for_pick(number)
    job, circuits = g.job, g.pick_start.circuits
    need = read_need(_words(), desk_bench.shelf(g.session).in_use, job.rules, g.units, circuits)
    view = desk_bucket.put_in(g.session, person_id(), job.job_id, need, form.get("key", ""), form.get("purpose", ""))
    hand = (each for several in view.by_hand.values() for each in several)
    put = max(hand, key=lambda each: each.entry.entry_id)  # the last that was drawn a number
    return after_change(
        url_for("bucket.contents", job_id=job.job_id),
        fragment="pick/_put.html",
        job=view.job,
        names=[put.entry.item.name, *(each.item.name for each in put.hanging)],
    )
