"""Ways to bring a light to a colour, and whole plans: each way is looked at in the set-up that it makes."""

import math
from dataclasses import replace
from types import SimpleNamespace

import numpy as np
import pytest

from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.seen import seen_against
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Origin
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.setups.colour.agree import Scene, School, agreeing, sources_of, with_changes
from iron_bucket.core.setups.colour.ways import Asked, GelStock, WayKind, ways_for
from iron_bucket.core.setups.evaluate.lit_scene import fresh_response
from iron_bucket.core.setups.plan.setup import HouseColour, WindowFilm
from tests.core.setups.made import ANNA, NOON, RULES, a_lamp, a_place, a_setup, lit_setup
from tests.tables import table

WHITE, TOLERANCE = LightColour.of_cct(5600.0), 15.0
BULB = table(__file__, "BULB")
TUNGSTEN = {"piece_id": "hot", "name": "Hot", "configuration": "tung-650.flood", "level": 1.0, "x_m": 1.0, "y_m": 1.0}
TWO_WHITES = table(__file__, "TWO_WHITES")


def a_scene(gear, *, house=(BULB,), **changes) -> Scene:
    made = {"lamps": (a_lamp(), a_lamp(**TUNGSTEN), a_lamp(**TWO_WHITES)), "people": (ANNA,), "when": NOON}
    around = Surroundings(a_place(house_lamps=house))
    lit = lit_setup(gear, a_setup(**(made | changes)), surroundings=around)
    return Scene(lit=lit, gear=gear, rules=RULES, response_for=fresh_response, stock=GelStock(gear=gear))


def light_of(lit, light_id):
    return next(each for each in lit.built.lights if each.light_id == light_id)


@pytest.mark.parametrize("target", [WHITE, LightColour.of_cct(3200.0), LightColour.of_cct(4300.0, 0.006)])
def test_a_way_does_to_its_light_what_it_says(gear, target):
    scene = a_scene(
        gear,
        films=(WindowFilm(piece_id="film-1", opening_id="window", stops=1.0, sheets=("quarter-orange",)),),
        house=(BULB,),
    )
    kinds = set()
    asked = scene.asked(target, TOLERANCE)
    for light, _ in sources_of(scene.lit):
        ways = ways_for(light, asked)
        within = [each for each in ways if each.off <= TOLERANCE]
        assert list(ways[: len(within)]) == within
        costs = [each.cost for each in within if each.kind is not WayKind.OFF]
        assert costs == sorted(costs)
        for way in ways:
            kinds.add(way.kind)
            after = light_of(with_changes(scene, way.changes), light.light_id)
            if way.kind is WayKind.OFF:
                assert after.level == 0.0
                continue
            assert after.colour.uv == pytest.approx(way.colour.uv, abs=2e-5), (light.name, way.text)
            seen = seen_against(after.colour, target)
            assert (way.left.mired, way.left.duv) == (
                pytest.approx(seen.mired, abs=0.5),
                pytest.approx(seen.duv, abs=1e-4),
            )
            if way.kind in (WayKind.FILM, WayKind.GEL) and light.placed is None:
                assert after.level == pytest.approx(light.level * 2.0**-way.loss_stops)
            assert (way.sheets == 0) == (way.area_m2 == 0.0)
    assert kinds >= {WayKind.NOTHING, WayKind.CONTROL, WayKind.GEL, WayKind.FILM, WayKind.GLOBE, WayKind.OFF}


def test_what_a_lamp_wore_comes_off_and_its_light_comes_back(gear):
    scene = a_scene(gear, lamps=(a_lamp(sheets=("nd-0.3", "full-orange")),), house=())
    light = light_of(scene.lit, "key")
    ways = {each.kind: each for each in reversed(ways_for(light, scene.asked(WHITE, TOLERANCE)))}
    assert ways[WayKind.NOTHING].left.mired == pytest.approx(159.0, abs=1.0)
    gel = ways[WayKind.GEL]
    assert gel.changes[0].to["sheets"][0] == "nd-0.3"
    assert "full-orange" not in gel.changes[0].to["sheets"]
    assert gel.loss_stops < 0.0


def test_hot_lamps_are_cautioned_and_what_takes_no_gel_gets_none(gear):
    scene = a_scene(gear)
    hot = ways_for(light_of(scene.lit, "hot"), scene.asked(WHITE, TOLERANCE))
    gels = [each for each in hot if each.kind is WayKind.GEL]
    assert gels
    assert all(each.caution.startswith("650 W hot lamp") for each in gels)
    assert not [each for each in hot if each.kind is WayKind.CONTROL]
    cool = ways_for(light_of(scene.lit, "bi"), scene.asked(WHITE, TOLERANCE))
    assert not [each for each in cool if each.caution]
    bare = replace(gear, heads=tuple(replace(head, takes_gel=False) for head in gear.heads))
    asked = replace(scene.asked(WHITE, TOLERANCE), stock=GelStock(gear=bare))
    light = light_of(scene.lit, "hot")
    light = replace(light, fixture=replace(light.fixture, head=bare.head("tung-650")))
    assert [each.kind for each in ways_for(light, asked)] == [WayKind.NOTHING]


def test_gels_of_ours_before_those_that_have_to_be_bought(gear):
    scene = a_scene(gear)
    none = replace(gear, sheets=tuple(replace(each, owned=0, day_price=3.0) for each in gear.sheets))
    light = light_of(scene.lit, "hot")
    ours, theirs = (
        ways_for(light, replace(scene.asked(WHITE, TOLERANCE), stock=GelStock(gear=each)))[0] for each in (gear, none)
    )
    assert (ours.to_buy, ours.price) == ((), 0.0)
    assert theirs.to_buy
    assert theirs.price == 3.0 * theirs.sheets
    assert theirs.cost[0] == 3.0 * theirs.sheets + len(theirs.to_buy)  # each kind has to be fetched


def test_gel_the_lamps_takes_the_cheapest_of_every_light_and_is_looked_at_whole(gear):
    scene = a_scene(gear)
    (plan,) = agreeing(scene, WHITE, TOLERANCE, (School.GEL,))
    assert {each.light.light_id for each in plan.sources} >= {"key", "hot", "bi", "house-bulb"}
    after = with_changes(scene, plan.changes)
    for each in plan.sources:
        near = [way for way in each.ways if way.off <= TOLERANCE and way.kind is not WayKind.OFF]
        assert each.taken is (next((w for w in near if w.kind is WayKind.NOTHING), near[0]) if near else each.taken)
        if near:
            left = seen_against(light_of(after, each.light.light_id).colour, WHITE)
            assert abs(left.mired) <= TOLERANCE + 0.5
    assert plan.worst == pytest.approx(max(each.taken.off for each in plan.sources))
    assert plan.area_m2 == pytest.approx(sum(each.taken.area_m2 for each in plan.sources))
    key = next(each for each in plan.marks if each.name == "Anna key side")
    place = after.place_of("anna.key")
    assert key.after - key.before == pytest.approx(
        math.log2(after.total_lx[place] / scene.lit.total_lx[scene.lit.place_of("anna.key")]), abs=1e-6
    )
    assert abs(key.seen.mired) < 30.0
    ids = [each.piece_id for name in ("films", "house") for each in getattr(after.built.setup, name)]
    assert len(ids) == len(set(ids))


def test_the_other_school_moves_the_balance_to_where_least_is_left(gear):
    warm = (a_lamp(**TUNGSTEN), a_lamp(**(TUNGSTEN | {"piece_id": "b", "name": "B", "x_m": 4.0})))
    scene = a_scene(gear, lamps=warm, house=(), when=NOON.replace(hour=0))
    gel, moved = agreeing(scene, WHITE, TOLERANCE)
    assert (gel.school, moved.school) == (School.GEL, School.BALANCE)
    assert moved.changes[0].to["white_balance_k"] == pytest.approx(3200.0, abs=50.0)
    assert (len(moved.changes), moved.area_m2, moved.worst < TOLERANCE) == (1, 0.0, True)
    assert gel.area_m2 > 0.0
    assert (moved.amps, moved.weight_kg, moved.price) == (0.0, 0.0, 0.0)
    assert with_changes(scene, moved.changes).built.setup.look.white.cct_k == moved.target.cct_k
    with pytest.raises(BadValue, match="saturated"):
        agreeing(scene, LightColour(u=0.12, v=0.37, origin=Origin.MEASURED), TOLERANCE)


def test_lights_come_by_what_they_give_and_not_where_they_are_hardly_seen():
    levels = {"some": 1.0, "most": 0.5, "off": 0.0, "hardly": 1.0, "here": 1.0}
    lights = tuple(SimpleNamespace(light_id=name, level=level) for name, level in levels.items())
    given = np.array([[20.0, 10.0, 0.0], [77.1, 86.0, 0.0], [0.0, 0.0, 0.0], [2.9, 1.0, 0.0], [0.0, 3.0, 0.0]])
    lit = SimpleNamespace(built=SimpleNamespace(lights=lights), by_light_lx=given, total_lx=given.sum(axis=0))
    found = [(light.light_id, share) for light, share in sources_of(lit)]
    assert found == [("most", pytest.approx(0.8155)), ("some", pytest.approx(0.15)), ("here", pytest.approx(0.015))]
    dark = SimpleNamespace(built=lit.built, by_light_lx=0.0 * given, total_lx=np.zeros(3))
    assert sources_of(dark) == ()


def test_a_lamp_of_the_house_keeps_what_was_done_to_it(gear):
    scene = a_scene(gear, house=(BULB,))
    wrapped = HouseColour(piece_id="house-1", lamp_id="bulb", sheets=("full-blue",))
    other = a_scene(gear, house=(BULB,), **{})
    lit = lit_setup(gear, replace(other.lit.built.setup, house=(wrapped,)), surroundings=other.lit.built.surroundings)
    before, after = light_of(scene.lit, "house-bulb"), light_of(lit, "house-bulb")
    assert after.colour.mired - before.colour.mired == pytest.approx(-137.0)
    assert after.level == pytest.approx(0.34)
    asked = Asked(target=WHITE, tolerance=TOLERANCE, stock=scene.stock, built=lit.built)
    way = next(each for each in ways_for(after, asked) if each.kind is WayKind.GLOBE)
    assert (way.changes[0].piece_id, way.changes[0].to["sheets"]) == ("house-1", ())
    stays = replace(BULB, must_stay=True, is_bare=False, can=("dimmed",))
    fixed = a_scene(gear, house=(stays,))
    kinds = [each.kind for each in ways_for(light_of(fixed.lit, "house-bulb"), fixed.asked(WHITE, TOLERANCE))]
    assert kinds == [WayKind.NOTHING]
