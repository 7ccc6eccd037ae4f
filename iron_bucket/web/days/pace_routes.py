"""How many people rig, how long passes really took, and what earlier jobs teach of it."""

from flask import g, request

from iron_bucket.core.errors import BadValue
from iron_bucket.core.power.job.pace import PARTS
from iron_bucket.desk.days import pace as desk
from iron_bucket.desk.days.view import DaysView
from iron_bucket.web.days.blueprint import bp
from iron_bucket.web.days.day_routes import Answer, changed_page, whole_of_form
from iron_bucket.web.shared.request_session import person_id


@bp.post("/took")
def took(job_id: int) -> Answer:
    """Minutes that a pass really took."""

    def change() -> DaysView:
        minutes = {}
        for name in PARTS:
            text = request.form.get(name, "").strip()
            if not text.isdecimal() or len(text) > 4:
                raise BadValue("took", f"{name} {text!r}", "whole minutes of rig, shoot and strike, such as 45")
            minutes[name] = int(text)
        return desk.took(g.session, person_id(), job_id, whole_of_form("setup_id"), minutes)

    return changed_page(job_id, change)


@bp.post("/pace")
def pace(job_id: int) -> Answer:
    """Times by rule as earlier jobs went."""
    return changed_page(job_id, lambda: desk.use_pace(g.session, person_id(), job_id))


@bp.post("/crew")
def crew(job_id: int) -> Answer:
    """How many people rig and strike."""

    def change() -> DaysView:
        was = request.form.get("was", "")
        number = whole_of_form("crew", "a number of people such as 3")
        return desk.put_crew(g.session, person_id(), job_id, number, int(was) if was.isdecimal() else None)

    return changed_page(job_id, change)
