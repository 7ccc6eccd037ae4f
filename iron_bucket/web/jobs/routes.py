"""List, create, change, archive, undo."""

from flask import Blueprint, flash, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.errors import BadValue
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.exposure.ratio import RatioSchool
from iron_bucket.core.jobs.house_rules import BREAKERS_A, HouseRules
from iron_bucket.core.modifiers.kinds import ScrimSchool
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.desk import jobs as desk
from iron_bucket.desk.errors import ChangedMeanwhile
from iron_bucket.desk.past import past_of_job, return_job_to
from iron_bucket.desk.uploads import UploadKind
from iron_bucket.formats.errors import FormatError
from iron_bucket.web.jobs.forms import read_rules, read_version, typed_from
from iron_bucket.web.shared.large_files import take_in_file
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.reply import after_step
from iron_bucket.web.shared.request_session import person_id

bp = Blueprint("jobs", __name__, template_folder="templates")

CHOICES = {
    "supplies": [(volts, amps) for volts, breakers in BREAKERS_A.items() for amps in breakers],
    "units": list(UnitSystem),
    "scrim_schools": list(ScrimSchool),
    "ratio_schools": list(RatioSchool),
    "receptors": list(Receptor),
}


def open_for_page(job_id: int) -> desk.JobView:
    """The job of a page, with its units and its bucket bar. Raises: NotFound."""
    job = desk.open_job(g.session, person_id(), job_id)
    g.job, g.units = job, job.rules.units
    return job


@bp.get("/")
def index() -> str:
    """All jobs of who is signed in."""
    return render_template("jobs/index.html", jobs=desk.list_jobs(g.session, person_id()))


def _new_form(
    typed: dict[str, str], bad: BadValue | None, status: int = 200, file_bad: Exception | None = None
) -> tuple[str, int]:
    return render_template("jobs/new.html", typed=typed, bad=bad, file_bad=file_bad, **CHOICES), status


@bp.get("/jobs/new")
def new() -> tuple[str, int]:
    """The form of a new job."""
    return _new_form(typed_from(HouseRules(), "", ""), None)


@bp.post("/jobs")
def create() -> tuple[str, int] | Response:
    """Make a job and go to its bucket."""
    try:
        job_id = desk.create_job(
            g.session,
            person_id(),
            request.form.get("name", ""),
            request.form.get("places", ""),
            read_rules(request.form),
            with_crew=request.form.get("with_crew") == "yes",
        )
    except BadValue as bad:
        return _new_form({"with_crew": ""} | request.form.to_dict(), bad, 422)
    return redirect(url_for("bucket.contents", job_id=job_id), code=303)


@bp.post("/jobs/import")
def take_in() -> tuple[str, int] | Response:
    """A job from its file, taken in whole or not at all."""
    try:
        taken = take_in_file(UploadKind.JOB, "copy" if request.form.get("copy") == "yes" else "")
    except (BadValue, FormatError) as bad:
        return _new_form(typed_from(HouseRules(), "", ""), None, 422, bad)
    if isinstance(taken, int):
        return redirect(url_for("shared.upload", number=taken), code=303)
    flash(taken.words)
    return redirect(url_for("bucket.contents", job_id=taken.job_id), code=303)


def _settings_form(
    job: desk.JobView, typed: dict[str, str], bad: BadValue | ChangedMeanwhile | None, status: int = 200
) -> tuple[str, int]:
    return render_template("jobs/settings.html", job=job, typed=typed, bad=bad, **CHOICES), status


@bp.get("/jobs/<int:job_id>/rules")
def settings(job_id: int) -> tuple[str, int]:
    """Name and house rules of a job."""
    job = open_for_page(job_id)
    return _settings_form(job, typed_from(job.rules, job.name, job.places), None)


@bp.post("/jobs/<int:job_id>/rules")
def change(job_id: int) -> tuple[str, int] | Response:
    """Rename, and set the rules."""
    job, form = open_for_page(job_id), request.form
    try:
        desk.change_job(
            g.session,
            person_id(),
            job_id,
            read_version(form),
            form.get("name", ""),
            form.get("places", ""),
            read_rules(form),
        )
    except BadValue as bad:
        return _settings_form(job, form.to_dict(), bad, 422)
    except ChangedMeanwhile as meanwhile:
        return _settings_form(job, form.to_dict(), meanwhile, 409)
    flash("Saved.")
    return redirect(url_for("jobs.settings", job_id=job_id), code=303)


@bp.post("/jobs/<int:job_id>/archive")
def archive(job_id: int) -> Response:
    """Put a job away or bring it back."""
    desk.archive_job(g.session, person_id(), job_id, is_archived=request.form.get("archived") == "yes")
    return redirect(url_for("jobs.index"), code=303)


@bp.post("/jobs/<int:job_id>/step/<any(back,on):way>/<int:number>")
def step(job_id: int, way: str, number: int) -> Response:
    """Undo the last change to the job or its bucket, or do it again."""
    return after_step(desk.step_job(g.session, person_id(), job_id, number, is_back=way == "back"), way)


@bp.get("/jobs/<int:job_id>/past")
def past(job_id: int) -> str:
    """What was done to the job and all that belongs to it, by whom."""
    found = past_of_job(g.session, person_id(), job_id, whole_number(request.args.get("before")))
    g.job = desk.open_job(g.session, person_id(), job_id)
    here = url_for("jobs.past", job_id=job_id)
    home = url_for("setups.index", job_id=job_id)
    return render_template("shared/past.html", past=found, back=here, here=here, home=home, home_word="Set-ups")


@bp.post("/jobs/<int:job_id>/past/<int:number>")
def go_back(job_id: int, number: int) -> Response:
    """As it stood after a change."""
    flash(f"As it stood after: {return_job_to(g.session, person_id(), job_id, number)}.")
    return redirect(url_for("jobs.past", job_id=job_id), code=303)
