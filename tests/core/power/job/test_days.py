"""A day of passes, its worst minutes, its batteries and its generator: by hand."""

from dataclasses import replace
from datetime import datetime
from types import SimpleNamespace

import numpy as np
import pytest
import shapely

from iron_bucket.core.figure import Figure, Origin
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.generator import sound_level_db
from iron_bucket.core.power.job.battery_advice import a_stop_down, charging_places, enough_of_each, savings
from iron_bucket.core.power.job.battery_hours import Outcome, Stock, battery_hours, stock_of
from iron_bucket.core.power.job.cable_plan import LeadRun
from iron_bucket.core.power.job.generator_day import GeneratorDay, generator_day, loudness_dba, start_order
from iron_bucket.core.power.job.kit import BatteryStock, ChargerKit, Generator, JobPower
from iron_bucket.core.power.job.pass_loads import pass_loads
from iron_bucket.core.power.job.same_light import heads_alike, with_head
from iron_bucket.core.power.job.shooting_day import ShootingDay, shooting_days, usual_time
from iron_bucket.core.power.job.worst_minute import worst_minutes
from iron_bucket.core.power.load import Draw, DrawCurve
from tests.core.places.test_lead_way import EAST, WEST
from tests.core.power.job.made import HERE, KETTLE, RULES, a_board, a_kilowatt, a_pass, a_time
from tests.core.setups.made import a_lamp, a_place

EIGHT = datetime(2026, 5, 1, 8, 0)


def a_day(gear, *passes, power):
    day = shooting_days(passes, power)[0]
    boards = {each.setup_id: a_board(gear, *each.setup.lamps, power=power, setup_id=each.setup_id) for each in passes}
    return day, boards


def test_passes_follow_each_other_and_wait_for_their_hour():
    power = JobPower(times=(a_time(1, 60, 30, 10), a_time(2, 20, 30, overlap_min=15), a_time(3, 30, 30)))
    late = a_pass(3, when=datetime(2026, 5, 1, 12, 0))
    night = a_pass(4, when=datetime(2026, 5, 2, 4, 59))
    passes = (a_pass(1, when=EIGHT), a_pass(2, when=EIGHT), late, night, a_pass(5, when=datetime(2026, 5, 2, 5, 0)))
    first, second = shooting_days(passes, power)
    assert (first.day.day, second.day.day, len(first.passes), len(second.passes)) == (1, 2, 4, 1)
    told = [(each.rig_min, each.lit_min, each.shoot_min, each.strike_min, each.end_min) for each in first.passes]
    # 07:00 rig, 08:00 shoot, 08:30 strike, 08:40 gone; the next is rigged from 08:25 on, shot at 08:45.
    assert told[:3] == [(0, 30, 60, 90, 100), (85, 95, 105, 135, 135), (270, 285, 300, 330, 330)]
    assert first.clock(105) == datetime(2026, 5, 1, 8, 45)
    # 60, 75 and 20 minutes are typical of a first pass, 20, 50 and 0 of one that varies it.
    assert told[3][0] == 1259 - 60 + 60 - 60 + 60  # 04:59 is 1319 minutes after 07:00... less its rig
    assert (first.end_min, second.end_min) == (told[3][4], 60 + 75 + 20)
    assert (usual_time(4, is_first=False).rig_min, usual_time(4, is_first=False).shoot_min) == (20, 50)
    assert [(p.start_min, p.end_min, [b.at for b in p.burning]) for p in first.phases][:6] == [
        (0, 30, []),
        (30, 60, [0]),
        (60, 85, [0]),
        (85, 90, [0]),
        (90, 95, []),
        (95, 105, [1]),
    ]
    crowded = shooting_days(
        (a_pass(1, when=EIGHT), a_pass(2, when=EIGHT)),
        replace(power, times=(a_time(1, 0, 9), a_time(2, 60, 9, overlap_min=60))),
    )[0]
    assert (crowded.passes[1].rig_min, crowded.passes[1].shoot_min) == (0, 9)


def test_the_worst_minute_counts_what_burns_in_two_passes_at_once(gear):
    power = JobPower(times=(a_time(1, 20, 60), a_time(2, 40, 30, overlap_min=40), a_time(3, 20, 30)))
    passes = (a_pass(1, a_kilowatt(1), when=EIGHT), a_pass(2, a_kilowatt(2), when=EIGHT))
    day, boards = a_day(gear, *passes, power=power)
    worst = worst_minutes(day, boards)[HERE, "Ring"]
    # 08:00 begins the first shoot at minute 20; the second is rigged from 40 on and lit from 60 on.
    assert (worst.amps, worst.minute, worst.passes) == (pytest.approx(2.0 + 2000 / 230), 60, (1, 2))
    assert (worst.burns_h, worst.is_continuous) == (pytest.approx((10 + 60 + 30) / 60), False)
    long = replace(power, times=(a_time(1, 0, 181),))
    assert worst_minutes(*a_day(gear, passes[0], power=long))[HERE, "Ring"].is_continuous
    just = replace(power, times=(a_time(1, 0, 180),))
    assert not worst_minutes(*a_day(gear, passes[0], power=just))[HERE, "Ring"].is_continuous
    # Passes of one set-up share their lamps: the higher level counts.
    same = (a_pass(1, a_kilowatt(1, level=0.5), when=EIGHT), a_pass(2, a_kilowatt(1), chain=1, when=EIGHT))
    day, boards = a_day(gear, *same, power=power)
    assert worst_minutes(day, boards)[HERE, "Ring"].amps == pytest.approx(2.0 + 1000 / 230)
    apart = replace(power, times=(a_time(1, 20, 60), a_time(2, 40, 30)))
    day, boards = a_day(gear, *passes, power=apart)
    alone = worst_minutes(day, boards)[HERE, "Ring"]
    assert (alone.amps, alone.burns_h) == (pytest.approx(2.0 + 1000 / 230), pytest.approx(70 / 60))
    assert worst_minutes(*a_day(gear, a_pass(1, when=EIGHT), power=power)) == {}


def hours_of(gear, *passes, power, counts, celsius=None):
    day = shooting_days(passes, power)[0]
    loads = {
        each.setup_id: pass_loads(each.setup, each.setup_id, each.place_id, power, gear, RULES.scrim_school).loads
        for each in passes
    }
    stock = {slug: Stock(count=count) for slug, count in counts.items()}
    return day, loads, lambda some: battery_hours(day, some, power, gear, stock, {HERE: celsius})


THRIFT = Draw(
    full_w=Figure(value=60.0, origin=Origin.CLAIMED), idle_w=1.0, power_factor=0.9, curve=DrawCurve.ELECTRONIC
)
KEY = {"feed": "battery-v-150", "configuration": "day-led-300.bare"}


def test_a_lamp_burns_what_its_plates_hold_and_swaps_until_none_is_left(gear):
    """At 60 % of 352 W a lamp takes 219.6 W; two of 150 Wh give 256.5 Wh: 70 minutes."""
    power = JobPower(times=(a_time(1, 20, 600),))
    day, loads, build = hours_of(
        gear, a_pass(1, a_lamp(level=0.6, **KEY), when=EIGHT), power=power, counts={"battery-v-150": 4}
    )
    hours = build(loads)
    assert Outcome.of(hours.burnt()).dark_min == {"1:key:battery-v-150": 10 + 140}
    assert enough_of_each(hours) == {"battery-v-150": 18}  # 610 minutes of 70 are nine pairs
    assert Outcome.of(hours.with_counts({"battery-v-150": 18}).burnt()).first_min is None
    assert [each.name for each in hours.lamps] == ["Key"]
    two = a_pass(1, a_lamp(**KEY), when=EIGHT), a_pass(2, a_lamp(**KEY), when=EIGHT, name="Wide")
    _, of_two, build = hours_of(gear, *two, power=power, counts={})
    assert [each.name for each in build(of_two).lamps] == [f"Key, {two[0].setup.name}", "Key, Wide"]
    cold = battery_hours(day, loads, power, gear, {"battery-v-150": Stock(count=2)}, {HERE: 0.0})
    assert (cold.temperature_c, Outcome.of(cold.burnt()).first_min) == (0.0, 10 + 56)
    weak = battery_hours(day, loads, power, gear, {"battery-v-150": Stock(count=2, healths=(0.5, 0.5))}, {})
    assert Outcome.of(weak.burnt()).first_min == 10 + 35
    # One in every four of five minutes burnt, idle at 21.1 W in the fifth.
    often = replace(power, times=(a_time(1, 0, 600, lit_share=0.8),))
    _, _, build = hours_of(
        gear, a_pass(1, a_lamp(level=0.6, **KEY), when=EIGHT), power=often, counts={"battery-v-150": 2}
    )
    assert Outcome.of(build(loads).burnt()).first_min == int(256.5 / (0.8 * 219.64 + 0.2 * 21.1) * 60)
    refused = hours_of(
        gear,
        a_pass(1, a_lamp(feed="battery-d-98", configuration="bi-lens-60.spot", level=1.0), when=EIGHT),
        power=power,
        counts={},
    )
    assert Outcome.of(refused[2](refused[1]).burnt()).first_min == 10


def test_what_a_stop_or_another_head_saves(gear):
    power = JobPower(times=(a_time(1, 0, 100),))
    _, loads, build = hours_of(
        gear, a_pass(1, a_lamp(level=0.6, **KEY), when=EIGHT), power=power, counts={"battery-v-150": 2}
    )
    found = {each.words: each.first_min for each in savings(loads, {1: 1}, build, gear)}
    assert found["one stop more ISO, and every lamp one stop down"] is None
    assert found["Key one stop down"] is None
    lower = a_stop_down(loads[1][0])
    assert (lower.watts, lower.va) == pytest.approx((21.1 + 0.3 * 330.9, (21.1 + 0.3 * 330.9) / 0.97))
    long = replace(power, times=(a_time(1, 0, 300),))
    _, loads, build = hours_of(
        gear, a_pass(1, a_lamp(level=0.6, **KEY), when=EIGHT), power=long, counts={"battery-v-150": 2}
    )
    saved = {each.words: each.first_min for each in savings(loads, {1: 1}, build, gear)}
    assert saved["Key one stop down"] == int(256.5 / lower.watts * 60)
    # A lamp that is not the first to go dark saves nothing.
    faint = a_lamp(piece_id="fill", name="Fill", **KEY | {"configuration": "day-led-120.bare"}, level=0.02)
    both = a_pass(1, a_lamp(level=0.6, **KEY), faint, when=EIGHT)
    _, of_both, build = hours_of(gear, both, power=long, counts={"battery-v-150": 4})
    assert [each.words for each in savings(of_both, {1: 1}, build, gear)][1:] == ["Key one stop down"]
    _, loads, build = hours_of(
        gear, a_pass(1, a_lamp(level=0.6, **KEY), when=EIGHT), power=long, counts={"battery-v-150": 2}
    )
    # Of ours that give the same light the most frugal; here none draws less, unless one is made to.
    assert not [words for words in saved if words.endswith(" as Key")]
    thrifty = replace(
        gear, heads=tuple(replace(each, draw=THRIFT) if each.slug == "bi-led-300" else each for each in gear.heads)
    )
    dim = a_pass(1, a_lamp(level=0.4, **KEY), when=EIGHT)
    _, loads, build = hours_of(thrifty, dim, power=long, counts={"battery-v-150": 2})
    saved = {each.words: each.first_min for each in savings(loads, {1: 1}, build, thrifty)}
    assert saved["bicolour LED 300 as Key"] is None
    assert list(savings(loads, {1: 1}, lambda some: build(some).with_counts({"battery-v-150": 40}), gear)) == []
    # A tube at 0.2 % draws 0.83 W: its 20 Wh, at ten below freezing 14, last 14 h 29.
    faint = a_lamp(feed="battery-built-in-20", configuration="tube-60.bare", level=0.002)
    _, loads_of_it, frosty = hours_of(
        gear, a_pass(1, faint, when=EIGHT), power=replace(power, times=(a_time(1, 0, 900),)), counts={}, celsius=-10.0
    )
    assert Outcome.of(frosty(loads_of_it).burnt()).first_min == int(20 * 0.7 * 0.9 * 0.95 / 0.8264 * 60)
    assert next(each.words for each in savings(loads_of_it, {1: 1}, frosty, gear)).startswith("one stop more ISO")
    at_least = replace(loads[1][0], lamp=replace(loads[1][0].lamp, level=0.01))
    assert a_stop_down(at_least).watts <= at_least.watts
    off = replace(loads[1][0], watts=0.0)
    assert a_stop_down(off) is off


def test_chargers_charge_where_the_crew_is_and_heads_while_they_wait(gear):
    two = replace(a_pass(1, a_lamp(level=0.6, **KEY), when=EIGHT), place_id=HERE)
    away = replace(a_pass(2, a_lamp(level=0.6, **KEY), when=EIGHT), place_id=HERE + 1)
    kit = ChargerKit(piece_id="c", name="C", place_id=HERE, kinds=("battery-v-150", "other"), feed="socket")
    power = JobPower(times=(a_time(1, 0, 60), a_time(2, 0, 60)), chargers=(kit, replace(kit, piece_id="idle", feed="")))
    day, loads, build = hours_of(gear, two, away, power=power, counts={"battery-v-150": 2})
    (charger,) = build(loads).day.chargers
    assert (charger.charger_id, charger.kind_ids, charger.rates) == ("c", ("battery-v-150",), (1.0, 0.0))
    places = charging_places(build(loads), day)
    assert list(places) == [HERE, HERE + 1]
    fed = a_lamp(piece_id="fed", name="Fed", feed="socket", configuration="day-led-300.bare", level=1.0)
    heads = tuple(replace(each, charge_w=90.0) if each.slug == "day-led-300" else each for each in gear.heads)
    bench = replace(gear, heads=heads)
    one = JobPower(times=(a_time(1, 40, 60, 20),))
    _, loads, build = hours_of(
        bench, a_pass(1, fed, a_lamp(level=0.6, **KEY), when=EIGHT), power=one, counts={"battery-v-150": 4}
    )
    found = battery_hours(shooting_days((a_pass(1, fed, when=EIGHT),), one)[0], loads, one, bench, {}, {})
    (own,) = found.day.chargers
    assert (own.bays, found.bays, own.bay_w, own.kind_ids) == (2, 2, 45.0, ("battery-v-150",))
    assert own.rates == (1.0, 0.3, 0.3, 1.0)  # rigged, lit while rigged, shot, struck
    # Fed from its own batteries, on or off, it charges none.
    for is_on in (True, False):
        alone = a_pass(
            1, replace(fed, feed="battery-v-150", level=0.1, is_on=is_on), a_lamp(level=0.1, **KEY), when=EIGHT
        )
        _, loads, build = hours_of(bench, alone, power=one, counts={"battery-v-150": 4})
        assert build(loads).day.chargers == ()


def test_power_stations_feed_together_and_recharge_where_there_is_mains(gear):
    """900 W on stations of 1720 W: one is enough; 1.5 kWh x 0.85 x 0.88 last 75 minutes."""
    lamps = [a_kilowatt(at, configuration="tung-300.flood", feed="battery-station-1500") for at in range(3)]
    power = JobPower(times=(a_time(1, 0, 200),))
    _, loads, build = hours_of(gear, a_pass(1, *lamps, when=EIGHT), power=power, counts={"battery-station-1500": 1})
    hours = build(loads)
    assert [(each.watts, each.plates) for each in hours.day.lamps] == [((900.0,), 1)]
    assert Outcome.of(hours.burnt()).first_min == int(1500 * 0.85 * 0.88 / 900 * 60)
    (charger,) = hours.day.chargers
    assert (charger.rates, charger.while_feeding, charger.bay_w, hours.bays) == ((0.0,), True, 900.0, 0)
    bare = replace(gear, batteries=tuple(replace(each, recharge_w=0.0) for each in gear.batteries))
    assert hours_of(bare, a_pass(1, *lamps, when=EIGHT), power=power, counts={})[2](loads).day.chargers == ()
    wired = a_pass(1, *lamps, a_kilowatt(9, feed="socket", level=0.1), when=EIGHT)
    _, loads, build = hours_of(gear, wired, power=power, counts={"battery-station-1500": 1})
    assert build(loads).day.chargers[0].rates == (1.0,)
    # A kettle on it drains it too, and is no mains; two passes at once count it once.
    kettle = JobPower(
        times=(a_time(1, 0, 60), a_time(2, 60, 60, overlap_min=60)),
        loads=(replace(KETTLE, watts=200.0, feed="battery-station-1500"),),
    )
    passes = (a_pass(1, lamps[0], when=EIGHT), a_pass(2, when=EIGHT), a_pass(3, lamps[0], chain=1, when=EIGHT))
    _, loads, build = hours_of(gear, *passes, power=kettle, counts={"battery-station-1500": 1})
    day = build(loads).day
    assert [each.watts for each in day.lamps] == [(500.0, 500.0, 200.0, 0.0, 500.0, 500.0)]
    assert {rate for each in day.chargers for rate in each.rates} == {0.0}
    heavy = [replace(lamp, configuration="tung-1000.flood") for lamp in lamps]
    _, loads, build = hours_of(gear, a_pass(1, *heavy, when=EIGHT), power=power, counts={"battery-station-1500": 1})
    assert build(loads).day.lamps[0].plates == 2
    tube = a_lamp(feed="battery-built-in-20", configuration="tube-60.bare", level=1.0)
    _, loads, build = hours_of(gear, a_pass(1, tube, when=EIGHT), power=power, counts={})
    assert [each.count for each in build(loads).day.kinds] == [1]
    assert enough_of_each(build(loads)) == {}


def test_stock_is_what_the_job_says_else_what_the_bucket_holds():
    rows = (
        BatteryStock(piece_id="a", kind="v", count=2, health=0.8),
        BatteryStock(piece_id="b", kind="v", count=1),
        BatteryStock(piece_id="c", kind="w", count=0),
    )
    found = stock_of(JobPower(batteries=rows), {"v": 9, "w": 9, "x": 4})
    assert found == {"v": Stock(count=3, healths=(1.0, 0.8, 0.8)), "w": Stock(count=0), "x": Stock(count=4)}


def test_a_generator_burns_by_its_load_while_anything_hangs_on_it(gear):
    plant = Generator(
        piece_id="gen",
        name="Plant",
        place_id=HERE,
        continuous_w=4000.0,
        peak_w=4400.0,
        idle_l_h=0.4,
        full_l_h=2.0,
        tank_l=3.0,
    )
    power = JobPower(generators=(plant,), times=(a_time(1, 40, 60, 30), a_time(2, 0, 60)))
    fed = {"feed": "brought.gen"}
    day, boards = a_day(
        gear, a_pass(1, a_kilowatt(1, **fed), a_kilowatt(2, **fed), when=EIGHT), a_pass(2, when=EIGHT), power=power
    )
    found = generator_day(plant, day, boards)
    # 2000 of 4000 VA for 80 minutes: 0.4 + 0.8 l/h.
    assert (found.most_va, found.share, found.runs_h) == pytest.approx((2000.0, 0.5, 80 / 60))
    assert (found.fuel_l, found.tanks) == pytest.approx((1.2 * 80 / 60, 1.2 * 80 / 60 / 3))
    assert (found.start_a, found.starts) == (pytest.approx(11000 / 230), False)
    assert generator_day(replace(plant, piece_id="other"), day, boards).runs_h == 0.0
    # Two passes that burn at once start on top of each other; what stands there for both counts once.
    kettle = replace(KETTLE, watts=500.0, feed="brought.gen")
    both = replace(power, loads=(kettle,), times=(a_time(1, 0, 60), a_time(2, 60, 30, overlap_min=60)))
    lamps = [a_pass(at, a_kilowatt(at, **fed), when=EIGHT) for at in (1, 2)]
    found = generator_day(plant, *a_day(gear, *lamps, power=both))
    assert (found.most_va, found.runs_h) == (pytest.approx(2500.0), 1.5)
    assert found.start_a == pytest.approx((1000 + 10000) / 230)


def test_walls_in_the_way_are_those_that_a_line_crosses():
    corners = ((0.3, 0.1), (7.2, 1.4), (5.1, 6.3), (1.2, 4.4))
    room = replace(WEST, corners=corners, openings=())
    slanted, bare = Surroundings(a_place(rooms=(room,))), Surroundings(a_place(rooms=()))
    chance = np.random.default_rng(3)
    spots, heard = chance.uniform(-3.0, 9.0, (40, 2)), chance.uniform(-3.0, 9.0, (5, 2))
    plant = Generator(piece_id="gen", name="Plant", place_id=HERE, noise_dba=58.0)
    lost = loudness_dba(plant, spots, heard, bare) - loudness_dba(plant, spots, heard, slanted)
    walls = [shapely.LineString(pair) for pair in zip(corners, (*corners[1:], corners[0]), strict=True)]
    crossed = [[sum(wall.crosses(shapely.LineString((a, b))) for wall in walls) for b in heard] for a in spots]
    np.testing.assert_allclose(lost, np.minimum(np.array(crossed) * 10.0, 25.0), atol=1e-9)


def test_sound_falls_as_in_the_open_and_behind_each_wall():
    plant = Generator(piece_id="gen", name="Plant", place_id=HERE, noise_dba=58.0)
    spots, heard = np.array([[3.0, -9.0], [3.0, 2.0], [3.0, 2.2]]), np.array([[3.0, 2.5], [9.0, 2.5]])
    two = Surroundings(a_place(rooms=(WEST, EAST)))
    found = loudness_dba(plant, spots, heard, two)
    open_air = loudness_dba(plant, spots, heard, Surroundings(a_place(rooms=())))
    assert open_air[0, 0] == pytest.approx(sound_level_db((58.0,), reference_m=7.0, distance_m=11.5))
    assert open_air[1, 0] == open_air[2, 0] == pytest.approx(58.0 + 20 * np.log10(7.0))  # no nearer than a metre
    # One wall from outside in; from room to room the wall that both share counts once; within a room none.
    assert (open_air - found).round(9).tolist() == [[10.0, 10.0], [0.0, 10.0], [0.0, 10.0]]
    far = loudness_dba(plant, np.array([[-30.0, 2.5]]), np.array([[30.0, 2.5]]), two)
    assert loudness_dba(plant, np.array([[-30.0, 2.5]]), np.array([[30.0, 2.5]]), Surroundings(a_place(rooms=())))[
        0, 0
    ] - far[0, 0] == pytest.approx(25.0)


def test_before_the_first_rig_nothing_burns_and_the_place_is_the_first_one():
    hours = {"lit_min": 10, "shoot_min": 20, "strike_min": 50, "end_min": 60, "rig_min": 0}
    half = SimpleNamespace(lit_share=0.5)
    passes = tuple(
        SimpleNamespace(time=half, of=SimpleNamespace(place_id=place), **{name: at + hours[name] for name in hours})
        for at, place in ((30, 7), (100, 8))
    )
    phases = ShootingDay(day=EIGHT.date(), begins=EIGHT, passes=passes).phases
    told = [(each.start_min, each.place_id, [(b.at, b.share) for b in each.burning]) for each in phases]
    assert told[:4] == [(0, 7, []), (30, 7, []), (40, 7, [(0, 1.0)]), (50, 7, [(0, 0.5)])]
    assert told[4:7] == [(80, 7, []), (100, 8, []), (110, 8, [(1, 1.0)])]


def test_what_starts_with_no_more_than_it_runs_on_does_not_jump(gear):
    for start_va, jump_va in ((0.0, 0.0), (1199.0, 0.0), (1300.0, 100.0)):
        power = JobPower(loads=(replace(KETTLE, start_va=start_va),))
        found = pass_loads(a_pass(1).setup, 1, HERE, power, gear, RULES.scrim_school).loads
        assert [each.jump_va for each in found if each.load_id == "kettle"] == [pytest.approx(jump_va)]


def test_whatever_draws_anything_is_struck_in_order():
    loads = [
        SimpleNamespace(load_id=f"{watts}", watts=watts, jump_va=230.0 * watts, head=head)
        for watts, head in ((0.5, None), (0.0, None), (2.0, SimpleNamespace(warm_up_min=4.0)))
    ]
    circuit = SimpleNamespace(voltage_v=230.0, used_a=1.0)
    bar = SimpleNamespace(circuit=circuit, loads=loads, amps_of=lambda load: load.watts)
    found = start_order(bar)
    assert [each.load_id for each, _ in found.steps] == ["2.0", "0.5"]
    assert (found.peak_a, found.running_a, found.ready_min) == pytest.approx((1.0 + 2.0 + 2.0, 1.0 + 2.5, 4.0))


def test_a_generator_bears_a_start_that_is_just_its_peak():
    plant = SimpleNamespace(peak_a=10.0)
    for start_a, starts in ((10.0, True), (10.001, False)):
        assert GeneratorDay.starts.fget(SimpleNamespace(start_a=start_a, generator=plant)) is starts


def test_another_head_jumps_only_where_the_load_did(gear):
    [load] = pass_loads(a_pass(1, a_kilowatt()).setup, 1, HERE, JobPower(), gear, RULES.scrim_school).loads
    other = next(heads_alike(load, gear))
    assert with_head(replace(load, jump_va=0.0), other).jump_va == 0.0
    assert with_head(load, other).watts == other.watts


def test_without_a_lead_what_is_lost_is_lost_in_the_house():
    run = LeadRun(load=None, outlet=None, bar=SimpleNamespace(sag_v=1.5), way=None, amps=3.0, choice=None)
    assert run.lost_v == 1.5
