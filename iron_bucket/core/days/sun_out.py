"""What keeps the sun off a mark from a minute on: flags and nets in its way, film on the window that it comes by."""

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from datetime import datetime

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.flag import FlagKind
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.daylight.sky import Weather
from iron_bucket.core.days.continuity import MatchSheet, match_sheet
from iron_bucket.core.days.sun_patches import sunny_panes
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.place import LONGEST_NAME
from iron_bucket.core.quantities import display
from iron_bucket.core.scene.blocking import crosses
from iron_bucket.core.scene.scene import SceneLamp
from iron_bucket.core.scene.sunlight import is_sun
from iron_bucket.core.setups.evaluate.ladder import Rung, RungKind, ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import DARK_LX, LitScene, ResponseFor, lit
from iron_bucket.core.setups.plan.camera_view import in_view
from iron_bucket.core.setups.plan.changes import Change, Operation, added, changed, next_id, set_piece
from iron_bucket.core.setups.plan.setup import LEAST_FILM_STOPS, MOST_FILM_STOPS, PlacedFlag, WindowFilm
from iron_bucket.core.setups.plan.written import hundredth, placed_m, turned_deg
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.core.setups.sheet.clearance import flat_points_m
from iron_bucket.core.setups.suggest.fix import Before, Fix, tried
from iron_bucket.core.setups.suggest.shortfall import Hand, Proposal, Shortfall

#: The sun counts where it gives so much of a mark's light.
COUNTS = 0.2
#: Towards the sun from the mark, till the picture is clear of it.
_BEFORE_M = (0.6, 0.9, 1.2, 1.8, 2.4, 3.2)
#: From a hand flag to a floor-standing one.
_SIZES_M = ((0.6, 0.9), (1.2, 1.2))
_KINDS = {FlagKind.SOLID: "A flag", FlagKind.DOUBLE_NET: "A double net", FlagKind.SINGLE_NET: "A single net"}
_FILMS_STOPS = (1.0, 2.0, 3.0)
#: Less than that keeps nothing out; so many are followed in full.
_LEAST_STOPS, MOST_SHADES = 0.05, 5
#: No wall of a set is farther than the sun's ray is followed.
_FAR_M = 200.0


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Shade:
    """One way to keep it out: ``off_stops`` of what is wanted there, ``match``: how well it cuts with the planned
    shot.
    """

    fix: Fix
    changes: tuple[Change, ...]
    off_stops: float
    match: MatchSheet


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SunOut:
    """``name``: the mark that the sun falls on ``at`` that time, ``sun_stops`` brighter than without it; ``shades``:
    what is nearest to what is wanted first.
    """

    name: str
    at: datetime
    stops: float
    sun_stops: float
    shades: tuple[Shade, ...]


def sun_out(
    now: LitScene,
    at: datetime,
    gear: Gear,
    rules: HouseRules,
    response_for: ResponseFor,
    *,
    bucket: Mapping[str, int] | None = None,
) -> SunOut | None:
    """``now``: the set-up at the hour that it is planned for. None where not even a clear sun falls on anybody or
    anything then.
    """
    setup = now.built.setup
    there = replace(setup, when=at, weather=Weather.CLEAR)
    late = lit(build_scene(there, now.built.surroundings, gear, rules), response_for)
    found = _sunlit(late, rules)
    if found is None:
        return None
    rung, share = found
    was = ladder_of(now, rules.receptor).rung(rung.mark_id)
    wanted = rung.target.stops if rung.target else was.stops if was else rung.stops
    miss = Shortfall(
        lit=late,
        rung=replace(rung, target=None),
        gear=gear,
        rules=rules,
        response_for=response_for,
        bucket=bucket or {},
    )
    before, moved = (
        Before.of(miss),
        Change(operation=Operation.SET, where="setup", to={"when": at, "weather": there.weather}),
    )
    ways = [tried(before, each) for each in (*_flags(miss), *_films(miss, rung.stops - wanted))]
    nearest = sorted(
        (fix for fix in ways if fix is not None and fix.stops < rung.stops - _LEAST_STOPS),
        key=lambda fix: abs(fix.stops - wanted),
    )
    shades = []
    for fix in nearest[:MOST_SHADES]:
        after = changed(there, fix.changes)
        then = lit(build_scene(after, now.built.surroundings, gear, rules), response_for)
        sheet = match_sheet(now, then)
        shades.append(Shade(fix=fix, changes=(moved, *fix.changes), off_stops=fix.stops - wanted, match=sheet))
    return SunOut(
        name=rung.name, at=at, stops=rung.stops, sun_stops=-math.log2(max(1.0 - share, DARK_LX)), shades=tuple(shades)
    )


def _sunlit(late: LitScene, rules: HouseRules) -> tuple[Rung, float] | None:
    """The first face, else the first of all, that the sun gives much of its light; and how much."""
    share = sun_share(late)
    rungs = [rung for rung in ladder_of(late, rules.receptor).rungs if rung.kind is not RungKind.WINDOW]
    places = [(rung, late.place_of(rung.mark_id)) for rung in rungs]
    sunny = [(rung, float(share[place])) for rung, place in places if place is not None and share[place] > COUNTS]
    asked = [each for each in sunny if each[0].target is not None]
    faces = [each for each in sunny if each[0].kind is RungKind.FACE]
    return next(iter((*asked, *faces, *sunny)), None)


def sun_share(late: LitScene) -> Array:
    """Of the light at each mark, what the sun's own beam gives. Shape (M,)."""
    rows = [at for at, light in enumerate(late.built.lights) if _is_sun(light.light)]
    straight = (late.built.levels[rows, None] * late.response.direct_lx[rows]).sum(axis=0)
    return np.asarray(straight / np.maximum(late.total_lx, DARK_LX))


def _is_sun(light: object) -> bool:
    return isinstance(light, SceneLamp) and is_sun(light)


def _towards(miss: Shortfall) -> Array:
    """The way to the sun, of length 1. Shape (3,)."""
    sun = next(light.light for light in miss.lit.built.lights if _is_sun(light.light))
    return -sun.aim  # type: ignore[union-attr]


def _flags(miss: Shortfall) -> Iterator[Proposal]:
    """Square to the sun, as near as the picture lets it stand, in the room that the mark is in."""
    mark, towards = miss.lit.built.marks[miss.place], _towards(miss)
    around = miss.lit.built.surroundings
    room = around.room_at(*mark.mark.position_m[:2].tolist())
    for kind, words in _KINDS.items():
        for width_m, height_m in _SIZES_M:
            places = (mark.mark.position_m + far * towards for far in _BEFORE_M)
            flags = (_flag(miss, kind, width_m, height_m, place) for place in places)
            clear = (
                flag for flag in flags if around.room_at(flag.x_m, flag.y_m) == room and not _is_in_picture(miss, flag)
            )
            flag = next(clear, None)
            if flag is None:
                continue
            size = f"{display.length(width_m, miss.units)} × {display.length(height_m, miss.units)}"
            high = display.length(flag.z_m, miss.units)
            yield Proposal(
                text=f"{words} of {size} before {mark.name}, its middle {high} up",
                changes=(added("flags", flag),),
                hand=Hand.FLAG,
            )
            break


def _flag(miss: Shortfall, kind: FlagKind, width_m: float, height_m: float, place_m: Array) -> PlacedFlag:
    return PlacedFlag(
        piece_id=next_id(miss.setup, "flag"),
        name=f"Sun off {miss.lit.built.marks[miss.place].name}"[:LONGEST_NAME],
        width_m=width_m,
        height_m=height_m,
        kind=kind,
        **placed_m(place_m),
        **turned_deg(-_towards(miss)),
    )


def _is_in_picture(miss: Shortfall, flag: PlacedFlag) -> bool:
    return bool(in_view(miss.setup.camera, miss.setup.look, flat_points_m(flag, miss.gear)).any())


def _films(miss: Shortfall, over_stops: float) -> Iterator[Proposal]:
    """ND on the pane that the sun comes by: in whole sheets, and as much as is too bright."""
    mark = miss.lit.built.marks[miss.place].mark.position_m
    start, on = mark + _FAR_M * _towards(miss), {each.opening_id: each for each in miss.setup.films}
    panes = sunny_panes(miss.lit.built.surroundings, _towards(miss))
    by = next((each for each in panes if crosses(mark[None], start[None], each[1].panel).any()), None)
    if by is None:
        return
    _, pane, opening_id, name = by
    before = on[opening_id].stops if opening_id in on else 0.0
    for stops in sorted({*_FILMS_STOPS, hundredth(max(over_stops, 0.0))}):
        whole = hundredth(before + stops)
        if stops and LEAST_FILM_STOPS <= whole <= MOST_FILM_STOPS:
            area = display.area(pane.panel.width_m * pane.panel.height_m, miss.units)
            film = WindowFilm(piece_id=next_id(miss.setup, "film"), opening_id=opening_id, stops=whole)
            put = set_piece("films", on[opening_id].piece_id, stops=whole) if opening_id in on else added("films", film)
            yield Proposal(
                text=f"{display.stops(stops, signed=False)} of film on {name}, {area}", changes=(put,), hand=Hand.FILM
            )
