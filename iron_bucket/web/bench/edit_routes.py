"""Pieces made, changed, copied, retired."""

from collections.abc import Mapping

from flask import flash, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.errors import BadValue
from iron_bucket.desk.bench import edit as desk
from iron_bucket.desk.bench.head_view import open_form
from iron_bucket.desk.errors import ChangedMeanwhile
from iron_bucket.formats.gear_rows import GEAR_KINDS
from iron_bucket.web.bench.blueprint import bp
from iron_bucket.web.bench.piece_fields import fields_of, groups_of, row_from, starting_text, typed_of
from iron_bucket.web.jobs.forms import read_version
from iron_bucket.web.shared.request_session import person_id
from iron_bucket.web.shared.typed_fields import refusal

#: Makes of a head: where the form goes, and what it makes.
_OF_A_HEAD = {"configurations": desk.create_configuration, "units": desk.create_unit}


def page_of(kind: str, slug: str, row: Mapping[str, object]) -> str:
    """The page on which a piece is shown."""
    if kind == "heads":
        return url_for("bench.head", slug=slug)
    if kind == "configurations":
        return url_for("bench.head", slug=row["head_slug"], configuration=slug)
    if kind == "units":
        return url_for("bench.head", slug=row["head_slug"]) + "#units"
    return url_for("bench.piece", slug=slug)


def _form(
    title: str,
    kind: str,
    action: str,
    typed: Mapping[str, str],
    *,
    bad: Exception | None = None,
    version: int = 0,
    back: str = "",
    row: Mapping[str, object] | None = None,
) -> tuple[str, int]:
    status = 200 if bad is None else 409 if isinstance(bad, ChangedMeanwhile) else 422
    page = render_template(
        "bench/form.html",
        title=title,
        noun=GEAR_KINDS[kind].noun,
        kind=kind,
        groups=groups_of(kind, row),
        action=action,
        typed=typed,
        bad=refusal(bad, fields_of(kind, row), typed, g.units).words if bad else None,
        version=version,
        back=back,
    )
    return page, status


@bp.get("/new/<kind>")
def new(kind: str) -> tuple[str, int]:
    """The form of a new piece."""
    return _form(
        f"New {GEAR_KINDS[kind].noun}" if kind in GEAR_KINDS else "",
        kind,
        url_for("bench.create", kind=kind),
        starting_text(kind),
    )


@bp.post("/new/<kind>")
def create(kind: str) -> tuple[str, int] | Response:
    """Make a piece."""
    groups_of(kind)  # a kind that has no form is refused before anything is read
    try:
        slug = desk.create(g.session, person_id(), kind, row_from(kind, request.form, {}, g.units))
    except BadValue as bad:
        return _form(f"New {GEAR_KINDS[kind].noun}", kind, request.path, request.form, bad=bad)
    return redirect(page_of(kind, slug, {}), code=303)


@bp.get("/heads/<head_slug>/new/<kind>")
def new_of_head(head_slug: str, kind: str) -> tuple[str, int]:
    """The form of a new configuration or unit."""
    head = open_form(g.session, head_slug)
    title = f"New {GEAR_KINDS[kind].noun} of {head.row['name']}" if kind in _OF_A_HEAD else ""
    action = url_for("bench.create_of_head", head_slug=head_slug, kind=kind)
    return _form(title, kind, action, starting_text(kind), back=url_for("bench.head", slug=head_slug))


@bp.post("/heads/<head_slug>/new/<kind>")
def create_of_head(head_slug: str, kind: str) -> tuple[str, int] | Response:
    """Make a configuration or unit of a head."""
    if kind not in _OF_A_HEAD:
        raise BadValue("kind", repr(kind), "one of " + ", ".join(_OF_A_HEAD))
    try:
        slug = _OF_A_HEAD[kind](g.session, person_id(), head_slug, row_from(kind, request.form, {}, g.units))
    except BadValue as bad:
        back = url_for("bench.head", slug=head_slug)
        return _form(f"New {GEAR_KINDS[kind].noun}", kind, request.path, request.form, bad=bad, back=back)
    return redirect(page_of(kind, slug, {"head_slug": head_slug}), code=303)


@bp.get("/edit/<slug>")
def edit(slug: str) -> tuple[str, int]:
    """The form of a piece that is there."""
    form = open_form(g.session, slug)
    typed = typed_of(form.kind, form.row, g.units)
    action, back = url_for("bench.change", slug=slug), page_of(form.kind, slug, form.row)
    return _form(str(form.row["name"]), form.kind, action, typed, version=form.version, back=back, row=form.row)


@bp.post("/edit/<slug>")
def change(slug: str) -> tuple[str, int] | Response:
    """Change a piece."""
    form = open_form(g.session, slug)
    back = page_of(form.kind, slug, form.row)
    try:
        desk.change(
            g.session,
            person_id(),
            slug,
            read_version(request.form),
            row_from(form.kind, request.form, form.row, g.units),
        )
    except (BadValue, ChangedMeanwhile) as bad:
        now = open_form(g.session, slug)
        return _form(
            str(form.row["name"]),
            form.kind,
            request.path,
            request.form,
            bad=bad,
            version=now.version,
            back=back,
            row=form.row,
        )
    flash("Saved.")
    return redirect(back, code=303)


@bp.post("/copy/<slug>")
def copy(slug: str) -> Response:
    """The same once more, to be changed."""
    new_slug = desk.copy(g.session, person_id(), slug)
    flash("Copied. This is the copy.")
    return redirect(url_for("bench.edit", slug=new_slug), code=303)


@bp.post("/retire/<slug>")
def retire(slug: str) -> Response:
    """Put a piece away, or bring it back."""
    form = open_form(g.session, slug)
    desk.retire(g.session, person_id(), slug, is_retired=request.form.get("retired") == "yes")
    return redirect(page_of(form.kind, slug, form.row), code=303)
