"""Loads shared out: the best of all ways, held against trying every one of them."""

import math
from dataclasses import replace
from itertools import product
from types import SimpleNamespace

import numpy as np
import pytest
import scipy.optimize

from iron_bucket.core.power import share_out
from iron_bucket.core.power.battery import Supply
from iron_bucket.core.power.circuit import Circuit
from iron_bucket.core.power.frees import unplaced
from iron_bucket.core.power.planned_load import PlannedLoad
from iron_bucket.core.power.power_plan import PowerPlan, left_of, taken
from iron_bucket.core.power.share_out import shared_out
from iron_bucket.core.power.sources import BatterySource, CircuitSource, StationSource, ThreePhaseSource

FREE = {"load_id": "", "watts": 0.0}


def a_circuit(source_id: str, breaker_a: float = 10.0, at_m=None, **changes) -> CircuitSource:
    circuit = Circuit(**({"voltage_v": 230.0, "breaker_a": breaker_a} | changes))
    return CircuitSource(source_id=source_id, circuit=circuit, at_m=at_m)


def a_load(load_id: str, watts: float, **changes) -> PlannedLoad:
    return PlannedLoad(load_id=load_id, watts=watts, **changes)


def a_board(**changes) -> ThreePhaseSource:
    return ThreePhaseSource(**({"source_id": "board", "voltage_v": 230.0, "breaker_a": 10.0} | changes))


def a_battery(**changes) -> BatterySource:
    return BatterySource(source_id="v", supply=Supply(capacity_wh=300.0, nominal_v=14.4, most_a=20.0), **changes)


def every_way(plan: PowerPlan):
    """Of all ways that are allowed: watts fed, and what is made small among those that feed most. By trying each."""
    channels, places = plan.channels, [*plan.channels, None]
    for way in product(places, repeat=len(plan.loads)):
        hung = [(load, channel) for load, channel in zip(plan.loads, way, strict=True) if channel]
        sums = {channel: sum(taken(channel, load) for load, at in hung if at is channel) for channel in channels}
        drained = {c: sum(load.drawn_w * (load.hours or 0.0) for load, at in hung if at is c) for c in channels}
        plates = {c: sum(load.plates.get(c.source_id, 1) for load, at in hung if at is c) for c in channels}
        if all(plan.takes(load, at) for load, at in hung) and all(
            sums[each] <= each.limit * (1 + 1e-9)
            and drained[each] <= (each.energy_wh or math.inf)
            and plates[each] <= (each.plates or math.inf)
            for each in channels
        ):
            legs = [sums[each] for each in channels if each.leg]
            yield sum(load.drawn_w for load, _ in hung), max(legs, default=0.0), hung


def a_plan(seed: int) -> PowerPlan:
    """Seven loads or so for two circuits, a battery or a board: more than they bear, about."""
    chance = np.random.default_rng(seed)
    place = lambda: tuple(chance.uniform(0.0, 9.0, 2).round(2).tolist())  # noqa: E731
    sources = [a_circuit(name, float(chance.choice([6.0, 10.0])), place()) for name in ("ring", "store")]
    sources.append(a_board(breaker_a=6.0) if seed % 2 else a_battery(temperature_c=float(seed), plates=seed // 2 + 1))
    loads = tuple(
        a_load(
            f"l{at}",
            float(chance.choice([120.0, 300.0, 575.0, 650.0, 1200.0])),
            power_factor=float(chance.choice([0.6, 0.95, 1.0])),
            hours=float(chance.choice([0.5, 2.0])),
            at_m=place(),
            fed_by="store" if at == 0 and seed % 3 == 0 else "",
            plates={"v": 1 + at % 2},
        )
        for at in range(5 if seed % 2 else 6)
    )
    return PowerPlan(sources=tuple(sources), loads=loads)


def test_what_the_first_stage_feeds_stays_fed_where_time_ends_in_the_second(monkeypatch):
    def solved(*given, **named):
        calls.append(given)
        return scipy.optimize.milp(*given, **named) if len(calls) == 1 else SimpleNamespace(x=None)

    calls = []
    monkeypatch.setattr(share_out, "milp", solved)
    found = shared_out(PowerPlan(sources=(a_board(),), loads=(a_load("a", 600.0), a_load("b", 500.0))))
    assert (set(found.feeding), found.gap) == ({"a", "b"}, 1.0)


@pytest.mark.parametrize("seed", range(12))
def test_no_way_feeds_more_or_loads_legs_more_evenly(seed):
    plan = a_plan(seed)
    found = shared_out(plan)
    fed = {load.load_id: load for load in plan.loads if load.load_id in found.feeding}
    watts = sum(load.drawn_w for load in fed.values())
    ways = list(every_way(plan))
    most = max(way[0] for way in ways)
    assert watts == pytest.approx(most, abs=0.01)
    assert min(left_of(plan, found.feeding).values()) >= -1e-6
    assert found.gap < 0.02
    legs = [plan.channels[at].limit - left for at, left in enumerate(left_of(plan, found.feeding).values())]
    fullest = max((legs[at] for at, each in enumerate(plan.channels) if each.leg), default=0.0)
    longest = max(math.dist(load.at_m, s.at_m) for load in plan.loads for s in plan.sources if s.at_m)
    every = sum(load.drawn_va for load in plan.loads)

    def cost(fullest_va, hung):
        far = sum(math.dist(load.at_m, plan.source(at.source_id).at_m or load.at_m) for load, at in hung)
        return fullest_va / every + 0.01 * far / longest / len(plan.loads)

    best = min(cost(fullest_va, hung) for fed_w, fullest_va, hung in ways if fed_w >= most - 0.001)
    own = cost(fullest, [(load, found.feeding[name]) for name, load in fed.items()])
    assert own == pytest.approx(best, rel=0.03)


def test_a_load_that_draws_nothing_hangs_all_the_same_and_an_empty_plan_is_done():
    plan = PowerPlan(sources=(a_circuit("ring"),), loads=(a_load("off", 500.0, level=0.0), a_load("on", 500.0)))
    assert set(shared_out(plan).feeding) == {"off", "on"}
    for empty in (replace(plan, loads=()), replace(plan, sources=())):
        assert (shared_out(empty).feeding, shared_out(empty).gap) == ({}, 0.0)


def test_starts_are_borne_one_at_a_time_and_unwelcome_sources_spared():
    """Of 20 A for a moment, 9.2 A burn with the second; its own start takes 12 A more than it draws, then 10."""

    def fed(jump_a, start_a=20.0, **changes):
        ring = replace(a_circuit("ring", breaker_a=16.0, used_a=1.0), start_a=start_a)
        loads = (a_load("burns", 1058.0), a_load("starts", 1058.0, jump_va=jump_a * 230.0, **changes))
        return set(shared_out(PowerPlan(sources=(ring,), loads=loads)).feeding)

    ring = replace(a_circuit("ring", breaker_a=16.0, used_a=1.0), start_a=20.0)
    burns, starts = a_load("burns", 1058.0), a_load("starts", 1058.0, jump_va=9.9 * 230.0)
    plan = PowerPlan(sources=(ring,), loads=(burns, starts))
    (left,) = unplaced(plan, {"burns": plan.channels[0]})
    assert left.why == "its start is more than ring bears beside what burns there"
    dims = ["dim starts 1 stop, on ring", "dim burns 1 stop, on ring"]
    assert [each.what for each in left.frees] == [*dims, "a second source like ring"]
    assert fed(9.8) == {"burns", "starts"}
    assert len(fed(9.9)) == 1
    assert fed(9.9, start_a=None) == fed(99.0, level=0.0) == {"burns", "starts"}
    here, there = replace(a_circuit("here"), burden=0.3), replace(a_circuit("there"), burden=0.2)
    one = a_load("one", 500.0)
    for sources, best in (((here, there), "there"), ((replace(here, burden=0.1), there), "here")):
        assert shared_out(PowerPlan(sources=sources, loads=(one,))).feeding["one"].source_id == best
    for at_m, best in ((None, "there"), ((5.0, 0.0), "here")):  # a way that is not known counts as none
        sources = (a_circuit("here", at_m=(0.5, 0.0)), a_circuit("there", at_m=at_m))
        plan = PowerPlan(sources=sources, loads=(replace(one, at_m=(0.0, 0.0)),))
        assert shared_out(plan).feeding["one"].source_id == best
    # Alike, it stays where it is; a shorter way is worth a move, a slightly longer one is not.
    alike = (a_circuit("here", at_m=(0.0, 0.0)), a_circuit("there", at_m=(0.0, 0.0)))
    for now in ("here", "there"):
        found = shared_out(PowerPlan(sources=alike, loads=(replace(one, stays=now, at_m=(3.0, 0.0)),)))
        assert found.feeding["one"].source_id == now
    near = (a_circuit("here", at_m=(0.0, 0.0)), a_circuit("there", at_m=(3.0, 0.0)))
    moved = shared_out(PowerPlan(sources=near, loads=(replace(one, stays="here", at_m=(3.0, 0.0)),)))
    assert moved.feeding["one"].source_id == "there"
    # What nobody has timed takes no energy of a battery.
    assert shared_out(PowerPlan(sources=(a_battery(),), loads=(a_load("long", 280.0),))).feeding
    assert not shared_out(PowerPlan(sources=(a_battery(),), loads=(a_load("long", 280.0, hours=1.1),))).feeding


def test_what_hangs_nowhere_says_why_and_what_single_change_frees_it():
    """By hand: 8 A of 10 planned; 4.0 A hang on each, 4.5 A more are asked: half an amp short on either."""
    key, fill = a_load("key", 920.0), a_load("fill", 920.0, fed_by="store")
    rim = a_load("rim", 1035.0, fed_by="ring")
    plan = PowerPlan(sources=(a_circuit("ring"), a_circuit("store")), loads=(replace(key, fed_by="ring"), fill, rim))
    feeding = {"key": plan.channels[0], "fill": plan.channels[1]}
    (left,) = unplaced(plan, feeding)
    assert (left.load_id, left.why) == ("rim", "it needs 4.5 A, ring has 4.0 A")
    found = {each.what: each.amps for each in left.frees}
    assert found == {
        "dim rim 1 stop, on ring": pytest.approx(2.25),
        "dim key 1 stop, on ring": pytest.approx(2.0),
        "a second source like ring": pytest.approx(4.5),
    }
    free = replace(plan, loads=(key, fill, rim))  # the key may go to the other, where just enough is left
    moved = {each.what: each.amps for each in unplaced(free, feeding)[0].frees}
    assert moved["move key from ring to store"] == pytest.approx(4.0)
    # Each carried out lets it in.
    for loads in ((replace(key, level=0.5), fill, rim), (key, fill, replace(rim, level=0.5))):
        assert set(shared_out(replace(plan, loads=loads)).feeding) == {"key", "fill", "rim"}
    assert len(shared_out(free).feeding) == 3


def test_hours_and_watts_of_batteries_are_told_in_their_own_units():
    """285 W go from 20 A at 14.4 V with nothing lost; 300 Wh are an hour of it at most."""
    plan = PowerPlan(sources=(a_battery(),), loads=(a_load("long", 200.0, hours=2.0), a_load("large", 400.0)))
    feeding = shared_out(plan).feeding
    assert feeding == {}
    long, large = unplaced(plan, feeding)
    assert (long.why, long.frees[-1].amps) == ("it needs 400 Wh, more than v has left", None)
    assert large.why == "it needs 400.0 W, v has 288.0 W"
    assert [each.what for each in large.frees] == ["dim large 1 stop, on v"]
    # Two plates each, three batteries: the other kind has one for the first, which makes room for the second.
    here = a_load("here", 50.0, plates={"v": 2})
    few = PowerPlan(
        sources=(a_battery(plates=3), replace(a_battery(), source_id="w", plates=1)),
        loads=(here, replace(here, load_id="other", may=frozenset("v"))),
    )
    (other,) = unplaced(few, {"here": few.channels[0]}, {"v": "V-lock"})
    assert other.why == "it takes 2 of V-lock, and 1 is left"
    assert [each.what for each in other.frees] == ["move here from v to w", "a second source like v"]
    assert len(shared_out(few).feeding) == 2
    assert unplaced(replace(few, sources=few.sources[:1]), {"here": few.channels[0]})[0].why.startswith(
        "it takes 2 of v,"
    )
    station = StationSource(source_id="box", capacity_wh=1000.0, continuous_w=300.0, surge_w=600.0, efficiency=0.9)
    small = PowerPlan(sources=(station,), loads=(a_load("a", 250.0), a_load("b", 100.0)))
    (second,) = unplaced(small, shared_out(small).feeding)
    assert second.why == "it needs 100.0 W, box has 50.0 W"
    assert unplaced(replace(small, sources=()), {})[0].why == "there is no source for it"
