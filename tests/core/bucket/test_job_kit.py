"""What a job brings: hand-put lines, what passes need beyond them, and why."""

import math
from collections import Counter
from dataclasses import replace

import pytest

from iron_bucket.core.bench.accessory import Accessory
from iron_bucket.core.bench.flag import FlagKind
from iron_bucket.core.bucket.ballast import Standing, bag_of, ballast_of
from iron_bucket.core.bucket.covered import covered, sort_of
from iron_bucket.core.bucket.entry import Entry, FedFrom
from iron_bucket.core.bucket.job_kit import JobKit, job_kit
from iron_bucket.core.bucket.kit_rules import CrewKit, RuleChange, Subject
from iron_bucket.core.bucket.totals import totals_of
from iron_bucket.core.bucket.why import Why
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.power.job.kit import BatteryStock, Board, BoardKind, Generator, JobPower
from iron_bucket.core.rigging.tipping import Sail
from tests.core.bucket.made import a_flag, a_job, a_kit_pass, packed, rules_with, setup_of
from tests.core.setups.made import BOX, OPEN_AIR, a_frame, a_lamp, a_setup, load_of

#: What no pass asks for is left at home.
PASSES_ALONE = rules_with(
    changes=tuple(
        RuleChange(rule_id=rule.rule_id, is_on=False)
        for rule in CrewKit().rules
        if rule.of in (Subject.JOB, Subject.GLOBE, Subject.MOUNT) or rule.rule_id == "battery-hours"
    )
)


def placed(setups, gear, held=()) -> JobKit:
    return a_job(gear, *setups, held=held)


def counted(setups, gear, held=()) -> dict:
    return {(entry.item.slug, entry.area_m2): entry for entry in placed(setups, gear, held).derived}


def test_a_job_needs_as_many_as_the_set_up_with_most(gear):
    two = a_setup(name="Two", lamps=(a_lamp(level=0.2), a_lamp(piece_id="b", name="B", level=0.8, sheets=("nd-0.3",))))
    one = a_setup(
        name="One", frames=(a_frame(), a_frame(piece_id="g", name="Board", frame="", cloth="", board="board-poly-2.4"))
    )
    found = placed((two, one), gear).derived
    heads = [entry for entry in found if entry.kind == "heads"]
    assert sum(entry.quantity for entry in heads) == 2
    assert [(entry.level, entry.purpose) for entry in heads] == [
        (0.8, "placed in Two, One"),
        (0.2, "placed in Two, One"),
    ]
    assert all(entry.is_placed for entry in found)
    assert len({entry.entry_id for entry in found}) == len(found)
    by = counted((two, one), gear)
    assert by["nd-0.3", 1.0].purpose == "placed in Two"
    assert by["cloth-full-white", 1.44].kind == "cloths"
    assert by["frame-1.2", 1.0].kind == "frames"
    assert by["board-poly-2.4", 1.0].kind == "boards"
    assert heads[0].setting == "reflector 55°"
    assert ("day-led-300.reflector", 1.0) not in by or by["day-led-300.reflector", 1.0].item.weight_kg >= 0.1


def test_what_the_bucket_holds_is_not_counted_twice(gear):
    head = Entry(entry_id=1, parent_id=None, kind="heads", item=gear.head("day-led-300"), quantity=1)
    setup = a_setup(lamps=(a_lamp(), a_lamp(piece_id="b", name="B")))
    assert counted((setup,), gear, (head,))["day-led-300", 1.0].quantity == 1
    assert ("day-led-300", 1.0) not in counted((a_setup(),), gear, (head,))


def test_boxes_grids_and_batteries_come_along(gear):
    lamp = a_lamp(configuration="day-led-300.bare", face="octagon-0.9", grid="grid-octagon-0.9", feed="battery-v-150")
    by = counted((a_setup(lamps=(lamp,)),), gear)
    assert by["octagon-0.9", 1.0].kind == "faces"
    assert by["grid-octagon-0.9", 1.0].kind == "grids"
    assert by["battery-v-150", 1.0].quantity == 2  # its plate takes two
    assert by["day-led-300", 1.0].fed_from is FedFrom.BATTERY
    assert by["day-led-300", 1.0].mains_w == 0.0
    assert counted((a_setup(),), gear)["day-led-300", 1.0].mains_w == pytest.approx(
        float(gear.head("day-led-300").draw.watts(0.1))
    )


def test_everything_stands_on_something(gear):
    # Frames on two, boards on one; higher than 2.0 m the light stand does not reach, higher than any stand there is
    # none.
    frames = (a_frame(z_m=2.5), a_frame(piece_id="g", name="Board", frame="", cloth="", board="board-poly-2.4"))
    by = counted((a_setup(lamps=(a_lamp(z_m=2.2),), frames=frames),), gear)
    assert (by["stand-medium", 1.0].quantity, by["stand-light", 1.0].quantity) == (3, 1)
    assert by["stand-medium", 1.0].kind == "stands"
    assert not any(slug.startswith("stand") for slug, _ in counted((a_setup(lamps=(a_lamp(z_m=9.0),)),), gear))
    heavy = counted((a_setup(lamps=(a_lamp(configuration="hmi-1200.flood"),)),), gear)
    assert ("stand-combo", 1.0) in heavy  # on its 28 mm spigot


def test_gear_that_has_left_the_bench_is_named_and_hides_nothing(gear):
    setup = a_setup(
        lamps=(a_lamp(configuration="gone"), a_lamp(piece_id="b", name="B")), frames=(a_frame(cloth="gone"),)
    )
    found = placed((setup,), gear)
    assert [entry.item.slug for entry in found.entries if entry.kind == "heads"] == ["day-led-300"]
    assert [text.partition(":")[0] for text in found.left_out] == [f"Key in {setup.name}", f"Frame in {setup.name}"]
    totals = totals_of(found.entries, HouseRules(), found.left_out)
    assert (totals.cautions[0].title, totals.cautions[0].trigger) == (
        "2 things are not counted",
        "; ".join(found.left_out),
    )


def a_pick(gear, slug, *hanging, quantity=1):
    head = Entry(entry_id=1, parent_id=None, kind="heads", item=gear.head(slug), quantity=quantity)
    items = {item.slug: item for item in gear.items()}
    return head, *(
        Entry(entry_id=2 + at, parent_id=1, kind="any", item=items[each], quantity=quantity)
        for at, each in enumerate(hanging)
    )


def test_what_hangs_on_a_pick_serves_that_pick(gear):
    setup = a_setup(lamps=(a_lamp(feed="battery-v-150"), a_lamp(piece_id="b", name="B", feed="battery-v-150")))
    alone = counted((setup,), gear)
    stand = next(key for key in alone if key[0].startswith("stand"))
    # Another head's stand and batteries do not carry and feed the placed ones.
    other = counted((setup,), gear, a_pick(gear, "hmi-575", stand[0], "battery-v-150"))
    assert other[stand].quantity == alone[stand].quantity == 2
    assert other["battery-v-150", 1.0].quantity == alone["battery-v-150", 1.0].quantity == 4
    # One of three picked is placed twice: two of their stands and two of their batteries are there already.
    same = counted((setup,), gear, a_pick(gear, "day-led-300", stand[0], "battery-v-150", quantity=3))
    assert stand not in same
    assert ("day-led-300", 1.0) not in same
    assert same["battery-v-150", 1.0].quantity == 2


def test_a_set_up_and_the_bucket_read_one_list(gear):
    setups = [
        a_setup(lamps=(a_lamp(level=1.0, feed=feed, is_on=is_on),), frames=(a_frame(),))
        for feed in ("", "battery-v-150")
        for is_on in (True, False)
    ]
    for setup in setups:
        load = load_of(setup, gear)
        totals = totals_of(a_job(gear, setup, rules=PASSES_ALONE).entries, HouseRules())
        assert (load.weight_kg, load.amps, load.day_price) == pytest.approx(
            (totals.weight_kg, totals.mains_a, totals.day_price)
        )
    watts = [totals_of(placed((each,), gear).entries, HouseRules()).mains_w for each in setups]
    assert watts == pytest.approx([float(gear.head("day-led-300").draw.watts(1.0)), 0.0, 0.0, 0.0])


def test_the_job_must_feed_the_heaviest_set_up(gear):
    dim, bright = a_setup(name="Dim", lamps=(a_lamp(level=0.1),)), a_setup(name="Bright", lamps=(a_lamp(level=0.9),))
    for order in ((dim, bright), (bright, dim)):
        assert counted(order, gear)["day-led-300", 1.0].level == 0.9
    # Lamp by lamp from the brightest: the second set-up's one lamp is no reason to take the first's brighter one twice.
    for feed, bright in (("", 0.8), ("battery-v-150", 0.6)):  # from batteries it gives no more than six tenths
        lamp = a_lamp(level=0.2, feed=feed)
        two = a_setup(name="Two", lamps=(lamp, replace(lamp, piece_id="b", name="B", level=0.8)))
        found = placed((two, a_setup(lamps=(replace(lamp, level=0.5),))), gear, ()).entries
        assert [each.level for each in found if each.kind == "heads"] == [bright, 0.2]
        assert [each.entry_id for each in found] == [-1 - at for at in range(len(found))]


def test_a_second_pick_of_a_head_that_is_placed_once_brings_nothing_more(gear):
    setup = a_setup(lamps=(a_lamp(feed="battery-v-150"),))
    first = a_pick(gear, "day-led-300", "battery-v-150")
    second = [replace(each, entry_id=each.entry_id + 10, parent_id=each.parent_id and 11) for each in first]
    assert counted((setup,), gear, (*first, *second))["battery-v-150", 1.0].quantity == 1  # its plate takes two


def test_every_derived_line_says_why_and_hand_put_ones_are_outgrown(gear):
    setup = setup_of(lamps=({"sheets": ("full-orange",)}, {"feed": "battery-v-150"}), frames=({},), flags=({},))
    head = Entry(entry_id=1, parent_id=None, kind="heads", item=gear.head("day-led-300"), quantity=1)
    tape = Entry(
        entry_id=2, parent_id=None, kind="accessories", item=gear.by_slug(Accessory, "gaffer-tape"), quantity=9
    )
    kit = a_job(gear, setup, held=(head, tape))
    assert all(line.whys for line in kit.lines)
    assert all(why.figure and why.rule for line in kit.lines for why in line.whys)
    by = {line.item.slug: line for line in kit.lines}
    led, roll = by["day-led-300"], by["gaffer-tape"]
    assert (led.by_hand, led.derived, led.beyond, led.quantity, led.has_outgrown) == (1, 2, 1, 2, True)
    assert (roll.by_hand, roll.derived, roll.quantity, roll.has_outgrown) == (9, 1, 9, False)
    assert not by["frame-1.2"].has_outgrown
    assert led.whys == (
        Why(setup="Pass, wide", rule="head", figure="L0"),
        Why(setup="Pass, wide", rule="head", figure="L1"),
    )
    assert {line.sort: line for line in kit.lines} == kit.by_sort
    assert by["cloth-full-white"].area_m2 == 1.44
    counts = dict.fromkeys(by, 0)
    for entry in kit.entries:
        counts[entry.item.slug] += entry.quantity
    assert counts == {slug: line.quantity for slug, line in by.items()}  # lines and entries are one list


def test_batteries_are_those_said_else_of_the_hours_else_on_the_plates(gear):
    lamp = {"feed": "battery-v-150", "level": 0.6}
    setup = setup_of(lamps=(lamp,))
    watts = float(gear.head("day-led-300").draw.watts(0.6))  # 219.6 W for an hour, 128.25 Wh from each
    assert (watts, 150 * 0.9 * 0.95) == pytest.approx((219.6, 128.25), abs=0.1)
    line = a_job(gear, setup).by_sort["battery-v-150", 1.0]
    assert (line.derived, a_job(gear, setup).battery_sets["battery-v-150"]) == (2, 2)
    asked = {each.item.slug for each in a_job(gear, setup).lines}
    own = next(each for each in gear.accessories if each.slug not in asked)
    tape = Entry(entry_id=1, parent_id=None, kind="accessories", item=own, quantity=9)
    by_hand = a_job(gear, setup, held=(tape,))
    assert +Counter(by_hand.battery_sets) == {"battery-v-150": 2}
    put = by_hand.by_sort[sort_of(tape)]
    assert (put.by_hand, put.derived, put.beyond) == (9, 0, 0)
    assert covered((tape, replace(tape, entry_id=2, quantity=1)), {sort_of(tape): 1}) == {sort_of(tape): 10}
    assert sort_of(replace(tape, area_m2=1.44004)) == (tape.item.slug, 1.44)
    twice = a_job(gear, setup, replace(setup, name="Again"))
    assert twice.by_sort["battery-v-150", 1.0].derived == 4  # 439 Wh: nothing of it is charged again
    assert twice.battery_sets == {"battery-v-150": 2}
    assert twice.by_sort["battery-v-150", 1.0].whys[-1].figure.startswith("439 Wh on the longest day, 128 from each")
    said = JobPower(batteries=(BatteryStock(piece_id="a", kind="battery-v-150", count=3),))
    assert a_job(gear, setup, replace(setup, name="Again"), power=said).by_sort["battery-v-150", 1.0].derived == 3
    none = replace(
        said, batteries=(BatteryStock(piece_id="b", kind="gone", count=3), replace(said.batteries[0], count=0))
    )
    told = a_job(gear, setup, power=none)
    assert told.by_sort["battery-v-150", 1.0].derived == 2
    assert "batteries: gone is not on the bench" in told.left_out
    built_in = a_job(gear, *(setup_of(lamps=({"configuration": "tube-60.bare", "feed": "battery-built-in-20"},)),) * 2)
    assert built_in.by_sort["battery-built-in-20", 1.0].derived == 1
    assert not [line for line in built_in.lines if line.kind == "accessories" and line.item.role == "charger"]


def test_what_power_brings_is_carried_and_weighed_where_it_says_what_it_is(gear):
    at = {"place_id": 7, "name": "X"}
    power = JobPower(
        generators=(Generator(piece_id="a", item="generator-quiet", **at), Generator(piece_id="b", **at)),
        boards=tuple(Board(piece_id=kind.name, kind=kind, **at) for kind in BoardKind),
    )
    kit = a_job(gear, power=power)
    assert kit.by_sort["generator-quiet", 1.0].quantity == 1
    assert [words.partition(":")[0] for words in kit.left_out] == ["X", "X"]  # a generator and a box, no tie-in
    assert [line.item.slug for line in kit.lines] == ["generator-quiet"]  # without a pass no rule of the job holds


def test_spares_are_one_in_six_of_the_commonest_lead_and_the_commonest_key(gear):
    lamps = tuple({"feed": "socket", "level": 0.1, "x_m": 0.3, "y_m": 0.3 + 0.1 * at, "z_m": 1.0} for at in range(7))
    kit = a_job(gear, setup_of(lamps=lamps), around=BOX)
    spare = [why for why in kit.by_sort["lead-5", 1.0].whys if why.rule == "spare-lead"]
    assert (spare[0].figure, kit.by_sort["lead-5", 1.0].quantity) == ("7 leads", 9)


@pytest.mark.parametrize("hours", [0.5, 3.0, 8.0, "five of them"])
def test_batteries_are_enough_for_the_hours_of_the_longest_day(gear, hours):
    lamp = {"configuration": "day-led-120.reflector", "feed": "battery-v-150", "level": 1.0}
    if hours == "five of them":  # to the minute, and not a sixth for a hair
        one = next(each for each in gear.batteries if each.slug == "battery-v-150").supply(1).energy_wh
        hours = 5.0 * one / float(gear.head("day-led-120").draw.watts(1.0))
    kit = packed(setup_of(lamps=(lamp,)), gear)
    job = job_kit([a_kit_pass(1, kit, hours=hours)], (), JobPower(), gear, HouseRules())
    head = gear.head("day-led-120")
    one_wh = next(each for each in gear.batteries if each.slug == "battery-v-150").supply(1).energy_wh
    on_plates = head.plate_for("v-lock").plates
    needed = math.ceil(float(head.draw.watts(1.0)) * hours / one_wh - 1e-9)
    assert job.by_sort["battery-v-150", 1.0].derived == max(on_plates, needed)


def test_sets_on_plates_are_those_no_hand_put_battery_serves(gear):
    setup = setup_of(lamps=({"feed": "battery-v-150", "level": 0.3}, {"feed": "battery-v-150", "level": 0.3}))
    brick = next(each for each in gear.batteries if each.slug == "battery-v-150")
    for by_hand, whole in ((0, 4), (3, 4), (9, 9)):
        held = [Entry(entry_id=1, parent_id=None, kind="batteries", item=brick, quantity=by_hand)] if by_hand else []
        assert a_job(gear, setup, held=held).battery_sets == {"battery-v-150": whole}


def test_flags_are_held_against_the_wind_by_their_area(gear):
    bag = bag_of(gear)
    for width_m, height_m, stands in ((0.6, 0.9, 1), (3.0, 2.0, 2)):
        flag = a_flag(kind=FlagKind.BLACK, width_m=width_m, height_m=height_m, z_m=1.5)
        kit = packed(a_setup(flags=(flag,)), gear, around=OPEN_AIR)
        own = [each for each in kit.needs if each.holder == flag.piece_id]
        (stand,) = (each for each in own if each.rule == "flat-stand")
        weight_kg = next((each.entry.item.weight_kg for each in kit.needs if each.rule == "flag"), 1.0)
        standing = Standing(
            stand=stand.entry.item,
            count=stands,
            payload_kg=weight_kg,
            height_m=1.5,
            sail_m2=width_m * height_m,
            is_outdoors=True,
            arm_m=0.5 if stands == 1 else 0.0,
        )
        found = ballast_of(standing, CrewKit(), bag)
        bags = {rule: sum(each.pieces for each in own if each.rule == rule) for rule in ("bag", "ballast")}
        assert (stand.pieces, bags) == (stands, {"bag": found.bags, "ballast": found.wind_bags})
        if found.wind_bags:
            assert f"Flag: {found.wind_figure}" in {each.figure for each in own}


def test_ballast_to_the_last_bag_and_near_the_floor(gear):
    stand, bag = gear.stands[0], bag_of(gear)
    standing = Standing(stand=stand, count=1, payload_kg=2.0, height_m=0.0, sail_m2=40.0, is_outdoors=True)
    whole_kg = stand.weight_kg + 2.0
    sail = Sail(
        area_m2=40.0, drag_coefficient=1.2, centre_height_m=0.1, total_mass_kg=whole_kg, tipping_arm_m=stand.legs_m
    )
    missing_kg = sail.ballast_kg(8.0, 1.5)
    assert missing_kg > 1.0
    found = ballast_of(standing, CrewKit(), replace(bag, weight_kg=missing_kg / 3.0))
    assert (found.bags, found.wind_bags) == (1, 2)  # three in all, and not a fourth for a hair
    assert f"{missing_kg:.1f} kg missing" in found.wind_figure
