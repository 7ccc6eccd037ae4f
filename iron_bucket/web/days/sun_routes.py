"""The sun over the plan of a set-up's place, minute by minute: its patches, its height, the moon."""

import re
from dataclasses import dataclass
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
from flask import g, render_template, request

from iron_bucket.core.daylight.moon import MoonPosition, moon_position
from iron_bucket.core.daylight.sky import Weather
from iron_bucket.core.days.day_plan import clock_min
from iron_bucket.core.days.sun_patches import SunPatch, WallPatch, sun_patches, wall_patches
from iron_bucket.core.errors import BadValue
from iron_bucket.core.places.bearing import along_bearing
from iron_bucket.core.places.plane_light import plane_light
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.quantities import display
from iron_bucket.desk.days.thrown_sun import DRIFT_DEG, thrown_sun
from iron_bucket.desk.days.view import open_days
from iron_bucket.web.days.blueprint import bp
from iron_bucket.web.days.insurance_routes import day_of_pass
from iron_bucket.web.shared.in_words import in_words
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.pictures.plan import Paper, paper_for, place_picture, place_points
from iron_bucket.web.shared.request_session import person_id

#: Heights that a patch is looked at: the floor, a table, a face that sits.
HEIGHTS = {"floor": 0.0, "table": 0.75, "face": 1.25}
_SHOWN_PX, _MOST_PX = 760.0, 560.0
_WAY_STEP = timedelta(minutes=15)


@dataclass(frozen=True, slots=True, kw_only=True)
class SunOnPlan:
    """``patches``: outlines in units of the paper, with words; ``walls``: lines along walls; ``ray``: towards the sun,
    from the middle of the plan. ``way``: of the sun through the day over the plan, the zenith in its middle and the
    horizon round it, ``hours`` along it.
    """

    patches: tuple[tuple[str, str], ...]
    walls: tuple[tuple[str, str], ...]
    ray: tuple[float, float, float, float] | None
    way: str
    hours: tuple[tuple[float, float, str], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """What the form asks besides the minute: a face by its bearing on the plan and its tilt, and how far boards
    bend.
    """

    face: float = 0.0
    tilt: float = 90.0
    bend: float = 0.0


#: The least and the most of each angle.
_ANGLES = {"face": (0.0, 360.0), "tilt": (-90.0, 90.0), "bend": (0.0, 20.0)}


@bp.get("/sun")
def sun(job_id: int) -> tuple[str, int]:
    """A minute of the day of a pass, on the plan of its place. An angle that is none is told beside the others'
    work.
    """
    view = open_days(g.session, person_id(), job_id)
    g.job, g.units = view.power.job, view.power.rules.units
    one, setup_id = day_of_pass(view, whole_number(request.args.get("setup")))
    each = next(each for each in one.passes if each.of.setup_id == setup_id)
    around, setup = view.power.surroundings(each.of), each.of.setup
    minute = _minute(one.minute(setup.when))
    plane = request.args.get("plane", "floor")
    if plane not in HEIGHTS:
        raise BadValue("plane", repr(plane), ", ".join(HEIGHTS))
    asked, bad = _asked()
    when = one.midnight + timedelta(minutes=minute)
    standing = around.sun(when)
    paper = paper_for(place_points(around), shown_px=_SHOWN_PX, most_px=_MOST_PX)
    people = [(person.name, *paper.at(person.x_m, person.y_m)) for person in setup.people]
    gear, rules = view.power.gear, view.power.rules
    boards = thrown_sun(setup, around, when, one.midnight, gear, rules, bends_deg=asked.bend)
    page = render_template(
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
        asked=asked,
        bad=in_words(bad) if bad else "",
        bad_field=bad.field if bad else "",
        typed=request.args,
        planes_lit=[plane_light(around, when, weather, asked.face, asked.tilt) for weather in Weather],
        shown=_on_plan(around, paper, when, HEIGHTS[plane]),
    )
    return page, 422 if bad else 200


def _asked() -> tuple[Asked, BadValue | None]:
    """The angles of the address, usual ones where nothing is said; and the first that is none."""
    found, bad = {}, None
    for name, (low, high) in _ANGLES.items():
        text = request.args.get(name, "").strip()
        plain = text.replace("\u2212", "-").replace(",", ".")
        if plain and re.fullmatch(r"-?\d{1,3}(\.\d{1,3})?", plain) and low <= float(plain) <= high:
            found[name] = float(plain)
        elif text:
            bad = bad or BadValue(name, repr(text), f"{low:g} to {high:g} degrees".replace("-", "\u2212"))
    return Asked(**found), bad


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


def _on_plan(around: Surroundings, paper: Paper, when: datetime, height_m: float) -> SunOnPlan:
    standing = around.sun(when)
    patches: tuple[SunPatch, ...] = sun_patches(around, standing, height_m)
    walls: tuple[WallPatch, ...] = wall_patches(around, standing)
    midnight = datetime.combine(when.date(), datetime.min.time())
    times = [midnight + _WAY_STEP * step for step in range(int(timedelta(days=1) / _WAY_STEP) + 1)]
    places = [(at, _over_plan(around, paper, at)) for at in times]
    up = [(at, place) for at, place in places if place is not None]
    here, middle = _over_plan(around, paper, when), _middle(around, paper)
    return SunOnPlan(
        patches=tuple(
            (paper.path(each.outline_m), f"{each.name}: {display.area(each.area_m2, g.units)} of sun")
            for each in patches
        ),
        walls=tuple(
            (paper.path(each.ends_m, is_closed=False), f"{each.name}: on wall {each.wall + 1}") for each in walls
        ),
        ray=(*middle, *here) if here else None,
        way="M" + "L".join(f"{x} {y}" for _, (x, y) in up) if len(up) > 1 else "",
        hours=tuple((x, y, f"{at:%-H}") for at, (x, y) in up if at.minute == 0),
    )


def _middle(around: Surroundings, paper: Paper) -> tuple[float, float]:
    x, y = paper.at(*place_points(around).mean(axis=0))
    return round(float(x), 1), round(float(y), 1)


def _over_plan(around: Surroundings, paper: Paper, when: datetime) -> tuple[float, float] | None:
    """Where the sun stands, as far out from the middle as it is from the zenith; None under the horizon."""
    standing = around.sun(when)
    if standing.altitude_deg <= 0.0:
        return None
    reach = 0.46 * min(paper.width_m, paper.height_m) * 100.0 * (90.0 - standing.altitude_deg) / 90.0
    x, y = _middle(around, paper)
    east, north = along_bearing(around.sun_bearing_deg(standing))[:2]
    return round(x + reach * float(east), 1), round(y - reach * float(north), 1)
