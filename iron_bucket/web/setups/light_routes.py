"""The light over a plane, as a part of the plan: as it is kept, and as it would be after some changes."""

from flask import g, render_template, request
from markupsafe import escape

from iron_bucket.core.errors import BadValue
from iron_bucket.core.setups.evaluation import Evaluation
from iron_bucket.desk.setups import edit
from iron_bucket.web.setups.blueprint import bp
from iron_bucket.web.setups.edit_routes import changes_in
from iron_bucket.web.setups.light_picture import Wanted, light_on_plan, light_on_wall
from iron_bucket.web.setups.plan_picture import setup_picture
from iron_bucket.web.shared.heavy import heavy
from iron_bucket.web.shared.request_session import person_id
from iron_bucket.web.shared.typed_fields import Takes, field, refusal

_USUAL = {"plane": "face", "height": "", "solo": ""}
_HEIGHT = (field("height", "Height", Takes.LENGTH),)
Answer = str | tuple[str, int]


@bp.get("/jobs/<int:job_id>/setups/<int:setup_id>/light")
@heavy
def light(job_id: int, setup_id: int) -> Answer:
    """Of the set-up as it stands."""
    view = edit.open_setup(g.session, person_id(), job_id, setup_id)
    return _light(view.now, is_coarse=False)


@bp.post("/jobs/<int:job_id>/setups/<int:setup_id>/light")
def light_meanwhile(job_id: int, setup_id: int) -> Answer:
    """While something is dragged: coarser, and kept nowhere."""
    return _light(edit.try_changes(g.session, person_id(), job_id, setup_id, changes_in(request.form)), is_coarse=True)


def _light(now: Evaluation, *, is_coarse: bool) -> Answer:
    """A part of the plan, or one sentence where the height cannot be (422)."""
    g.units = now.rules.units
    wanted = Wanted(**{name: request.values.get(name, usual) for name, usual in _USUAL.items()})
    if wanted.plane.startswith("wall"):
        return render_template("setups/_light_on_wall.html", light=light_on_wall(now, wanted, g.units))
    picture = setup_picture(now, g.units, now.rules.receptor)
    try:
        found = light_on_plan(now, picture, wanted, g.units, is_coarse=is_coarse)
    except BadValue as bad:
        return escape(refusal(bad, _HEIGHT, {"height": wanted.height}, g.units).words), 422
    return render_template("setups/_light.html", light=found)
