"""A head by what a gaffer has of it: lux at a distance, and a beam."""

from typing import Any

from flask import flash, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.bench.from_beam import BeamSeen
from iron_bucket.core.bench.head import Technology
from iron_bucket.core.checks import require_word
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Origin
from iron_bucket.desk.bench import edit as desk
from iron_bucket.web.bench.blueprint import bp
from iron_bucket.web.bench.piece_fields import FieldGroup
from iron_bucket.web.shared.request_session import person_id
from iron_bucket.web.shared.typed_fields import Takes, field, read, refusal

_FIELDS = (
    field("name", "Name", Takes.TEXT, is_needed=True),
    field("technology", "Technology", Takes.CHOICE, [each.value for each in Technology]),
    field("illuminance_lx", "Level, straight ahead", Takes.LEVEL, is_needed=True, hint="3800 lx"),
    field("at_m", "at a distance of", Takes.LENGTH, is_needed=True, hint="2 m"),
    field("beam_deg", "Beam, between the half peaks", Takes.DEGREES, is_needed=True, unit="°", hint="55"),
    field("origin", "that level is", Takes.CHOICE, [Origin.MEASURED.value, Origin.CLAIMED.value]),
)
_IF_KNOWN = (
    field("cct_k", "Colour", unit="K", usual="5600"),
    field("watts", "Watts at full", unit="W", hint="typical where empty"),
    field("weight_kg", "Weight", Takes.MASS, hint="typical where empty"),
    field("owned", "How many we own", usual="1"),
    field("day_price", "Hire per day"),
)
_GROUPS = (FieldGroup(title="What you have", fields=_FIELDS), FieldGroup(title="If you know it", fields=_IF_KNOWN))
_ALL = (*_FIELDS, *_IF_KNOWN)


def _form(typed: dict[str, str], bad: Exception | None = None) -> tuple[str, int]:
    page = render_template(
        "bench/form.html",
        title="Head from lux and beam",
        noun="typical figures fill in the rest, marked as typical",
        kind="heads",
        groups=_GROUPS,
        action=url_for("bench.create_by_beam"),
        typed=typed,
        bad=refusal(bad, _ALL, typed, g.units).words if bad else None,
        version=0,
        back=url_for("bench.index"),
    )
    return page, 422 if bad else 200


@bp.get("/by-beam")
def by_beam() -> tuple[str, int]:
    """The short form."""
    return _form({each.key: each.usual for each in _ALL if each.usual})


@bp.post("/by-beam")
def create_by_beam() -> tuple[str, int] | Response:
    """Make the head with its one configuration."""
    try:
        slug = desk.create_by_beam(g.session, person_id(), _seen())
    except BadValue as bad:
        return _form(request.form.to_dict(), bad)
    flash("On the bench. Take readings when you have it: they replace the typical figures.")
    return redirect(url_for("bench.head", slug=slug), code=303)


def _seen() -> BeamSeen:
    row: dict[str, Any] = {}
    for each in _ALL:
        text = request.form.get(each.key, "").strip()
        if text:
            row[each.key] = read(each, text, g.units)
        elif each.is_needed:
            raise BadValue(each.label, "empty", f"a value{f' such as {each.hint}' if each.hint else ''}")
    require_word("Name", str(row["name"]))
    owned = row.pop("owned", 0.0)
    if owned != int(owned):
        raise BadValue("owned", f"{owned:g}", "a whole number")
    row |= {"technology": Technology(row["technology"]), "origin": Origin(row["origin"]), "owned": int(owned)}
    return BeamSeen(**row)
