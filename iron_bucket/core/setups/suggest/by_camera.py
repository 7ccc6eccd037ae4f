"""Single changes to camera, windows and hour that may meet a target."""

import math
from collections.abc import Iterator
from dataclasses import replace
from datetime import datetime, timedelta

import numpy as np

from iron_bucket.core.quantities import display
from iron_bucket.core.scene.fineness import SET
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.scene.scene import SceneLamp
from iron_bucket.core.setups.evaluate.ladder import RungKind, ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.plan.changes import Change, Operation, added, changed, next_id, set_look, set_piece
from iron_bucket.core.setups.plan.setup import LEAST_FILM_STOPS, MOST_FILM_STOPS, WindowFilm
from iron_bucket.core.setups.plan.written import hundredth, tenth_deg
from iron_bucket.core.setups.scene.build_scene import LightKind, build_scene
from iron_bucket.core.setups.suggest.shortfall import WORTH_SHARE, Hand, Proposal, Shortfall, Sketch
from iron_bucket.core.typical import typical

#: Steps are thirds of a stop, but for what custom rounds.
_HALF_A_STEP = 0.2
_MOST_ND_STOPS = 10.0


def _camera(miss: Shortfall) -> Iterator[Sketch]:
    """Stop, ISO and ND move every mark alike, in the steps that they have."""
    look, stops = miss.setup.look, miss.miss_stops
    t_stop = _marked("t_stop", look.t_stop * 2.0 ** (stops / 2.0), stops_a_doubling=2.0)
    if t_stop not in (None, look.t_stop):
        yield f"{'Close' if stops > 0 else 'Open'} to T{t_stop:g}", (set_look(t_stop=t_stop),)
    iso = _marked("iso", look.iso * 2.0**-stops)
    if iso not in (None, look.iso):
        yield f"ISO {iso:g}", (set_look(iso=iso),)
    nd_stops = float(round(look.nd_stops + stops))
    if 0.0 <= nd_stops <= _MOST_ND_STOPS and nd_stops != look.nd_stops:
        yield f"{display.stops(nd_stops, signed=False)} of ND at the lens", (set_look(nd_stops=nd_stops),)


def _marked(name: str, wanted: float, stops_a_doubling: float = 1.0) -> float | None:
    """The nearest step of a dial; None where it goes not so far."""
    off, step = min((abs(math.log2(step / wanted)) * stops_a_doubling, step) for step in typical("camera_steps")[name])
    return float(step) if off <= _HALF_A_STEP else None


def _films(miss: Shortfall) -> Iterator[Sketch]:
    """ND film on a window that is too bright or lights too much, and less of it where that is too dark."""
    on = {each.opening_id: each for each in miss.setup.films}
    for at, light in enumerate(miss.lit.built.lights):
        if light.kind is not LightKind.DAY or isinstance(light.light, SceneLamp):
            continue
        if miss.rung.kind is RungKind.WINDOW:
            if light.light_id != miss.rung.mark_id:
                continue
            stops = miss.miss_stops
        else:
            given = float(miss.lit.by_light_lx[at, miss.place])
            needed = miss.needed_lx(given)
            if min(given, needed) <= 0.0:
                continue
            stops = math.log2(given / needed)
        before = on[light.light_id].stops if light.light_id in on else 0.0
        whole = hundredth(before + stops)
        if not LEAST_FILM_STOPS <= whole <= MOST_FILM_STOPS:
            continue
        if light.light_id in on:
            yield (
                f"{display.stops(whole, signed=False)} of film on {light.name}",
                (set_piece("films", on[light.light_id].piece_id, stops=whole),),
            )
        elif light.light_id != "sky":
            film = WindowFilm(piece_id=next_id(miss.setup, "film"), opening_id=light.light_id, stops=whole)
            yield f"{display.stops(stops, signed=False)} of film on {light.name}", (added("films", film),)


def _turned(miss: Shortfall) -> Iterator[Sketch]:
    """A window that clips may be left out of the picture."""
    if miss.rung.kind is not RungKind.WINDOW or miss.factor >= 1.0:
        return
    bearing = miss.setup.camera.bearing_deg
    for turn in (5.0, 10.0, 15.0, 20.0, 25.0, 30.0):
        for way, word in ((turn, "right"), (-turn, "left")):
            changes = (
                Change(operation=Operation.SET, where="camera", to={"bearing_deg": tenth_deg((bearing + way) % 360.0)}),
            )
            built = build_scene(changed(miss.setup, changes), miss.lit.built.surroundings, miss.gear, miss.rules)
            seen = ladder_of(LitScene(built=built, banded=miss.lit.banded), miss.rules.receptor)
            if seen.rung(miss.rung.mark_id) is None:
                yield f"Turn the camera {turn:.0f}° {word}: {miss.rung.name} leaves the picture", changes
                return


def _hours(miss: Shortfall) -> Iterator[Sketch]:
    """The same day at another hour, where daylight decides: the nearest that would do, by the light straight from sky
    and sun.
    """
    now = miss.lit.built
    by_day = np.array([light.kind is LightKind.DAY for light in now.lights])
    if not by_day.any():
        return
    if miss.rung.kind is not RungKind.WINDOW:
        share = float(miss.lit.by_light_lx[by_day, miss.place].sum()) / max(float(miss.lit.total_lx[miss.place]), 1e-9)
        if share < WORTH_SHARE:
            return
    sun_now = now.surroundings.sun(miss.setup.when).altitude_deg
    for when in other_hours(miss.setup.when):
        changes = (Change(operation=Operation.SET, where="setup", to={"when": when}),)
        if _would_do(miss, changes):
            sun = now.surroundings.sun(when).altitude_deg
            yield f"At {when:%H:%M}, the sun {sun:.0f}° high in place of {sun_now:.0f}°", changes
            return


def other_hours(now: datetime) -> list[datetime]:
    """Every half hour of that day from five to ten at night but its own, nearest first."""
    midnight = now.replace(hour=0, minute=0)
    hours = (midnight + timedelta(minutes=minutes) for minutes in range(5 * 60, 22 * 60 + 30, 30))
    return sorted((when for when in hours if when != now), key=lambda when: abs(when - now))


def _would_do(miss: Shortfall, changes: tuple[Change, ...]) -> bool:
    """Whether another hour meets the target, with what comes off the walls taken to follow what comes straight."""
    built = build_scene(changed(miss.setup, changes), miss.lit.built.surroundings, miss.gear, miss.rules)
    if miss.rung.kind is RungKind.WINDOW:
        rung = ladder_of(
            LitScene(built=built, banded=(unit_response(replace(built.scene, rooms=()), fineness=SET),)),
            miss.rules.receptor,
        ).rung(miss.rung.mark_id)
        return rung is not None and not rung.is_missed
    marks = (miss.lit.built.marks[miss.place].mark,)
    now, then = (
        float(each.levels @ unit_response(replace(each.scene, marks=marks, rooms=()), fineness=SET).whole_lx[:, 0])
        for each in (miss.lit.built, built)
    )
    if min(now, then) <= 0.0 or miss.rung.target is None:
        return False
    return abs(miss.miss_stops + math.log2(then / now)) <= miss.rung.target.tolerance


_MAKERS = ((Hand.LENS, _camera), (Hand.FILM, _films), (Hand.TURN, _turned), (Hand.WAIT, _hours))


def by_camera_and_day(miss: Shortfall) -> Iterator[Proposal]:
    """Stop, ISO and ND; film on a window; the camera turned; another hour."""
    for hand, make in _MAKERS:
        yield from (Proposal.of(sketch, hand) for sketch in make(miss))
