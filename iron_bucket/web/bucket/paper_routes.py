"""Papers and files of a kit: on paper, for a spreadsheet, for a program; labels; the link that shows it to others."""

import json

from flask import Response, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response as AnyResponse

from iron_bucket.core.bucket.papers import KitPapers, Paper, PaperKind
from iron_bucket.core.errors import BadValue
from iron_bucket.desk.bucket import BucketView
from iron_bucket.desk.bucket.kit_share import kit_shares, open_kit_share, revoke_kit_share, shared_kit
from iron_bucket.desk.bucket.ticks import TickView, open_ticks
from iron_bucket.desk.job_transfer import job_text
from iron_bucket.desk.links import DAYS, USUAL_DAYS
from iron_bucket.desk.throttle import take_turn
from iron_bucket.formats.paper_files import paper_csv, paper_json, paper_xlsx
from iron_bucket.formats.qr_code import qr_svg
from iron_bucket.formats.sheet_pdf import sheet_pdf
from iron_bucket.web.bucket.blueprint import bp, open_bp
from iron_bucket.web.bucket.opened import open_for_page, shown
from iron_bucket.web.shared.file_name import file_name
from iron_bucket.web.shared.heavy import heavy
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.outside import outside
from iron_bucket.web.shared.paper_limits import MINUTE, PAPERS_A_MINUTE
from iron_bucket.web.shared.request_session import person_id

SIZES = ("A4", "letter")
_KINDS = {
    "csv": "text/csv; charset=utf-8",
    "json": "application/json",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    "pdf": "application/pdf",
}


def _papers(view: TickView) -> KitPapers:
    bucket = view.bucket
    return KitPapers(
        kit=bucket.kit,
        sources=bucket.sources,
        packed=bucket.packed,
        days=bucket.days,
        units=bucket.job.rules.units,
        tallies=view.tallies,
    )


def _wanted(kind: str) -> PaperKind:
    if kind not in list(PaperKind):
        raise BadValue("paper", repr(kind), ", ".join(PaperKind))
    return PaperKind(kind)


@bp.get("/papers")
def papers(job_id: int) -> str:
    """All of them, each looked at here and taken along."""
    view = open_ticks(g.session, person_id(), job_id)
    shown(view.bucket)
    made = _papers(view)
    kind = _wanted(request.args.get("paper", PaperKind.BY_CASE.value))
    return render_template(
        "bucket/papers.html",
        bucket=view.bucket,
        here="papers",
        kinds={each: made.paper(each).title for each in PaperKind},
        paper=made.paper(kind),
        sizes=SIZES,
        shares=kit_shares(g.session, person_id(), job_id),
        days=DAYS,
        usual=USUAL_DAYS,
    )


@bp.get("/papers/<kind>.<ending>")
@heavy
def paper_file(job_id: int, kind: str, ending: str) -> Response:
    """One of them as a file."""
    view = open_ticks(g.session, person_id(), job_id)
    shown(view.bucket)
    paper = _papers(view).paper(_wanted(kind))
    if ending not in _KINDS:
        raise BadValue("file", repr(ending), ", ".join(_KINDS))
    name = file_name(f"{view.bucket.job.name} {paper.title}", ending)
    place = "inline" if ending == "pdf" else "attachment"
    headers = {"Content-Disposition": f'{place}; filename="{name}"'}
    return Response(_written(paper, ending, view.bucket), mimetype=_KINDS[ending], headers=headers)


def _written(paper: Paper, ending: str, view: BucketView) -> str | bytes:
    if ending == "csv":
        return paper_csv(paper)
    if ending == "xlsx":
        return paper_xlsx(paper)
    if ending == "json":
        return json.dumps(paper_json(paper), ensure_ascii=False, indent=1)
    size = request.args.get("size", SIZES[0])
    if size not in SIZES:
        raise BadValue("size", repr(size), ", ".join(SIZES))
    take_turn(g.session, {f"paper of {person_id()}": PAPERS_A_MINUTE}, MINUTE)
    return sheet_pdf(render_template("bucket/paper.html", paper=paper, job=view.job, size=size))


@bp.get("/labels")
@heavy
def labels(job_id: int) -> str:
    """A sheet of them for cases and units: the phone's camera opens the page that ticks what is in it."""
    view = open_for_page(job_id)
    cases = [
        (box.label, f"{box.weight_kg:.0f} kg", _code(job_id, case=box.label)) for box in view.packed.boxes if box.case
    ]
    units = [
        (f"{source.line.item.name}, {unit.name}", unit.serial, _code(job_id, thing=unit.head_slug))
        for source in view.sources.values()
        for unit in source.units
    ]
    return render_template("bucket/labels.html", bucket=view, labels=cases + units)


def _code(job_id: int, **asked: str) -> str:
    return qr_svg(outside("bucket.tick", job_id=job_id, **asked))


@bp.get("/job-file")
def job_file(job_id: int) -> Response:
    """The whole job as one file."""
    view = open_for_page(job_id)
    headers = {"Content-Disposition": f'attachment; filename="{file_name(view.job.name, "json")}"'}
    return Response(job_text(g.session, person_id(), job_id), mimetype="application/json", headers=headers)


@bp.post("/papers/share")
def share(job_id: int) -> AnyResponse:
    """Make a view-only link, with or without prices; or take one back."""
    has_prices = request.form.get("prices") == "yes"
    if request.form.get("off"):
        revoke_kit_share(g.session, person_id(), job_id, has_prices=has_prices)
    else:
        days = whole_number(request.form.get("days")) or USUAL_DAYS
        open_kit_share(g.session, person_id(), job_id, has_prices=has_prices, days=days)
    return redirect(url_for("bucket.papers", job_id=job_id) + "#share", code=303)


@open_bp.get("/kit/<token>")
def shared_list(token: str) -> str:
    """The kit list for whoever has the link."""
    view, has_prices = shared_kit(g.session, token)
    g.units = view.job.rules.units
    made = KitPapers(kit=view.kit, sources=view.sources, packed=view.packed, days=view.days, units=view.job.rules.units)
    wanted = (PaperKind.BY_CASE, PaperKind.BY_OWNER, PaperKind.HIRE)
    papers = [made.paper(kind) if has_prices else made.paper(kind).without_money() for kind in wanted]
    return render_template("bucket/shared.html", job=view.job, papers=papers)
