"""What single pieces of a set-up bring, by figures worked out by hand."""

from dataclasses import replace

import pytest

from iron_bucket.core.bench.accessory import Accessory
from iron_bucket.core.bench.flag import FlagKind
from iron_bucket.core.bucket.ballast import Standing, bag_of, ballast_of
from iron_bucket.core.bucket.kit_rules import CrewKit, OwnRule, RuleChange
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.modifiers.kinds import Sheet
from iron_bucket.core.places.place import HouseLamp
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.setups.plan.setup import HouseColour
from tests.core.bucket.made import a_job, packed, rules_with, setup_of
from tests.core.setups.made import BOX, OPEN_AIR, a_place
from tests.tables import tabled


def of_rule(kit, rule: str):
    return [each for each in kit.needs if each.rule == rule]


def test_film_is_by_the_area_of_its_window_from_rolls_of_1_2_m_with_a_tenth_over(gear):
    rolls = tuple(replace(each, pack=1) if each.role == "window film" else each for each in gear.accessories)
    (room,) = a_place().rooms
    wide = replace(room, openings=(replace(room.openings[0], width_m=4.0, height_m=2.0),))
    there = Surroundings(a_place(rooms=(wide,)))
    film = {"opening_id": "window", "stops": 2.0, "sheets": ("full-orange",)}
    kit = packed(setup_of(films=(film,)), replace(gear, accessories=rolls), around=there)
    (brought,), (gel,) = of_rule(kit, "film"), of_rule(kit, "gel")
    assert brought.pieces == 8  # 8 square metres / 1.2 m, and a tenth: 7.33 m
    assert (gel.cut, gel.figure) == ((4.1, 2.1), "Window: 4.1 m × 2.1 m")


def test_gels_go_round_lamps_of_the_house_and_globes_are_told(gear):
    lamps = tuple(HouseLamp(lamp_id=each, name=each.upper(), x_m=1.0, y_m=1.0, z_m=2.5, lumens=800.0) for each in "ab")
    colour = HouseColour(piece_id="h", lamp_id="b", globe_k=3200.0, sheets=("full-orange",))
    kit = packed(setup_of(house=(colour,)), gear, around=Surroundings(a_place(house_lamps=lamps)))
    (gel,) = of_rule(kit, "gel")
    assert (gel.cut, gel.figure, gel.holder) == ((0.6, 0.5), "B: 0.6 m × 0.5 m", "b:gel")
    assert kit.left_out == ("B in Pass: a globe of 3200 K, to buy",)


def test_what_has_no_stock_is_worn_and_not_cut(gear):
    orange, scrim = (gear.by_slug(Sheet, slug) for slug in ("full-orange", "scrim-130-single"))
    loose = tuple(replace(each, stock_w_m=0.0, stock_l_m=0.0) if each is orange else each for each in gear.sheets)
    lamp = {"sheets": ("full-orange",)}
    kit = packed(setup_of(lamps=(lamp,)), replace(gear, sheets=loose))
    assert [(each.entry.item.slug, each.cut) for each in of_rule(kit, "worn")] == [("full-orange", None)]
    cuttable = tuple(replace(each, stock_w_m=0.5, stock_l_m=0.6) if each is scrim else each for each in gear.sheets)
    lamp = {"configuration": "tung-650.flood", "sheets": ("scrim-130-single",)}
    kit = packed(setup_of(lamps=(lamp,)), replace(gear, sheets=cuttable))
    assert [each.rule for each in kit.needs if each.entry.item.slug == scrim.slug] == ["worn"]


def test_a_flag_is_the_smallest_of_its_kind_that_covers_and_what_is_not_there_weighs_a_kilo(gear):
    solid = next(each for each in gear.flags if each.kind is FlagKind.SOLID)
    flags = (
        replace(solid, slug="long", width_m=0.5, height_m=2.0),
        replace(solid, slug="square", width_m=0.8, height_m=0.8),
        replace(solid, slug="gone", width_m=0.6, height_m=0.8, is_retired=True),
        replace(solid, slug="net", width_m=0.5, height_m=0.8, kind=FlagKind.SINGLE_NET),
    )
    bench = replace(gear, flags=flags)
    kit = packed(setup_of(flags=({"width_m": 0.5, "height_m": 0.8},)), bench)
    assert [each.entry.item.slug for each in of_rule(kit, "flag")] == ["square"]
    kit = packed(setup_of(flags=({"width_m": 9.0, "height_m": 0.8},)), bench)
    assert [each.figure for each in of_rule(kit, "flat-stand")] == ["Flag: 1.0 kg, 1.5 m up"]


@pytest.mark.parametrize(("face", "sail_m2"), [("octagon-0.9", 0.81), ("", 0.0)])
def test_a_box_is_a_sail_outdoors_and_a_bare_lamp_is_none(gear, face, sail_m2):
    lamp = {"configuration": "day-led-300.bare", "face": face, "z_m": 1.8, "feed": "battery-v-150"}
    kit = packed(setup_of(lamps=(lamp,)), gear, around=OPEN_AIR)
    (stand,) = of_rule(kit, "stand")
    payload_kg = float(stand.figure.split(": ")[1].split(" kg")[0])
    standing = Standing(
        stand=stand.entry.item, count=1, payload_kg=payload_kg, height_m=1.8, sail_m2=sail_m2, is_outdoors=True
    )
    found = ballast_of(standing, CrewKit(), bag_of(gear))
    assert sum(each.pieces for each in of_rule(kit, "ballast")) == found.wind_bags
    assert all(each.figure.startswith("L0: 0.8 m²") for each in of_rule(kit, "ballast"))
    assert not of_rule(kit, "dimmer")  # on a battery


def test_what_nothing_carries_is_told_unless_it_is_a_lamp_over_head_height(gear):
    none = replace(gear, stands=())
    for piece, told in (
        ({"lamps": ({"z_m": 2.0},)}, True),
        ({"lamps": ({"z_m": 2.1},)}, False),
        ({"frames": ({"z_m": 2.5},)}, True),
    ):
        words = [each for each in packed(setup_of(**piece), none).left_out if "no stand of the bench" in each]
        assert bool(words) is told


def test_legs_without_room_are_said(gear):
    for x_m, is_said in ((0.2, True), (3.0, False)):
        (stand,) = of_rule(packed(setup_of(lamps=({"x_m": x_m, "y_m": 2.5},)), gear, around=BOX), "stand")
        assert ("; its legs reach" in stand.figure, "the wall is 0.2 m away" in stand.figure) == (is_said, is_said)


@tabled
def test_figures_that_rules_may_ask_for(gear, of, pieces, fact, bags):
    """Fifty pegs for each, from bags of fifty; one and a half metre of height ask for none below that."""
    own = OwnRule(rule_id="own-1", says="Pegs", of=of, brings="peg", fact=fact, per=fact, least=0.5, count=50.0)
    kit = packed(setup_of(**pieces), gear, rules_with(own_rules=(own,)), BOX)
    assert sum(each.pieces for each in of_rule(kit, "own-1")) == 50 * bags


def test_tubes_are_those_of_the_frame_s_length(gear):
    tube = next(each for each in gear.accessories if each.role == "frame tube")
    lengths = {"short": -0.6, "near": 0.015, "far": 0.03}
    tubes = tuple(replace(tube, slug=slug, length_m=tube.length_m + off) for slug, off in lengths.items())
    frame = {"frame": "frame-2.4", "cloth": "cloth-muslin"}
    for chosen, expected in ((tubes, ["near"]), ((tubes[0], tubes[2]), [])):
        kit = packed(setup_of(frames=(frame,)), replace(gear, accessories=chosen))
        assert [each.entry.item.slug for each in of_rule(kit, "frame-tubes")] == expected


def test_a_guessed_lead_is_a_plain_one_as_long_as_the_way_and_never_of_many(gear):
    lead = next(each for each in gear.cables if each.slug == "lead-5")
    bare = Surroundings(a_place(sockets=(), circuits=()))

    def guessed(*cables, voltage=HouseRules()):  # noqa: B008
        kit = a_job(replace(gear, cables=cables), setup_of(lamps=({"z_m": 1.5},)), around=bare, rules=voltage)
        found = {line.item.slug: why.figure for line in kit.lines for why in line.whys if why.rule == "lead-guess"}
        return found, [each for each in kit.left_out if "a guess" in each]

    others = (
        replace(lead, slug="a-multi", outlets=4),
        replace(lead, slug="a-gone", is_retired=True),
        replace(lead, slug="a-other", outlet="cee-16"),
    )
    found, _ = guessed(*others, replace(lead, length_m=15.0), replace(lead, slug="a-long", length_m=25.0))
    assert found == {"lead-5": "L0: 13.5 m from a guess, no outlet is noted"}
    assert guessed(replace(lead, length_m=2.3))[0]  # six of them
    none, told = guessed(replace(lead, length_m=2.2))
    assert (none, len(told)) == ({}, 1)


def test_a_spare_lead_is_from_where_the_crew_says_and_fuses_are_for_plugs_that_have_them(gear):
    lamps = ({"feed": "socket", "level": 0.1, "x_m": 0.3, "z_m": 1.0},)
    for least, fires in ((1.0, True), (5.0, False)):
        change = RuleChange(rule_id="spare-lead", least=least)
        kit = a_job(gear, setup_of(lamps=lamps), around=BOX, rules=rules_with(changes=(change,)))
        rules = {why.rule for line in kit.lines for why in line.whys}
        assert ("spare-lead" in rules, "spare-fuse" in rules) == (fires, True)
    low = a_job(gear, setup_of(lamps=({},)), around=BOX, rules=HouseRules(voltage_v=120, breaker_a=20))
    assert "spare-fuse" not in {why.rule for line in low.lines for why in line.whys}


def test_of_accessories_of_one_role_the_lightest_that_bears_it(gear):
    clamp = next(each for each in gear.accessories if each.role == "clamp")
    light, strong = replace(clamp, slug="a", holds_kg=6.0, weight_kg=0.1), replace(clamp, slug="b", holds_kg=7.0)
    bench = replace(gear, accessories=(light, strong))
    (held,) = of_rule(packed(setup_of(lamps=({"z_m": 5.0},)), bench), "clamp")
    assert isinstance(held.entry.item, Accessory)
    assert held.entry.item.slug == "b"  # 6.1 kg hang on it
