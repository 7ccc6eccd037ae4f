"""Which lamps are given to Pick, which of its fits are alike, and in what order they are tried: by small arrays."""

from dataclasses import replace
from types import SimpleNamespace

import numpy as np
import pytest

from iron_bucket.core.bucket.best.candidates import (
    _battery_for,
    _is_alike,
    _likely,
    _orders,
    free_lamps,
    need_of,
    on_heads,
    others_for,
)
from iron_bucket.core.selection.packing import pack
from iron_bucket.core.setups.scene.fixture import fixture_of
from tests.core.setups.made import BOX, OPEN_AIR, RULES, a_lamp, a_setup, lit_setup
from tests.tables import tabled

LIT = SimpleNamespace(placed=SimpleNamespace(configuration="c3", face="", grid=""))
OPEN = SimpleNamespace(face=None, grid=None)
BOXED = SimpleNamespace(face=SimpleNamespace(slug="dome"), grid=None)


def a_bench(count: int, **changes):
    """Of so many heads in a random order of weight, price and watts; every third is ours."""
    chance = np.random.default_rng(5)
    weight, price, watts = (chance.permutation(count) + 1.0 for _ in range(3))
    owned = np.arange(count) % 3 == 0
    made = {
        "heads": [
            SimpleNamespace(total_kg=kg, day_price=cost, technology=SimpleNamespace(value="led" if at % 2 else "hmi"))
            for at, (kg, cost) in enumerate(zip(weight, price, strict=True))
        ],
        "configurations": [SimpleNamespace(slug=f"c{at}") for at in range(count)],
        "fronts": (OPEN, BOXED),
        "candela": np.full((count, 2), 2000.0) + chance.permutation(count)[:, None],
        "lumens": np.full(count, 100.0),
        "full_w": watts,
        "is_owned": owned,
    }
    return SimpleNamespace(**(made | changes))


def test_of_a_large_bench_a_dozen_by_each_order_and_todays_are_given_to_pick():
    bench, need = a_bench(90), SimpleNamespace(illuminance_lx=500.0, throw_m=2.0)  # 2000 cd
    bench.candela[3], bench.candela[4], bench.candela[5] = 10.0, 1999.0, 10.0
    bench.lumens[5] = 2000.001 * np.pi  # in a box
    able = [at for at in range(90) if at not in (3, 4)]
    keys = (
        lambda at: (not bench.is_owned[at], bench.heads[at].total_kg),
        lambda at: bench.heads[at].total_kg,
        lambda at: 0.0 if bench.is_owned[at] else bench.heads[at].day_price,
        lambda at: bench.full_w[at],
        lambda at: max(bench.candela[at].max(), bench.lumens[at] / np.pi),
    )
    expected = {at for key in keys for at in sorted(able, key=key)[:12]}
    assert _likely(bench, LIT, need).tolist() == sorted(expected | {3})
    nobody = SimpleNamespace(placed=SimpleNamespace(configuration="gone", face="", grid=""))
    assert _likely(bench, nobody, need).tolist() == sorted(expected)
    bench.heads[6].day_price = None
    assert 6 in _likely(bench, LIT, need)


@tabled
def test_alike_is_as_soft_and_about_as_wide(apparent_deg, covers_m, is_kept):
    """Ten degrees and two metres today: three quarters of the one, seven tenths to twice of the other."""
    bench = a_bench(6)
    found = SimpleNamespace(apparent_deg=np.full((6, 2), 10.0), coverage_m=np.full((6, 2), 2.0))
    found.apparent_deg[1, 1], found.coverage_m[1, 1] = apparent_deg, covers_m

    class Some(SimpleNamespace):
        def __len__(self):
            return 2

    picked = SimpleNamespace(bench=bench, found=found, fits=Some(row=np.array([1, 2]), front=np.array([1, 0])))
    assert _is_alike(picked, LIT).tolist() == [is_kept, True]
    boxed = SimpleNamespace(placed=SimpleNamespace(configuration="c1", face="dome", grid=""))
    found.coverage_m[1, 1] = 0.0
    assert _is_alike(picked, boxed).tolist() == [False, False]  # what covers nothing is a millimetre wide
    for unknown in ({"configuration": "gone"}, {"face": "other"}, {"grid": "fine"}):
        placed = SimpleNamespace(**({"configuration": "c3", "face": "", "grid": ""} | unknown))
        assert _is_alike(picked, SimpleNamespace(placed=placed)).tolist() == [True, True]
    assert _is_alike(picked, SimpleNamespace(placed=None)).tolist() == [True, True]


def test_the_orders_are_ours_points_weight_money_watts_and_each_technology():
    chance, count = np.random.default_rng(3), 40
    bench = a_bench(count, front_is_owned=np.array([True, False]))
    row, front = chance.permutation(count), chance.integers(0, 2, count)
    points, watts = chance.permutation(count) * 1.0, chance.permutation(count) * 1.0
    kg, price = chance.permutation(count) * 1.0, chance.integers(0, 5, count) * 1.0
    bench.brought_kg = lambda rows, fronts: kg[rows]
    bench.price_to_pay = lambda rows, fronts: price[rows]
    picked = SimpleNamespace(bench=bench, fits=SimpleNamespace(row=row, front=front, points=points, watts=watts))
    kept = np.flatnonzero(chance.random(count) < 0.7)
    keys = (
        lambda at: (not (bench.is_owned[row[at]] and front[at] == 0), points[at]),
        lambda at: points[at],
        lambda at: kg[row[at]],
        lambda at: (price[row[at]], kg[row[at]]),
        lambda at: watts[at],
    )
    expected = [sorted(kept.tolist(), key=key) for key in keys]
    for odd in (0, 1):  # hmi, then led
        expected.append(sorted((at for at in kept.tolist() if row[at] % 2 == odd), key=lambda at: points[at]))
    assert [each.tolist() for each in _orders(picked, kept)] == expected


def test_what_pick_is_asked_for_is_the_light_on_the_axis_at_the_main_mark(gear):
    lamp = a_lamp(piece_id="key", x_m=1.0, y_m=1.0, z_m=2.0, level=0.5)
    scene = lit_setup(gear, a_setup(lamps=(lamp,)))
    (stand,) = free_lamps(scene)
    need, mark = need_of(scene, stand, RULES), scene.built.marks[stand.mark].mark.position_m
    assert need.throw_m == pytest.approx(float(np.hypot.reduce(mark - [1.0, 1.0, 2.0])))
    axis_cd = fixture_of(lamp, gear, RULES.scrim_school).axis_cd
    assert need.illuminance_lx == pytest.approx(axis_cd * 0.5 / need.throw_m**2)


@pytest.mark.parametrize(
    ("around", "feed", "mains"),
    [(BOX, "socket", {"socket"}), (BOX, "battery-v-150", {""}), (OPEN_AIR, "battery-v-150", set())],
)
def test_a_way_from_the_mains_is_there_where_outlets_are_or_today_is_on_them(gear, around, feed, mains):
    scene = lit_setup(gear, a_setup(lamps=(a_lamp(level=0.5, feed=feed),)), around)
    (stand,) = free_lamps(scene)
    others = others_for(scene, stand, on_heads(pack(gear)), gear, RULES)
    feeds = {each["feed"] for each in others}
    batteries = {each.slug for each in gear.batteries}
    assert feeds - batteries == mains
    heads = {each.slug: each for each in gear.heads}
    by_slug = {each.slug: each for each in gear.configurations}
    for each in others:
        head = heads[by_slug[each["configuration"]].head_slug]
        if each["feed"] in batteries:
            able = [kind for kind in gear.batteries if head.plate_for(kind.mount) and not kind.is_retired]
            best = max(able, key=lambda kind: (kind.is_owned, kind.supply(1).energy_wh, kind.slug))
            assert each["feed"] == best.slug == _battery_for(head, gear).slug
        else:
            assert head.mains.takes(RULES.voltage_v)
    none = replace(gear, batteries=tuple(replace(each, is_retired=True) for each in gear.batteries))
    assert _battery_for(heads["day-led-300"], none) is None
