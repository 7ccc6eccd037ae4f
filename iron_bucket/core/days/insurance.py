"""What replaces the sun or a window from a minute on: heads that give its light again, held against what is lost."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import datetime

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.daylight.sky import Weather
from iron_bucket.core.days.continuity import MatchSheet, match_sheet
from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.selection.need import Feed
from iron_bucket.core.selection.packing import PackedBench
from iron_bucket.core.setups.evaluate.ladder import Ladder, RungKind, ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import LitScene, ResponseFor, lit
from iron_bucket.core.setups.plan.changes import Change, Operation, changed
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.core.setups.suggest.fix import Fix
from iron_bucket.core.setups.suggest.new_light import LightWish, new_light
from iron_bucket.core.setups.suggest.shortfall import Shortfall

#: So many are followed in full.
MOST_OFFERS = 4


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Replacement:
    """A head that gives the lost light again: ``changes`` to the late set-up, and how well the two shots cut."""

    fix: Fix
    changes: tuple[Change, ...]
    match: MatchSheet


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Insurance:
    """``planned``: whose light is wanted ``at`` another time; ``bare``: how the two cut with nothing done."""

    planned: Setup
    at: datetime
    name: str
    bare: MatchSheet
    replacements: tuple[Replacement, ...]
    why: str = ""


def insurance(
    now: LitScene,
    at: datetime,
    bench: PackedBench,
    gear: Gear,
    rules: HouseRules,
    response_for: ResponseFor,
    *,
    feed: Feed | None = None,
    feed_id: str = "",
    bucket: Mapping[str, int] | None = None,
    sky: Weather | None = None,
) -> Insurance:
    """``now``: the set-up at the hour that it is planned for; ``sky``: what stands ``at`` the other, where it was told
    otherwise. The head stands where the light comes from: outside the
    window that gives most of it. Raises: NoAnswer where nobody and nothing is lit.
    """
    setup = now.built.setup
    there = replace(setup, when=at, weather=sky or setup.weather)
    late = lit(build_scene(there, now.built.surroundings, gear, rules), response_for)
    ladder = ladder_of(late, rules.receptor)
    rung_id = _wanted(ladder)
    rung = ladder.rung(rung_id)
    if rung is None:
        raise NoAnswer("Nobody and nothing in this set-up has light to be replaced.")
    miss = Shortfall(lit=late, rung=rung, gear=gear, rules=rules, response_for=response_for, bucket=bucket or {})
    was = ladder_of(now, rules.receptor).rung(rung_id)
    wish = LightWish(mark_id=rung_id, stops=was.stops if was else None, like_day=setup.when, feed=feed, feed_id=feed_id)
    bare = match_sheet(now, late)
    try:
        offers = new_light(miss, wish, bench).offers[:MOST_OFFERS]
    except NoAnswer as none:
        return Insurance(planned=setup, at=at, name=rung.name, bare=bare, replacements=(), why=str(none))
    moved = Change(operation=Operation.SET, where="setup", to={"when": at, "weather": there.weather})
    found = []
    for fix in offers:
        after = changed(there, fix.changes)
        then = lit(build_scene(after, now.built.surroundings, gear, rules), response_for)
        found.append(Replacement(fix=fix, changes=(moved, *fix.changes), match=match_sheet(now, then)))
    return Insurance(planned=setup, at=at, name=rung.name, bare=bare, replacements=tuple(found))


def _wanted(ladder: Ladder) -> str:
    """The first face's key, else the first that has a target, else the first of all."""
    lit_ones = [rung for rung in ladder.rungs if rung.kind is not RungKind.WINDOW]
    faces = [rung for rung in lit_ones if rung.kind is RungKind.FACE and rung.mark_id.endswith(".key")]
    asked = [rung for rung in lit_ones if rung.target is not None]
    return next((rung.mark_id for rung in (*faces, *asked, *lit_ones)), "")
