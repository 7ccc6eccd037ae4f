from dataclasses import replace

import pytest

from iron_bucket.core.bucket.entry import Entry, FedFrom
from iron_bucket.core.bucket.placed import placed_entries
from iron_bucket.core.bucket.totals import totals_of
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.modifiers.kinds import ScrimSchool
from iron_bucket.core.setups.sheet.pieces import pieces_of
from tests.core.setups.made import a_frame, a_lamp, a_setup, load_of

HALF = ScrimSchool.HALF_AND_ONE


def placed(setups, gear, held):
    return placed_entries([pieces_of(each, gear, HALF) for each in setups], held)


def counted(setups, gear, held=()) -> dict:
    return {(entry.item.slug, entry.area_m2): entry for entry in placed(setups, gear, held).entries}


def test_a_job_needs_as_many_as_the_set_up_with_most(gear):
    two = a_setup(name="Two", lamps=(a_lamp(level=0.2), a_lamp(piece_id="b", name="B", level=0.8, sheets=("nd-0.3",))))
    one = a_setup(
        name="One", frames=(a_frame(), a_frame(piece_id="g", name="Board", frame="", cloth="", board="board-poly-2.4"))
    )
    found = placed((two, one), gear, ()).entries
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
    found = placed((setup,), gear, ())
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
        totals = totals_of(placed((setup,), gear, ()).entries, HouseRules())
        assert (load.weight_kg, load.amps, load.day_price) == pytest.approx(
            (totals.weight_kg, totals.mains_a, totals.day_price)
        )
    watts = [totals_of(placed((each,), gear, ()).entries, HouseRules()).mains_w for each in setups]
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
