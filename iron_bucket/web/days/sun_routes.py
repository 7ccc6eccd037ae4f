"""The sun over the plan of a set-up's place, minute by minute: its patches, its height, the moon."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
from flask import g, render_template, request

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.daylight.moon import MoonPosition, moon_position
from iron_bucket.core.daylight.sun import SunPosition
from iron_bucket.core.days.day_plan import clock_min
from iron_bucket.core.days.reflector import Aim, Reflector, aimed, lasts, reaches
from iron_bucket.core.days.sun_patches import SunPatch, WallPatch, sun_patches, wall_patches
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.kinds import Board
from iron_bucket.core.modifiers.lobe import MIRROR_DEG
from iron_bucket.core.places.bearing import along_bearing
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.job.shooting_day import TimedPass
from iron_bucket.core.quantities import display
from iron_bucket.core.scene.blocking import passing
from iron_bucket.core.scene.sunlight import SUN_AT_M, beam_lx
from iron_bucket.core.setups.scene.build_scene import position_of
from iron_bucket.desk.days.view import OneDay, open_days
from iron_bucket.web.days.blueprint import bp
from iron_bucket.web.days.insurance_routes import day_of_pass
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.pictures.plan import Paper, paper_for, place_picture, place_points
from iron_bucket.web.shared.request_session import person_id
from iron_bucket.web.shared.signed_in import signed_in

#: A board is aimed anew when what it throws has drifted so far; wider lobes throw no beam to speak of.
DRIFT_DEG, _WIDEST_DEG = 2.0, 45.0
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
        boards=tuple(_boards(one, each, around, when, view.power.gear)),
        drift_deg=DRIFT_DEG,
        shown=_on_plan(around, paper, standing, HEIGHTS[plane]),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class ThrownSun:
    """A board of the set-up: at whom it can throw the sun, how it is aimed then, for how long, and when it can at
    all.
    """

    name: str
    mark: str
    aim: Aim | None
    lasts_min: float
    spans: tuple[tuple[datetime, datetime], ...]


def _boards(one: OneDay, each: TimedPass, around: Surroundings, when: datetime, gear: Gear) -> Iterator[ThrownSun]:
    """Boards that throw a beam, at the first person; matt ones throw none."""
    setup = each.of.setup
    person = next(iter(setup.people), None)
    for placed in setup.frames:
        board = gear.find(Board, placed.board)
        if board is None or person is None or board.lobe_deg > _WIDEST_DEG:
            continue
        reflector = Reflector(
            at_m=position_of(placed),
            mark_m=position_of(person),
            width_m=board.width_m,
            height_m=board.height_m,
            reflectance=board.reflectance.value,
            spread_deg=0.0 if board.lobe_deg < MIRROR_DEG else board.lobe_deg,
        )

        def towards(at: datetime) -> Array:
            there = around.sun(at)
            return along_bearing(around.sun_bearing_deg(there), there.altitude_deg)

        def reaching_lx(at: datetime, place: Array = reflector.at_m) -> float:
            beam = around.sun_light(at, setup.weather)
            far = SUN_AT_M * towards(at)
            seen = passing(far[None], place[None], around.laid_walls)[0, 0]
            return beam_lx(beam.light) * float(seen) if beam else 0.0

        reaching = reaching_lx(when)
        aim = aimed(reflector, towards(when), reaching) if reaching else None
        yield ThrownSun(
            name=placed.name,
            mark=person.name,
            aim=aim,
            lasts_min=lasts(reflector, when, towards, DRIFT_DEG).total_seconds() / 60.0 if aim else 0.0,
            spans=reaches(
                reflector, [one.midnight + timedelta(minutes=10 * step) for step in range(144)], towards, reaching_lx
            ),
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
