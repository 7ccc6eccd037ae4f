"""The sun over the plan of a set-up's place, minute by minute: its patches, its height, the moon."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
from flask import g, render_template, request

from iron_bucket.core.daylight.moon import MoonPosition, moon_position
from iron_bucket.core.daylight.sun import SunPosition
from iron_bucket.core.days.day_plan import clock_min
from iron_bucket.core.days.sun_patches import SunPatch, WallPatch, sun_patches, wall_patches
from iron_bucket.core.errors import BadValue
from iron_bucket.core.places.bearing import along_bearing
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.quantities import display
from iron_bucket.desk.days.thrown_sun import DRIFT_DEG, thrown_sun
from iron_bucket.desk.days.view import open_days
from iron_bucket.web.days.blueprint import bp
from iron_bucket.web.days.insurance_routes import day_of_pass
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.pictures.plan import Paper, paper_for, place_picture, place_points
from iron_bucket.web.shared.request_session import person_id
from iron_bucket.web.shared.signed_in import signed_in

#: Heights that a patch is looked at: the floor, a table, a face that sits.
HEIGHTS = {"floor": 0.0, "table": 0.75, "face": 1.25}
_SHOWN_PX, _MOST_PX = 760.0, 560.0


@dataclass(frozen=True, slots=True, kw_only=True)
class SunOnPlan:
    """``patches``: outlines in units of the paper, with words; ``walls``: lines along walls; ``ray``: towards the sun,
    from the middle of the plan.
    """

    patches: tuple[tuple[str, str], ...]
    walls: tuple[tuple[str, str], ...]
    ray: tuple[float, float, float, float] | None


@bp.get("/sun")
@signed_in
def sun(job_id: int) -> str:
    """A minute of the day of a pass, on the plan of its place."""
    view = open_days(g.session, person_id(), job_id)
    g.job, g.units = view.power.job, view.power.rules.units
    one, setup_id = day_of_pass(view, whole_number(request.args.get("setup")))
    each = next(each for each in one.passes if each.of.setup_id == setup_id)
    around = view.power.surroundings(each.of)
    minute = _minute(one.minute(each.of.setup.when))
    plane = request.args.get("plane", "floor")
    if plane not in HEIGHTS:
        raise BadValue("plane", repr(plane), ", ".join(HEIGHTS))
    when = one.midnight + timedelta(minutes=minute)
    standing = around.sun(when)
    paper = paper_for(place_points(around), shown_px=_SHOWN_PX, most_px=_MOST_PX)
    people = [(person.name, *paper.at(person.x_m, person.y_m)) for person in each.of.setup.people]
    boards = thrown_sun(each.of.setup, around, when, one.midnight, view.power.gear, view.power.rules)
    return render_template(
        "days/sun.html",
        job=view.power.job,
        one=one,
        each=each,
        minute=minute,
        when=when,
        plane=plane,
        planes=HEIGHTS,
        standing=standing,
        is_hidden=around.is_hidden(standing),
        moon=_moon(around, when),
        picture=place_picture(around, paper, g.units),
        people=people,
        boards=[(board, paper.path(np.array([board.at_m, board.mark_m])[:, :2], is_closed=False)) for board in boards],
        drift_deg=DRIFT_DEG,
        shown=_on_plan(around, paper, standing, HEIGHTS[plane]),
    )


def _minute(usual: int) -> int:
    """By the slider in minutes, or as a time."""
    text = request.args.get("at", "")
    if text.isdecimal() and int(text) < 36 * 60:
        return int(text)
    found = clock_min(text, "at")
    return usual if found is None else found


def _moon(around: Surroundings, when: datetime) -> MoonPosition:
    place = around.place
    local = when.replace(tzinfo=ZoneInfo(place.time_zone))
    return moon_position(local, latitude_deg=place.latitude_deg, longitude_deg=place.longitude_deg)


def _on_plan(around: Surroundings, paper: Paper, standing: SunPosition, height_m: float) -> SunOnPlan:
    patches: tuple[SunPatch, ...] = sun_patches(around, standing, height_m)
    walls: tuple[WallPatch, ...] = wall_patches(around, standing)
    ray = None
    if standing.altitude_deg > 0.0:
        way = along_bearing(around.sun_bearing_deg(standing))[:2]
        middle = np.array(paper.at(*place_points(around).mean(axis=0)))
        reach = 0.44 * min(paper.width_m, paper.height_m) * 100.0
        tip = middle + reach * way * (1.0, -1.0)
        ray = (float(middle[0]), float(middle[1]), round(float(tip[0]), 1), round(float(tip[1]), 1))
    return SunOnPlan(
        patches=tuple(
            (paper.path(each.outline_m), f"{each.name}: {display.area(each.area_m2, g.units)} of sun")
            for each in patches
        ),
        walls=tuple(
            (paper.path(each.ends_m, is_closed=False), f"{each.name}: on wall {each.wall + 1}") for each in walls
        ),
        ray=ray,
    )
