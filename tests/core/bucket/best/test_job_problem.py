"""The problem of a job: what could do a lamp's work in the scene, and that today's choice comes to today's kit."""

import math
from dataclasses import replace
from types import SimpleNamespace

import numpy as np
import pytest

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.case import Case
from iron_bucket.core.bucket.best.candidates import FIELDS, free_lamps, lux_of, need_of, on_heads, others_for
from iron_bucket.core.bucket.best.compared import line_changes, target_changes
from iron_bucket.core.bucket.best.job_problem import _case_m3, _is_there, _mains_va, _serves, job_problem
from iron_bucket.core.bucket.best.optimum import best_for
from iron_bucket.core.bucket.best.outcome import lamp_changes
from iron_bucket.core.bucket.best.problem import Figures, Goal, Measure, counted, light_of, measured
from iron_bucket.core.bucket.best.substitutes import substitutes_for
from iron_bucket.core.bucket.entry import Entry
from iron_bucket.core.bucket.hire import hire_price, sources_of
from iron_bucket.core.bucket.load.piece import packed_size_m
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.quantities.mired import mired_from_k
from iron_bucket.core.selection.packing import pack
from iron_bucket.core.setups.evaluate.ladder import ladder_of
from iron_bucket.core.setups.scene.fixture import fixture_of
from tests.core.bucket.made import a_kit_pass, job_kit, packed
from tests.core.setups.made import BOX, RULES, a_lamp, a_setup, a_target, lit_setup
from tests.made_up import a_gear

KEY = {"piece_id": "key", "configuration": "day-led-300.bare", "face": "octagon-0.9", "level": 0.4, "feed": "socket"}
EDGE = {"piece_id": "edge", "configuration": "bi-lens-60.flood", "y_m": 4.5, "z_m": 2.4, "feed": "battery-v-150"}


@pytest.fixture(scope="module")
def bench(gear):
    return on_heads(pack(gear))


def two_lamps(gear, **changes):
    made = {"lamps": (a_lamp(**KEY), a_lamp(**(EDGE | changes))), "targets": (a_target(tolerance=0.5),)}
    setup = a_setup(**made)
    level = lit_setup(gear, setup)
    # the target lies where the key is today
    stops = float(np.log2(level.total_lx[free_lamps(level)[0].mark] / setup.look.wanted_lx(RULES.receptor)))
    return lit_setup(gear, replace(setup, targets=(a_target(stops=round(stops, 2), tolerance=0.5),)))


def a_problem(gear, bench, *scenes, days=2, held=(), head=""):
    passes = [
        a_kit_pass(at + 1, packed(each.built.setup, gear, RULES, BOX), hour=at, chain=1)
        for at, each in enumerate(scenes)
    ]
    kit = job_kit(passes, held, JobPower(), gear, RULES)
    return job_problem(dict(enumerate(scenes, 1)), kit, bench, gear, RULES, days, head=head), kit


def test_others_do_the_work_of_the_one_that_stands_there(gear, bench):
    scene = two_lamps(gear)
    for stand in free_lamps(scene):
        others = others_for(scene, stand, bench, gear, RULES)
        assert len(others) > 4
        lamps = [replace(stand.placed, **fields) for fields in others]
        lux = lux_of(scene, lamps, gear, RULES)
        wanted_k = need_of(scene, stand, RULES).cct_k
        own = scene.by_light_lx[stand.at, stand.mark]
        for lamp, row in zip(lamps, lux, strict=True):
            fixture = fixture_of(lamp, gear, RULES.scrim_school)
            assert (
                row[stand.mark] * fixture.level_limit >= 0.6 * own
            )  # Pick sees a head on its axis, the scene the face
            assert abs(mired_from_k(fixture.colour(lamp).cct_k) - mired_from_k(wanted_k)) <= 25.1
            assert lamp.feed == "socket" or gear.find(BatteryKind, lamp.feed) or lamp.feed == ""
            today = {name: getattr(stand.placed, name) for name in FIELDS}
            assert {name: getattr(lamp, name) for name in FIELDS} != today
        assert {gear.find(BatteryKind, lamp.feed) is None for lamp in lamps} == {True, False}
    key = free_lamps(scene)[0]
    soft = [fields for fields in others_for(scene, key, bench, gear, RULES) if fields["face"]]
    assert soft  # a box in place of a box
    assert lux_of(scene, [key.placed], gear, RULES)[0] == pytest.approx(scene.response.whole_lx[key.at], rel=1e-3)
    assert lux_of(scene, [], gear, RULES).shape == (0, len(scene.built.marks))


def test_todays_choice_comes_to_todays_light_and_kit(gear, bench):
    scene = two_lamps(gear)
    tighter = two_lamps(gear, level=0.5)
    job, kit = a_problem(gear, bench, scene, tighter)
    problem, today = job.problem, [0] * len(job.problem.seats)
    levels = [seat.level for seat in problem.seats]
    for number, each in ((1, scene), (2, tighter)):
        assert light_of(problem, today, levels)[number] == pytest.approx(each.total_lx, rel=1e-9)
    counts = counted(problem, today)
    assert {sort: counts[sort] for sort, line in kit.by_sort.items() if line.peak} == {
        sort: line.peak.quantity for sort, line in kit.by_sort.items() if line.peak
    }
    assert problem.times == ((1,), (2,))
    groups = [seat.group for seat in problem.seats]
    assert groups[:2] == groups[2:]  # the same lamp in both passes of a chain
    figures = measured(problem, today, levels)
    weights = sum(line.weight_of(line.peak.quantity) for line in kit.lines if line.peak)
    assert figures[Measure.WEIGHT] == pytest.approx(weights)
    key = fixture_of(a_lamp(**KEY), gear, RULES.scrim_school).head.draw
    assert figures[Measure.AMPS] == pytest.approx(float(key.va_from_w(key.watts(0.4))) / 230.0, rel=0.02)
    light = problem.lights[0]
    (mark,) = job.target_names[1]
    assert light.low_lx[mark] <= scene.total_lx[mark] <= light.high_lx[mark]
    assert light.high_lx[mark] / light.low_lx[mark] == pytest.approx(2.0 ** (2 * (0.5 - 0.02)), rel=0.02)
    assert np.isinf(np.delete(light.high_lx, mark)).all()


def test_what_serves_no_target_keeps_its_light_and_what_is_seen_or_held_stays(gear, bench):
    scene = two_lamps(gear)
    job, _ = a_problem(gear, bench, scene)
    stand = free_lamps(scene)[1]
    own = scene.by_light_lx[stand.at, stand.mark]
    for choice in job.problem.seats[1].choices:
        assert choice.lowest * choice.lux[stand.mark] >= own * 2.0 ** (-1.0 / 3.0) * 0.999
        assert choice.highest * choice.lux[stand.mark] <= own * 2.0 ** (1.0 / 3.0) * 1.001
    choices = job.problem.seats[1].choices
    assert min(each.lowest * each.lux[stand.mark] for each in choices) == pytest.approx(own * 2.0 ** (-1.0 / 3.0))
    assert max(each.highest * each.lux[stand.mark] for each in choices) == pytest.approx(own * 2.0 ** (1.0 / 3.0))
    for change in ({"is_on": False}, {"is_locked": True}, {"name": "Practical on the wall"}):
        fewer, _ = a_problem(gear, bench, two_lamps(gear, **change))
        assert [of.placed.piece_id for of in fewer.seats] == ["key"]
        assert fewer.problem.fixed[1]["bi-lens-60", 1.0] == 1


def test_what_is_found_is_what_the_set_up_takes(gear, bench):
    scene = two_lamps(gear)
    job, _ = a_problem(gear, bench, scene)
    best = best_for(job.problem, Goal(weights={Measure.AMPS: 1.0}).with_ties_broken())
    assert best.measures[Measure.AMPS] == 0.0  # both from batteries
    changes = {each.piece_id: each for each in lamp_changes(job, job.problem, best)}
    key = changes["key"]
    assert gear.find(BatteryKind, key.to["feed"])
    assert (key.was["feed"], key.setup_id, key.name) == ("socket", 1, scene.built.setup.lamps[0].name)
    assert all(isinstance(value, str | list | float) for value in key.to.values())
    after = lit_setup(gear, taken(scene, changes.values()))
    (mark,) = job.target_names[1]
    light = job.problem.lights[0]
    assert light.low_lx[mark] * 0.99 <= after.total_lx[mark] <= light.high_lx[mark] * 1.01


def taken(scene, changes):
    """The set-up with those changes made."""
    to = {each.piece_id: {n: tuple(v) if n == "sheets" else v for n, v in each.to.items()} for each in changes}
    lamps = tuple(replace(lamp, **to.get(lamp.piece_id, {})) for lamp in scene.built.setup.lamps)
    return replace(scene.built.setup, lamps=lamps)


def test_a_substitute_gives_the_same_light_wherever_the_head_stands(gear, bench):
    scenes = (two_lamps(gear), two_lamps(gear, level=0.5))
    job, _ = a_problem(gear, bench, *scenes, head="day-led-300")
    assert {of.placed.piece_id for of in job.seats} == {"key"}
    found = substitutes_for(job, "day-led-300", gear)
    assert len(found) > 2
    ranks = [(-each.does, round(each.price, 2), each.weight_kg) for each in found]
    assert ranks == sorted(ranks)
    for each in found:
        assert each.head.slug != "day-led-300"
        assert (each.of, each.does, len(each.changes)) == (2, each.does, each.does)
        low, high = each.levels
        assert 0.0 < low <= high <= 1.0
    first = found[0]
    assert first.does == 2
    for number, scene in enumerate(scenes, 1):
        own = [each for each in first.changes if each.setup_id == number]
        after = lit_setup(gear, taken(scene, own))
        mark = int(np.argmax(scene.by_light_lx[0]))
        assert after.by_light_lx[0, mark] == pytest.approx(scene.by_light_lx[0, mark], rel=2.0**0.1 - 1.0 + 0.02)


def test_two_kits_are_told_apart_line_by_line_and_target_by_target(gear, bench):
    scene = two_lamps(gear)
    job, kit = a_problem(gear, bench, scene, head="day-led-300")
    other = substitutes_for(job, "day-led-300", gear)[-1]
    setup = taken(scene, other.changes)
    then = job_kit([a_kit_pass(1, packed(setup, gear, RULES, BOX), chain=1)], (), JobPower(), gear, RULES)
    sources = [sources_of(each.lines, gear, (), 2) for each in (kit, then)]
    lines = {each.slug: each for each in line_changes(kit, then, *sources)}
    gone, come = lines["day-led-300"], lines[other.head.slug]
    assert (gone.now, gone.then, gone.kind, come.now, come.then) == (1, 0, "heads", 0, 1)
    assert gone.weight == pytest.approx(-gear.head("day-led-300").total_kg)
    assert "bi-lens-60" not in lines
    assert sum(each.price for each in lines.values()) == pytest.approx(other.price)
    dear = sources[1] | {(come.slug, 1.0): replace(sources[1][come.slug, 1.0], price=12.5)}
    assert {each.slug: each.price for each in line_changes(kit, then, sources[0], dear)}[come.slug] == 12.5
    assert sum(each.weight for each in lines.values()) == pytest.approx(other.weight_kg)
    dark = lit_setup(gear, replace(setup, lamps=(replace(setup.lamps[0], level=0.02), setup.lamps[1])))
    ladders = [ladder_of(each, RULES.receptor) for each in (scene, lit_setup(gear, setup), dark)]
    (held,), (lost,) = (list(target_changes(4, ladders[0], each)) for each in ladders[1:])
    assert (held.setup_id, held.name, held.is_lost, lost.is_lost) == (4, "Anna key side", False, True)
    assert lost.then < held.now - 0.5
    (won,) = target_changes(4, ladders[2], ladders[0])
    assert not won.is_lost


def test_what_a_choice_weighs_costs_draws_and_fills(gear, bench):
    """Four days of hire, six hours on batteries, by what each piece says of itself."""
    scene = two_lamps(gear)
    passes = [a_kit_pass(1, packed(scene.built.setup, gear, RULES, BOX), hours=6.0, chain=1)]
    head = Entry(entry_id=9, parent_id=None, kind="heads", item=gear.head("tung-2000"), quantity=1)
    cloth = replace(head, entry_id=10, kind="cloths", item=gear.cloths[0], area_m2=1.44)
    free = replace(gear.accessories[0], slug="free", day_price=None, week_price=None)
    held = (head, cloth, replace(head, entry_id=11, kind="accessories", item=free))
    kit = job_kit(passes, held, JobPower(), gear, RULES)
    done = []
    job = job_problem({1: scene}, kit, bench, gear, RULES, 4, lambda *told: done.append(told))
    assert done == [(0, 1)]
    items = {each.slug: each for each in (*gear.items(), free)}
    cases = [math.prod(each.inner_m) for each in gear.cases if not each.is_cart]
    for (slug, area_m2), found in job.problem.figures.items():
        item = items[slug]
        price = hire_price(item, 4)
        assert found.weight_kg == pytest.approx(item.total_kg * area_m2)
        assert found.price == pytest.approx((price or 0.0) * area_m2)
        size, _ = packed_size_m(item, "", found.weight_kg) if item.packed_l_m else (None, None)
        if size:
            assert found.case_share == pytest.approx(math.prod(size) / (0.7 * sum(cases) / len(cases)))
        assert (found.for_hire > 0) is (price is not None and item.hire_stock != 0)
    assert job.problem.anyway == {("tung-2000", 1.0): 1, (gear.cloths[0].slug, 1.44): 1, (free.slug, 1.0): 1}
    stand = free_lamps(scene)[1]
    own_lx = float(scene.by_light_lx[stand.at, stand.mark])
    for choice, fields in zip(job.problem.seats[1].choices, job.seats[1].fields, strict=True):
        kind = gear.find(BatteryKind, fields["feed"])
        lamp = fixture_of(replace(stand.placed, **fields), gear, RULES.scrim_school)
        head, levels = lamp.head, (choice.lowest, choice.highest)
        assert choice.is_on_battery is (kind is not None)
        assert (choice.technology, choice.one_kg) == (head.technology.value, head.total_kg)
        if kind is None:
            ends = [float(head.draw.va_from_w(head.draw.watts(level))) for level in levels]
            assert [choice.idle_va + choice.span_va * level for level in levels] == pytest.approx(ends)
        elif kind.mount != "built-in":
            level = min(max(own_lx / choice.lux[stand.mark], choice.lowest), lamp.level_limit)
            needed = math.ceil(float(lamp.head.draw.watts(level)) * 6.0 / kind.supply(1).energy_wh)
            plate = lamp.head.plate_for(kind.mount)
            assert choice.pieces[kind.slug, 1.0] == max(needed, plate.plates)
            assert (choice.idle_va, choice.span_va) == (0.0, 0.0)


def test_small_laws_of_a_problem(gear):
    def case(side_m: float, **more):
        made = {"inner_l_m": 1.0, "inner_w_m": 1.0, "inner_h_m": side_m, "most_kg": 30.0, "weight_kg": 2.0}
        return Case(**({"slug": f"c{side_m}", "name": "c", "maker": "", "wall_m": 0.01} | made | more))

    cases = (case(0.2), case(0.4), case(5.0, is_cart=True), case(3.0, is_retired=True))
    assert _case_m3(a_gear(cases=cases)) == pytest.approx(0.7 * 0.3)
    assert _case_m3(a_gear()) == 0.12
    draw = gear.head("day-led-300").draw
    idle_va, span_va = _mains_va(gear.head("day-led-300"), 0.4, 0.4)
    assert (idle_va, span_va) == (pytest.approx(float(draw.va_from_w(draw.watts(0.4)))), 0.0)
    lit = SimpleNamespace(total_lx=np.array([100.0, 100.0]))
    for own_lx, names, is_so in ((25.0, {0: "a", 1: "b"}, True), (24.9, {0: "a"}, False), (99.0, {}, False)):
        assert _serves(lit, np.array([own_lx, 0.0]), names) is is_so
    figures = Figures(weight_kg=1.0, price=1.0, case_share=0.1, ready=0)
    for hire, own in ((0, 0), (1, 0), (0, 1)):
        assert _is_there(replace(figures, for_hire=hire, ready=own)) is bool(hire or own)


def test_what_both_kits_have_is_told_by_what_changes():
    thing = ("lamp", 1.0)

    def kit(count: int):
        item = SimpleNamespace(name="Lamp")
        line = SimpleNamespace(quantity=count, item=item, kind="heads", weight_of=lambda pieces: 3.0 * pieces)
        return SimpleNamespace(by_sort={thing: line})

    sources = [{thing: SimpleNamespace(price=price)} for price in (4.0, 12.5)]
    (found,) = line_changes(kit(2), kit(3), *sources)
    assert (found.now, found.then, found.price, found.weight) == (2, 3, 8.5, 3.0)
    (back,) = line_changes(kit(3), kit(2), sources[1], {})
    assert (back.price, back.weight) == (-12.5, -3.0)
    assert list(line_changes(kit(2), kit(2), *sources)) == []


def test_what_nobody_has_is_no_choice_but_what_stands_there_is(gear):
    nobody = ("day-led-300", "day-led-600")
    heads = tuple(
        replace(each, owned=0, hire_stock=0, day_price=None) if each.slug in nobody else each for each in gear.heads
    )
    bare = replace(gear, heads=heads)
    job, _ = a_problem(bare, on_heads(pack(bare)), two_lamps(bare))
    choices = [each.head for each in job.problem.seats[0].choices]
    assert choices[0] == "day-led-300"
    assert len(set(choices)) > 3
    assert "day-led-600" not in choices
    assert "day-led-300" not in [each.head for each in job.problem.seats[1].choices]
