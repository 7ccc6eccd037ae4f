"""Generators of a job: what they bear, in which order lamps start, what they burn, how loud they are where."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from contourpy import contour_generator
from flask import g, render_template, request

from iron_bucket.core.power.job.generator_day import loudness_dba, start_order
from iron_bucket.core.power.job.load_board import CircuitBar
from iron_bucket.core.power.job.shooting_day import JobPass
from iron_bucket.core.power.strike_order import StrikeOrder
from iron_bucket.desk.power.generators import GeneratorView, generators_of
from iron_bucket.desk.power.view import PowerView, open_power
from iron_bucket.web.power.blueprint import bp
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.pictures.plan import CM, PlacePicture, paper_for, place_picture, place_points
from iron_bucket.web.shared.request_session import person_id

_PLAN_PX, _PLAN_HIGH_PX = 760.0, 420.0
#: The sheet reaches as far as this beyond everything, because generators are put away.
_AROUND_M = 12.0
_GRID = 90


@dataclass(frozen=True, slots=True, kw_only=True)
class SoundPicture:
    """The place with a generator: ``lines`` where its noise at the loudest microphone is the place's limit, ``said``:
    where that is told; ``heard``: where it is listened.
    """

    place: PlacePicture
    x: float
    y: float
    lines: tuple[str, ...]
    said: tuple[float, float] | None
    heard: tuple[tuple[float, float], ...]


@bp.get("/generators")
def generators(job_id: int) -> str:
    """All of the job, and the order of starts of one pass."""
    view = open_power(g.session, person_id(), job_id)
    g.job, g.units = view.job, view.job.rules.units
    each = view.pass_of(whole_number(request.args.get("pass")))
    found = generators_of(view)
    return render_template(
        "power/generators.html",
        view=view,
        each=each,
        here="generators",
        generators=[(one, _picture(one)) for one in found],
        orders=list(_orders(view, each)) if each else [],
        restrikes=_restrikes(view, each) if each else {},
    )


def _orders(view: PowerView, each: JobPass) -> Iterator[tuple[CircuitBar, StrikeOrder, dict[str, str]]]:
    """Of every circuit with a load whose start is more than what it draws, and the names of those."""
    for bar in view.boards[each.setup_id].bars:
        if any(load.jump_va for load in bar.loads):
            jumping = {load.load_id: load.name for load in bar.loads if load.jump_va}
            yield bar, start_order(bar), jumping


def _restrikes(view: PowerView, each: JobPass) -> dict[str, float]:
    """Minutes that a hot lamp waits before it strikes again, by load; 0 for one that does not."""
    loads = view.boards[each.setup_id].loads
    return {load.load_id: load.head.restrike_min if load.head else 0.0 for load in loads}


def _picture(one: GeneratorView) -> SoundPicture:
    spot, heard = np.array([[one.generator.x_m, one.generator.y_m]]), one.heard_at_m
    around = np.concatenate([place_points(one.surroundings), spot, heard])
    low, high = around.min(axis=0), around.max(axis=0)
    paper = paper_for(
        np.concatenate([around, [low - _AROUND_M, high + _AROUND_M]]), shown_px=_PLAN_PX, most_px=_PLAN_HIGH_PX
    )
    x = paper.left_m + np.linspace(0.0, paper.width_m, _GRID)
    y = paper.top_m - np.linspace(0.0, paper.height_m, _GRID)
    lines: list[str] = []
    said = None
    if one.level_dba is not None and one.limit_dba is not None:
        spots = np.stack(np.meshgrid(x, y), axis=-1).reshape(-1, 2)
        levels = loudness_dba(one.generator, spots, heard, one.surroundings).max(axis=1).reshape(_GRID, _GRID)
        for line in contour_generator((x - paper.left_m) * CM, (paper.top_m - y) * CM, levels).lines(one.limit_dba):
            points = np.asarray(line)
            lines.append("M" + "L".join(f"{across:.0f} {down:.0f}" for across, down in points))
            lowest = points[points[:, 1].argmax()]
            said = (round(float(lowest[0]), 1), round(float(lowest[1]), 1))
    px, py = paper.at(one.generator.x_m, one.generator.y_m)
    return SoundPicture(
        place=place_picture(one.surroundings, paper, g.units, [(px, py)]),
        x=px,
        y=py,
        lines=tuple(lines),
        said=said,
        heard=tuple(paper.at(float(at[0]), float(at[1])) for at in heard),
    )
