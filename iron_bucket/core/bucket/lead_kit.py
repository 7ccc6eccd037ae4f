"""Leads of one pass as needs: by the plan of Power where a lamp hangs on an outlet, from the nearest one where it does
not yet; mats and leakage protection with them.
"""

import math
from collections.abc import Iterator

from iron_bucket.core.bench.cable import Cable
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bucket.accessories import Facts, Fetcher
from iron_bucket.core.bucket.kit_rules import Subject
from iron_bucket.core.bucket.need import Need, need
from iron_bucket.core.bucket.pass_kit import PassKit
from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.apparent import a_from_va
from iron_bucket.core.power.job.cable_plan import CablePlan, LeadRun
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.power.job.load_board import load_board
from iron_bucket.core.power.job.outlets import FedPlace
from iron_bucket.core.power.job.pass_leads import leads_of
from iron_bucket.core.power.job.pass_loads import PassLoad, pass_loads
from iron_bucket.core.power.lead_choice import HOUSE_PLUG, StockLead, lead_for
from iron_bucket.core.quantities import display
from iron_bucket.core.setups.plan.setup import Setup

#: From what hangs nowhere yet to where an outlet may be, in a place without one; typical.
GUESSED_M = 12.0
#: Leads of any length can be found in such a number, as far as a guess goes.
_MANY = 6


def lead_kit(
    setup: Setup,
    setup_id: int,
    place_id: int,
    surroundings: Surroundings,
    power: JobPower,
    gear: Gear,
    rules: HouseRules,
) -> PassKit:
    """``surroundings`` with the job's outlets."""
    loads = pass_loads(setup, setup_id, place_id, power, gear, rules.scrim_school).loads
    board = load_board(FedPlace(place=surroundings.place), loads, gear, rules, {})
    plan = leads_of(board, setup, surroundings, power, gear, rules.units)
    fetcher = Fetcher(gear, rules.kit, rules.units)
    needs = [*_of_plan(plan, surroundings, gear, rules, fetcher)]
    fed = {run.load.load_id for run in plan.runs}
    if rules.kit.rule("lead-guess").is_on:
        for load in loads:
            if load.load_id not in fed and not load.feed and load.head and load.head.mains and load.watts > 0.0:
                needs += _guessed(load, surroundings, gear, rules, fetcher)
    told = tuple(f"{setup.name}: {words}" for words in (*plan.short, *fetcher.left_out))
    return PassKit(setup_name=setup.name, needs=tuple(needs), left_out=told)


def _of_plan(
    plan: CablePlan, surroundings: Surroundings, gear: Gear, rules: HouseRules, fetcher: Fetcher
) -> Iterator[Need]:
    wet_outlets: set[str] = set()
    for run in plan.runs:
        figure = f"{run.load.name}: {display.length(run.length_m, rules.units)} from {run.outlet.name}"
        for slug, count in run.pieces.items():
            yield need("cables", gear.by_slug(Cable, slug), "lead", run.load.load_id, pieces=count, figure=figure)
        facts = _run_facts(run, surroundings, is_first=run.outlet.socket_id not in wet_outlets)
        wet_outlets.add(run.outlet.socket_id)
        yield from fetcher.brought(facts)
    for name, pieces in plan.at_outlets.items():
        for slug, count in pieces.items():
            yield need("cables", gear.by_slug(Cable, slug), "lead", f"outlet {name}", pieces=count, figure=name)


def _run_facts(run: LeadRun, surroundings: Surroundings, *, is_first: bool) -> Facts:
    """Leakage protection goes before an outlet, once."""
    is_outdoors = surroundings.room_at(run.load.x_m, run.load.y_m) is None
    figures = {
        "watts": run.load.watts,
        "length_m": run.length_m,
        "crossings": len(run.way.doorways) + len(run.walks),
        "is_outdoors": is_outdoors,
        "is_by_water": (is_outdoors or surroundings.place.is_wet) and is_first,
    }
    return Facts(subject=Subject.LEAD, holder=run.load.load_id, name=run.load.name, figures=figures)


def _guessed(
    load: PassLoad, surroundings: Surroundings, gear: Gear, rules: HouseRules, fetcher: Fetcher
) -> Iterator[Need]:
    at = load.x_m, load.y_m
    outlets = (each for each in surroundings.place.sockets if each.outlet == HOUSE_PLUG)
    nearest = min(outlets, key=lambda each: math.dist(at, (each.x_m, each.y_m)), default=None)
    way_m, name = GUESSED_M, "a guess, no outlet is noted"
    if nearest:
        way_m, name = surroundings.lead_ways.way((nearest.x_m, nearest.y_m), at).length_m, nearest.name
    way_m += load.z_m
    leads = [
        each
        for each in gear.cables
        if each.plug == each.outlet == HOUSE_PLUG and each.outlets == 1 and not each.is_retired
    ]
    stock = tuple(StockLead(length_m=each.length_m, area_mm2=each.area_mm2, count=_MANY) for each in leads)
    said = f"{load.name}: {display.length(way_m, rules.units)} from {name}"
    try:
        choice = lead_for(way_m, float(a_from_va(load.va, rules.voltage_v)), rules.voltage_v, stock, units=rules.units)
    except NoAnswer as none:
        fetcher.left_out.append(f"{said}: {none}")
        return
    for length_m in choice.lengths_m:
        same = (each for each in leads if (each.length_m, each.area_mm2) == (length_m, choice.area_mm2))
        best = min(same, key=lambda each: (not each.is_owned, each.slug))
        yield need("cables", best, "lead-guess", load.load_id, figure=said)
