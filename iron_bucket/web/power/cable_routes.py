"""Leads of one pass: where they lie on the plan, which they are, what they lose."""

from dataclasses import dataclass

import numpy as np
import shapely
from flask import g, render_template, request

from iron_bucket.core.bench.cable import Cable
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.job.cable_plan import CablePlan
from iron_bucket.core.power.job.shooting_day import JobPass
from iron_bucket.core.power.lead_choice import Verdict
from iron_bucket.desk.power.view import PowerView, open_power
from iron_bucket.web.power.blueprint import bp
from iron_bucket.web.shared.letters import letters_of
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.pictures.plan import PlacePicture, paper_for, place_picture, place_points
from iron_bucket.web.shared.request_session import person_id

_PLAN_PX, _PLAN_HIGH_PX, _INSIDE_M = 760.0, 420.0, 0.1


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnLead:
    """A lead as a line on the plan, and its load's sign at the end."""

    path: str
    x: float
    y: float
    letter: str
    name: str
    is_refused: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class LeadsPicture:
    """The place with all leads of a pass."""

    place: PlacePicture
    leads: tuple[DrawnLead, ...]


@bp.get("/leads")
def cables(job_id: int) -> str:
    """Of one pass, the first where none is named."""
    view = open_power(g.session, person_id(), job_id)
    g.job, g.units = view.job, view.job.rules.units
    each = view.pass_of(whole_number(request.args.get("pass")))
    if each is None:
        return render_template("power/cables.html", view=view, each=None, here="cables")
    plan = view.leads(each)
    items = [(view.gear.by_slug(Cable, slug), count) for slug, count in sorted(plan.pieces.items())]
    return render_template(
        "power/cables.html",
        view=view,
        each=each,
        here="cables",
        plan=plan,
        picture=_picture(view, each, plan),
        letters=dict.fromkeys((run.load.load_id for run in plan.runs), "") | letters_of(each.setup, view.gear),
        items=items,
        place=view.surroundings(each).place,
        verdicts=Verdict,
    )


def _picture(view: PowerView, each: JobPass, plan: CablePlan) -> LeadsPicture:
    around, letters = view.surroundings(each), letters_of(each.setup, view.gear)
    points = [place_points(around), *(np.array(run.way.points) for run in plan.runs)]
    paper = paper_for(np.concatenate(points), shown_px=_PLAN_PX, most_px=_PLAN_HIGH_PX)
    spots = [paper.at(run.load.x_m, run.load.y_m) for run in plan.runs]
    return LeadsPicture(
        place=place_picture(around, paper, g.units, spots),
        leads=tuple(
            DrawnLead(
                path=paper.path(_off_the_walls(around, run.way.points), is_closed=False),
                x=x,
                y=y,
                letter=letters.get(run.load.load_id, ""),
                name=run.load.name,
                is_refused=run.choice is None,
            )
            for run, (x, y) in zip(plan.runs, spots, strict=True)
        ),
    )


def _off_the_walls(around: Surroundings, points: tuple[tuple[float, float], ...]) -> np.ndarray:
    """Drawn a hand's breadth inside the walls that they lie along. Shape (N, 2)."""
    insets = [(shape.outline.exterior, shape.outline.buffer(-_INSIDE_M).exterior) for shape in around.rooms]
    found = []
    for point in points:
        near = [inset for wall, inset in insets if wall.distance(shapely.Point(point)) < _INSIDE_M]
        is_on_one = len(near) == 1 and not near[0].is_empty  # a doorway is on the walls of two rooms
        at = near[0].interpolate(near[0].project(shapely.Point(point))) if is_on_one else shapely.Point(point)
        found.append((at.x, at.y))
    return np.array(found)
