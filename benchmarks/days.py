"""Times days: how long the light of twenty passes holds, a minute of the sun, and the order of twenty-five set-ups.

Run: bin/benchmark days
"""

import time
from dataclasses import replace
from datetime import datetime, timedelta

import numpy as np

from benchmarks.bucket import RULES
from benchmarks.measured import median_ms
from iron_bucket.core.days.holding import holding_of
from iron_bucket.core.days.hours_of_light import hours_of_light, times_of_day
from iron_bucket.core.days.order import Day, DayRules, Shot
from iron_bucket.core.days.ordering import ordered
from iron_bucket.core.days.sun_patches import sun_patches, wall_patches
from iron_bucket.core.places.place import Place
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.scene.standing import Standing
from iron_bucket.core.setups.evaluate.ladder import ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import LitScene, fresh_response
from iron_bucket.core.setups.evaluate.responses import standing_for
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.demo.files import demo_gear, demo_places, demo_setups
from iron_bucket.desk.bounded_cache import BoundedCache
from iron_bucket.formats.change_json import with_changes
from iron_bucket.formats.record_json import read_record, write_record

PASSES, SHOTS = 20, 25


def the_demos_passes() -> list[tuple[LitScene, Standing]]:
    """Computed at their own hours, with what stands about in them, over and over until they are twenty."""
    gear = demo_gear()
    places = {row["name"]: Surroundings(read_record(Place, row)) for row in demo_places()}
    found: list[tuple[LitScene, Standing]] = []
    for wanted in demo_setups():
        document = None
        for each in wanted["passes"]:
            document = each if document is None else with_changes(document, each["changes"])
            setup = read_record(Setup, document)
            document = write_record(setup)
            built = build_scene(setup, places[wanted["place"]], gear, RULES)
            standing = standing_for(built, BoundedCache(1))
            found.append((LitScene(built=built, banded=fresh_response(built, standing)), standing))
    return (found * 2)[:PASSES]


def a_long_day(chance: np.random.Generator) -> Day:
    """Twenty-five set-ups in three places, most of them with two spans of light."""
    shots = []
    for at in range(SHOTS):
        first, second, third, last = np.sort(chance.integers(420, 1100, 4)).tolist()
        shots.append(
            Shot(
                shot_id=at,
                place_id=int(chance.integers(0, 3)),
                rig_min=int(chance.integers(5, 40)),
                shoot_min=int(chance.integers(10, 40)),
                strike_min=int(chance.integers(0, 10)),
                width=int(chance.integers(0, 3)),
                held=((first, second), (third, last)) if chance.random() < 0.7 else None,
            )
        )
    pieces = chance.integers(0, 12, (SHOTS + 1, SHOTS)).astype(float)
    return Day(shots=tuple(shots), pieces=pieces, rules=DayRules())


def a_minute(around: Surroundings, when: datetime) -> None:
    """What the plan shows of it."""
    sun = around.sun(when)
    sun_patches(around, sun)
    wall_patches(around, sun)


def main() -> None:
    """A line each."""
    gear, passes = demo_gear(), the_demos_passes()
    began = time.perf_counter()
    for lit, standing in passes:
        midnight = datetime.combine(lit.built.setup.when.date(), datetime.min.time())
        hours = hours_of_light(lit, gear, times_of_day(midnight + timedelta(hours=5), 16.0), standing)
        holding_of(hours, ladder_of(lit, RULES.receptor), RULES.receptor)
    print(f"light of {len(passes)} passes over 16 h in steps of 5 minutes: {time.perf_counter() - began:.1f} s")
    tinted = [each for each, _ in passes if any(b.tinting for b in each.built.scene.blockers)]
    print(f"{len(tinted)} of them behind tinted glass, which is followed band by band")
    around = Surroundings(read_record(Place, next(row for row in demo_places() if row["name"] == "Nursery glasshouse")))
    minutes = iter(range(8 * 60, 16 * 60))
    shown_ms = median_ms(lambda: a_minute(around, datetime(2026, 5, 20) + timedelta(minutes=next(minutes))), runs=40)
    print(f"the sun's patches of a minute, on floor and walls of the glasshouse: {shown_ms:.1f} ms")
    day = a_long_day(np.random.default_rng(3))
    found = ordered(day)
    taken_ms = median_ms(lambda: ordered(replace(day)), runs=3)
    print(f"order of {SHOTS} set-ups: {taken_ms:.0f} ms, {found.gap:.0%} over the bound at most")


if __name__ == "__main__":
    main()
