"""Day for night: a pass shot by day so that it reads as night."""

import math
from dataclasses import dataclass, replace
from datetime import datetime

import numpy as np

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.colour.white import mired_and_duv, uv_from_xyz
from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.mired import k_from_mired
from iron_bucket.core.setups.evaluate.ladder import Ladder, Rung, RungKind, ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import LitScene, ResponseFor, lit
from iron_bucket.core.setups.evaluate.mark_colours import xyz_at_marks
from iron_bucket.core.setups.plan.changes import Change, Operation, changed, set_look, set_piece
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.core.typical import typical


@dataclass(frozen=True, slots=True, kw_only=True)
class NightRung:
    """A mark before and after, in stops."""

    name: str
    was: float
    now: float


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class DayForNight:
    """``steps``: what is done, in words; ``rungs``: where each mark lands; ``cautions``: what gives the day away."""

    at: datetime
    steps: tuple[str, ...]
    changes: tuple[Change, ...]
    rungs: tuple[NightRung, ...]
    cautions: tuple[str, ...]


def day_for_night(now: LitScene, at: datetime, gear: Gear, rules: HouseRules, response_for: ResponseFor) -> DayForNight:
    """Underexposed, cooled, and what is a lamp in the picture up. Typical: two stops under, 60 mired cool. Raises:
    NoAnswer where nobody and nothing is lit.
    """
    setup = now.built.setup
    late = lit(build_scene(replace(setup, when=at), now.built.surroundings, gear, rules), response_for)
    ladder = ladder_of(late, rules.receptor)
    rung = _brightest_key(ladder)
    if rung is None:
        raise NoAnswer("Nobody and nothing in this set-up has light to be made night of.")
    table = typical("day_for_night")
    close = rung.stops + float(table["under_stops"])
    look, step = _closed(late, close)
    cooled, cool_step = _cooled(late, rung, float(table["cool_mired"]))
    practicals, lamp_steps, short = _practicals(late, close)
    changes = (
        Change(operation=Operation.SET, where="setup", to={"when": at, "house_off": ()}),
        set_look(**look, **cooled),
        *practicals,
    )
    after = changed(setup, changes)
    then = ladder_of(lit(build_scene(after, now.built.surroundings, gear, rules), response_for), rules.receptor)
    on_again = [each.name for each in now.built.surroundings.place.house_lamps if each.lamp_id in setup.house_off]
    return DayForNight(
        at=at,
        steps=(step, cool_step, *lamp_steps, *(f"{name} on" for name in on_again)),
        changes=changes,
        rungs=tuple(
            NightRung(name=each.name, was=old.stops, now=each.stops)
            for each in then.rungs
            if (old := ladder.rung(each.mark_id)) is not None
        ),
        cautions=(*short, *_given_away(then, float(table["sky_stops"]))),
    )


def _brightest_key(ladder: Ladder) -> Rung | None:
    """Of the faces; without any, of everything."""
    lit_ones = [rung for rung in ladder.rungs if rung.kind is not RungKind.WINDOW]
    keys = [rung for rung in lit_ones if rung.kind is RungKind.FACE and rung.mark_id.endswith(".key")]
    return max(keys or lit_ones, key=lambda rung: rung.stops, default=None)


def _closed(late: LitScene, stops: float) -> tuple[dict[str, float], str]:
    """By whole stops of ND at the lens: the picture keeps its depth; what is left by the stop of the lens."""
    look = late.built.setup.look
    nd = min(max(float(round(look.nd_stops + stops)), 0.0), float(typical("day_for_night")["most_nd_stops"]))
    t_stop = look.t_stop * 2.0 ** ((stops - (nd - look.nd_stops)) / 2.0)
    nearest = min(typical("camera_steps")["t_stop"], key=lambda each: abs(math.log2(each / t_stop)))
    words = f"{display.stops(nd, signed=False)} of ND at the lens, T{nearest:g}"
    return {"nd_stops": nd, "t_stop": float(nearest)}, f"{words}: {display.stops(stops, signed=False)} closed in all"


def _cooled(late: LitScene, rung: Rung, cool_mired: float) -> tuple[dict[str, float], str]:
    """White balance so much warmer than the light on the face that this reads as cool."""
    place = late.place_of(rung.mark_id)
    xyz = xyz_at_marks(late).sum(axis=0)[place]
    mired = float(mired_and_duv(uv_from_xyz(np.maximum(xyz, 1e-6)))[0])
    if math.isnan(mired):
        return {}, "White balance as it is: the light is no shade of white"
    balance_k = round(float(k_from_mired(mired + cool_mired)), -1)
    return {"white_balance_k": balance_k, "white_balance_duv": 0.0}, (
        f"White balance {balance_k:.0f} K: the face reads {cool_mired:.0f} mired cool"
    )


def _practicals(late: LitScene, close: float) -> tuple[list[Change], list[str], list[str]]:
    """Up by as much as the picture is closed, as far as they go."""
    changes, steps, short = [], [], []
    for placed in late.built.setup.lamps:
        if not placed.is_practical or not placed.is_on or placed.is_locked:
            continue
        wanted = placed.level * 2.0**close
        level = round(min(wanted, 1.0), 4)
        changes.append(set_piece("lamps", placed.piece_id, level=level))
        steps.append(f"{placed.name} up to {display.share(level)}")
        if wanted > 1.0:
            left = display.stops(math.log2(wanted / level), signed=False)
            short.append(f"{placed.name} at full is {left} less than it was in the picture: a brighter globe")
    return changes, steps, short


def _given_away(then: Ladder, sky_stops: float) -> list[str]:
    """Windows that are still as bright as day."""
    return [
        f"{rung.name} reads {display.stops(rung.stops)}: out of the picture, or film on it till it is under"
        f" {display.stops(sky_stops)}"
        for rung in then.rungs
        if rung.kind is RungKind.WINDOW and rung.stops > sky_stops
    ]
