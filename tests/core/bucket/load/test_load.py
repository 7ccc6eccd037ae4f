"""Pieces in cases, cases in a hold, cases on the floor: laws over random kits, and small ones by hand."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.bench.case import Case
from iron_bucket.core.bench.vehicle import Vehicle
from iron_bucket.core.bucket.bucket_plan import BucketPlan, Container, Stowed
from iron_bucket.core.bucket.job_kit import KitLine
from iron_bucket.core.bucket.kit_rules import CrewKit
from iron_bucket.core.bucket.load.cases import Box, packed
from iron_bucket.core.bucket.load.hold import _ORDERS, LEAST_HELD, MOST_BOXES, loaded
from iron_bucket.core.bucket.load.layout import layout_of
from iron_bucket.core.bucket.load.piece import NEVER_MIN, Nature, Piece, lie_apart, packed_size_m, pieces_of
from iron_bucket.core.errors import BadValue
from iron_bucket.core.places.place import KitArea, OpeningKind, WallOpening
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.typical import typical
from tests.core.bucket.made import a_job, setup_of
from tests.core.setups.made import a_place, a_setup
from tests.made_up import a_gear, a_head

CREW = CrewKit(lift_kg=20.0)


def a_case(slug: str = "crate", **changes) -> Case:
    made = {"inner_l_m": 0.6, "inner_w_m": 0.4, "inner_h_m": 0.3, "most_kg": 30.0, "lives": ("heads",), "owned": 1}
    return Case(**({"slug": slug, "name": slug, "maker": "", "weight_kg": 2.0, "wall_m": 0.01} | made | changes))


def a_van(**changes) -> Vehicle:
    made = {"payload_kg": 500.0, "inner_l_m": 2.0, "inner_w_m": 1.2, "inner_h_m": 1.2}
    return Vehicle(**({"slug": "van", "name": "Van", "maker": "", "weight_kg": 2000.0} | made | changes))


def a_piece(slug: str = "lamp", size=(0.3, 0.2, 0.2), weight_kg: float = 5.0, number: int = 1, **changes) -> Piece:
    item = a_head(slug=slug, name=slug)
    line = KitLine(sort=(slug, 1.0), kind="heads", item=item, by_hand=1, derived=0, beyond=0, whys=())
    made = {"is_typical": False, "nature": Nature.PLAIN, "is_fragile": False, "first_min": 0}
    return Piece(**({"line": line, "number": number, "size_m": size, "weight_kg": weight_kg} | made | changes))


def boxed(pieces, *cases, plan=BucketPlan(), crew=CREW) -> dict[str, list[str]]:  # noqa: B008
    found = packed(pieces, a_gear(cases=cases), plan, crew)
    return {box.label: [piece.item.slug for piece in box.pieces] for box in found.boxes}


def test_sizes_are_those_measured_else_of_the_weight():
    stated = a_head(packed_l_m=0.2, packed_w_m=0.5, packed_h_m=0.3)
    assert packed_size_m(stated, "heads", 5.0) == ((0.5, 0.3, 0.2), False)
    size, is_typical = packed_size_m(a_head(), "heads", 5.0)
    assert (np.prod(size), is_typical) == (pytest.approx(0.025), True)  # five litres a kilogram
    assert size[0] / size[2] == pytest.approx(1.5)
    assert np.prod(packed_size_m(replace(stated, packed_h_m=0.0), "batteries", 2.0)[0]) == pytest.approx(0.0018)


def test_what_lies_in_one_case():
    assert lie_apart(Nature.HOT, Nature.BATTERY)
    assert lie_apart(Nature.CLOTH, Nature.HOT)
    assert not lie_apart(Nature.HOT, Nature.HOT)
    assert not lie_apart(Nature.BATTERY, Nature.CLOTH)
    hot, cloth = a_piece("hot", nature=Nature.HOT), a_piece("cloth", nature=Nature.CLOTH, weight_kg=1.0)
    assert boxed([hot, cloth], a_case(owned=2)) == {"crate 1": ["cloth"], "crate 2": ["hot"]}


def test_first_fit_within_sides_weight_room_and_what_one_lifts():
    lamps = [a_piece(f"lamp-{at}", number=at) for at in range(5)]
    # 2 kg of crate and three lamps are 17 of 20 kg; a fourth would be 22.
    assert boxed(lamps, a_case(owned=2)) == {"crate 1": ["lamp-0", "lamp-1", "lamp-2"], "crate 2": ["lamp-3", "lamp-4"]}
    assert boxed(lamps, a_case(is_cart=True)) == {
        "crate": [f"lamp-{at}" for at in range(4)],
        "lamp-4": ["lamp-4"],
    }  # full
    assert boxed(lamps, a_case(is_cart=True, most_kg=10.0))["crate"] == ["lamp-0", "lamp-1"]
    assert boxed([a_piece(size=(0.61, 0.1, 0.1))], a_case()) == {"lamp": ["lamp"]}
    assert boxed([a_piece(size=(0.6, 0.4, 0.3), weight_kg=25.0)], a_case()) == {"crate": ["lamp"]}  # two carry it
    assert boxed([a_piece(weight_kg=31.0)], a_case()) == {"lamp": ["lamp"]}
    # Where it lives before where its list does; by hand before all.
    own = a_case("own", lives=("lamp",), inner_l_m=0.5)
    assert boxed([a_piece()], a_case(), own) == {"own": ["lamp"]}
    plan = BucketPlan(stowed=(Stowed(piece_id="a", item="lamp", case="crate"),))
    assert boxed([a_piece()], a_case(), own, plan=plan) == {"crate": ["lamp"]}
    assert boxed([a_piece()], a_case(lives=("cables",))) == {"lamp": ["lamp"]}
    said = BucketPlan(cases=(Container(piece_id="c", item="crate", count=2, name="Blue"),))
    found = packed([a_piece()], a_gear(cases=(a_case(owned=0), a_case("gone", is_retired=True))), said, CREW)
    assert ([box.label for box in found.boxes], found.empty) == (["Blue 1"], ("Blue 2",))
    assert found.box_of("lamp") == "Blue 1"
    loose = packed([a_piece(weight_kg=31.0)], a_gear(cases=(a_case(),)), BucketPlan(), CREW)
    assert (loose.box_of("lamp"), [each.item.slug for each in loose.crowded_out]) == ("loose", ["lamp"])


def test_what_a_box_is():
    case, late = a_case(), a_piece(first_min=90, nature=Nature.BATTERY, weight_kg=14.0)
    box = Box(label="B", case=case, lift_kg=20.0, pieces=[a_piece(first_min=30), late])
    assert box.size_m == pytest.approx((0.62, 0.42, 0.32))
    assert (box.content_kg, box.weight_kg, box.first_min, box.has_batteries) == (19.0, 21.0, 30, True)
    assert (box.fill, box.volume_m3) == (pytest.approx(2 * 0.012 / 0.072), pytest.approx(0.62 * 0.42 * 0.32))
    assert (box.is_too_heavy, replace(box, lift_kg=21.0).is_too_heavy) == (True, False)
    assert not replace(box, case=replace(case, is_cart=True)).is_too_heavy
    fragile = Box(label="F", case=None, lift_kg=20.0, pieces=[a_piece(is_fragile=True)])
    assert (fragile.is_fragile, fragile.fill, replace(fragile, case=case).is_fragile) == (True, 1.0, False)
    assert Box(label="E", case=case, lift_kg=20.0).first_min == NEVER_MIN


def test_pieces_of_a_kit_know_when_they_are_needed(gear):
    kit = a_job(
        gear, setup_of(lamps=({"configuration": "tung-650.flood"},)), setup_of(lamps=({}, {"sheets": ("nd-0.3",)}))
    )
    found = list(pieces_of(kit))
    assert len(found) == sum(line.quantity for line in kit.lines)
    assert [piece.first_min for piece in found] == sorted(piece.first_min for piece in found)
    by = {piece.item.slug: piece for piece in found}
    natures = ("tung-650", "nd-0.3", "day-led-300", "gloves-heat")
    assert [(by[slug].nature.value, by[slug].first_min) for slug in natures] == [
        ("hot", 0),
        ("cloth and gel", 60),
        ("plain", 60),
        ("plain", NEVER_MIN),
    ]
    assert (by["tung-650"].is_fragile, by["day-led-300"].is_fragile) == (True, False)
    assert by["tung-650"].weight_kg == pytest.approx(3.6)


def a_box(label: str, size, weight_kg: float, **changes) -> Box:
    return Box(
        label=label,
        case=None,
        lift_kg=99.0,
        pieces=[a_piece(label, tuple(sorted(size, reverse=True)), weight_kg, **changes)],
    )


@pytest.mark.parametrize("seed", range(6))
def test_boxes_in_a_hold_meet_nowhere_and_rest_on_what_bears(seed):
    chance = np.random.default_rng(seed)
    boxes = [
        a_box(
            f"b{at}",
            chance.uniform(0.15, 0.8, 3),
            float(chance.uniform(2, 40)),
            is_fragile=bool(chance.random() < 0.2),
            first_min=int(chance.integers(0, 3)) * 1440,
        )
        for at in range(30)
    ]
    van = a_van()
    found = loaded(boxes, [van])
    (hold,) = found.holds
    assert sorted([each.box.label for each in hold.placed] + [box.label for box, _ in found.left]) == sorted(
        b.label for b in boxes
    )
    assert found.is_overloaded is bool(found.left)
    assert hold.weight_kg == pytest.approx(sum(each.box.weight_kg for each in hold.placed))
    low = np.array([(each.x_m, each.y_m, each.z_m) for each in hold.placed])
    size = np.array([(each.length_m, each.width_m, each.height_m) for each in hold.placed])
    high = low + size
    assert (low >= -1e-9).all()
    assert (high <= np.array(van.inner_m) + 1e-9).all()
    assert hold.volume_share == pytest.approx(size.prod(axis=1).sum() / np.prod(van.inner_m))
    for at, each in enumerate(hold.placed):
        assert sorted(size[at]) == pytest.approx(sorted(each.box.size_m))
        meets = (np.minimum(high, high[at]) - np.maximum(low, low[at]) > 1e-9).all(axis=1)
        assert meets.sum() == 1  # itself
        if each.z_m > 1e-9:
            across = np.clip(np.minimum(high, high[at])[:, :2] - np.maximum(low, low[at])[:, :2], 0.0, None).prod(
                axis=1
            )
            below = np.flatnonzero((np.abs(high[:, 2] - low[at, 2]) < 1e-9) & (across > 1e-9))
            assert across[below].sum() >= LEAST_HELD * size[at, :2].prod() - 1e-9
            for under in below:
                assert not hold.placed[under].box.is_fragile
                assert hold.placed[under].box.weight_kg >= each.box.weight_kg - 1e-9


def test_what_is_needed_first_goes_where_not_all_of_it_does():
    boxes = [
        a_box(name, (0.5, 0.5, 0.5), 30.0, first_min=first)
        for name, first in (("late", 900), ("early", 10), ("never", NEVER_MIN))
    ]
    found = loaded(boxes, [a_van(payload_kg=70.0)])
    assert {each.box.label for each in found.holds[0].placed} == {"early", "late"}
    assert [(box.label, why) for box, why in found.left] == [("never", "90 kg with it, 70 kg may be loaded")]
    second = loaded(boxes, [a_van(payload_kg=70.0), a_van()])
    assert ([each.box.label for each in second.holds[1].placed], second.left) == (["never"], ())
    tight = loaded(boxes[:2], [a_van(inner_l_m=0.5, inner_w_m=0.5, inner_h_m=0.5)])
    assert [why for _, why in tight.left] == ["no room"]
    assert [why for _, why in loaded(boxes[:1], []).left] == ["no vehicle is chosen"]
    # Later days in first, batteries last, where all goes in so.
    days = [
        a_box(name, (0.5, 0.5, 0.5), 30.0, first_min=first, **more)
        for name, first, more in (("day-1", 0, {}), ("bricks", 1500, {"nature": Nature.BATTERY}), ("day-2", 1440, {}))
    ]
    hold = loaded(days, [a_van()]).holds[0]
    assert ([each.box.label for each in hold.placed], hold.is_by_day) == (["day-2", "day-1", "bricks"], True)


def test_cases_are_laid_out_by_the_door_where_no_camera_looks():
    door = WallOpening(
        opening_id="door",
        name="Door",
        wall=1,
        along_m=2.5,
        sill_m=0.0,
        width_m=0.9,
        height_m=2.0,
        kind=OpeningKind.DOORWAY,
    )
    near, far = (
        KitArea(area_id=name, name=name, x_m=x, y_m=0.2, width_m=1.0, depth_m=1.0)
        for name, x in (("near", 4.8), ("far", 0.2))
    )
    ahead = KitArea(area_id="ahead", name="ahead", x_m=2.5, y_m=3.5, width_m=1.0, depth_m=1.0)  # behind Anna
    room = a_place().rooms[0]
    around = Surroundings(a_place(rooms=(replace(room, openings=(door,)),), kit_areas=(ahead, far, near)))
    boxes = [
        a_box(name, (0.6, 0.4, 0.3), 5.0, first_min=first)
        for name, first in (("c", 3), ("a", 1), ("b", 2), ("d", 4), ("e", 5))
    ]
    low = replace(a_setup(), camera=replace(a_setup().camera, tilt_deg=-15.0))
    found = layout_of(boxes, around, [a_setup(), low])
    assert ([each.name for each in found.areas], [each.name for each in found.seen]) == (["near", "far"], ["ahead"])
    assert [(each.box.label, each.x_m, each.y_m) for each in found.laid] == [
        ("a", 4.8, 0.2),
        ("b", 4.8, pytest.approx(0.7)),
        ("c", 0.2, 0.2),
        ("d", 0.2, pytest.approx(0.7)),
    ]
    assert [(each.width_m, each.depth_m) for each in found.laid] == [(0.6, 0.4)] * 4
    assert [box.label for box in found.crowded_out] == ["e"]
    assert layout_of(boxes, around, []).seen == ()


def test_a_home_is_by_slug_first_or_by_hand_alone_and_a_piece_may_fill_it_to_the_millimetre():
    lamp, other = a_piece("lamp", (0.6, 0.4, 0.3)), a_piece("other")
    own, kind = a_case("own", lives=("lamp",)), a_case("kind", lives=("heads",))
    assert boxed([lamp], own, kind)["own"] == ["lamp"]
    assert boxed([other], own, kind)["kind"] == ["other"]
    by_hand = BucketPlan(stowed=(Stowed(piece_id="s", item="other", case="own"),))
    assert boxed([other], own, kind, plan=by_hand)["own"] == ["other"]
    assert "kind" not in boxed([a_piece("lamp", (0.61, 0.2, 0.2))], own, kind)  # a centimetre too long: loose


@pytest.mark.parametrize(("count", "is_fine"), [(0, False), (1, True), (60, True), (61, False)])
def test_so_many_cases_may_be_told(count, is_fine):
    if is_fine:
        assert Container(piece_id="c", item="crate", count=count).count == count
    else:
        with pytest.raises(BadValue, match=f"is {count}"):
            Container(piece_id="c", item="crate", count=count)


def test_what_is_fragile_is_said_of_glass_faces_boards_and_flags(gear):
    setup = setup_of(
        lamps=(
            {"configuration": "hmi-1200.flood"},
            {"configuration": "fluo-2.bank"},
            {"configuration": "day-led-300.bare", "face": "octagon-0.9"},
        ),
        flags=({},),
    )
    fragile = {piece.item.slug: piece.is_fragile for piece in pieces_of(a_job(gear, setup))}
    assert fragile["hmi-1200"]
    assert fragile["fluo-2"]
    assert fragile["octagon-0.9"]
    assert not fragile["day-led-300"]
    assert {value for slug, value in fragile.items() if slug.startswith("flag")} == {True}


def test_the_middle_of_an_area_is_looked_at_too_and_rows_go_on_from_its_corner():
    areas = (KitArea(area_id="k", name="Kit", x_m=1.0, y_m=0.5, width_m=1.3, depth_m=3.0),)
    around = Surroundings(a_place(kit_areas=areas))
    boxes = list(packed([a_piece(f"p{at}", (0.6, 0.4, 0.3)) for at in range(3)], a_gear(), BucketPlan(), CREW).boxes)
    laid = layout_of(boxes, around, []).laid
    assert (laid[0].x_m, laid[0].y_m) == (1.0, 0.5)
    assert laid[2].y_m >= laid[0].y_m + 0.4  # the third has no room beside the others
    assert all(each.x_m >= 1.0 and each.x_m + 0.6 <= 2.3 + 1e-9 for each in laid)


def test_a_row_goes_on_a_gap_behind_the_last_and_the_middle_of_an_area_says_how_far_the_door_is():
    def laid_in(*areas: KitArea, openings=()):
        room = replace(a_place().rooms[0], openings=openings)
        boxes = [a_box(name, (0.5, 0.4, 0.3), 5.0, first_min=at) for at, name in enumerate("abc")]
        return layout_of(boxes, Surroundings(a_place(rooms=(room,), kit_areas=areas)), [])

    row = laid_in(KitArea(area_id="k", name="Kit", x_m=1.0, y_m=0.5, width_m=2.0, depth_m=1.0)).laid
    gap_m = row[1].x_m - 1.5
    assert 0.0 < gap_m < 0.2
    assert [each.x_m for each in row] == pytest.approx([1.0, 1.5 + gap_m, 2.0 + 2 * gap_m])
    door = WallOpening(
        opening_id="d", name="D", wall=0, along_m=4.0, sill_m=0.0, width_m=0.9, height_m=2.0, kind=OpeningKind.DOORWAY
    )
    # Middles 2.0 and 1.5 m from the door along its wall; by any other point of them it is the other way round.
    small = KitArea(area_id="s", name="small", x_m=1.9, y_m=0.1, width_m=0.4, depth_m=0.4)
    large = KitArea(area_id="l", name="large", x_m=4.2, y_m=0.1, width_m=2.6, depth_m=0.4)
    middle_m = door.along_m if door.wall == 0 else 0.0
    found = laid_in(small, large, openings=(door,)).areas
    away = {"small": abs(2.1 - middle_m), "large": abs(5.5 - middle_m)}
    assert [each.name for each in found] == sorted(away, key=lambda name: away[name])


def test_a_hold_takes_to_the_kilogram_what_it_may():
    boxes = [a_box(name, (0.3, 0.3, 0.3), 35.0, first_min=at) for at, name in enumerate("ab")]
    assert loaded(boxes, [a_van(payload_kg=70.0)]).left == ()
    assert [box.label for box, _ in loaded(boxes, [a_van(payload_kg=69.9)]).left] == ["b"]
    assert not Box(label="X", case=None, lift_kg=9.0).takes(a_piece())
    own = replace(a_case("own"), lives=("lamp", "heads"))
    assert boxed([a_piece(), a_piece("other", number=2)], own) == {"own": ["lamp", "other"]}


def test_a_hold_lays_out_so_many_boxes_and_says_what_of_the_rest():
    """The last that fit are laid out still; one of the same kind that found no room is not tried again."""
    boxes = [Box(label=f"{at:03}", case=None, lift_kg=20.0, pieces=[a_piece(number=at)]) for at in range(160)]
    large = loaded(boxes, [a_van(payload_kg=9000.0, inner_l_m=20.0)])
    (hold,) = large.holds
    assert len(hold.placed) == MOST_BOXES == 150
    assert {why for _, why in large.left} == {"160 boxes; up to 150 are laid out in a hold"}
    full = loaded(boxes[:150], [a_van(payload_kg=9000.0)])  # 240 to the brim of 2.88 m3, 12 l each, in rows of 0.3 m
    by_hand = int(2.0 / 0.3) * int(1.2 / 0.2) * int(1.2 / 0.2)
    assert len(full.holds[0].placed) == min(150, by_hand)
    small = loaded(boxes[:60], [a_van(payload_kg=9000.0, inner_l_m=0.35)])  # one row of 36
    assert (len(small.holds[0].placed), len(small.left)) == (36, 24)


def test_the_foremost_then_the_lowest_corner_and_three_quarters_held_are_enough():
    cubes = [a_box(name, (0.5, 0.5, 0.5), 30.0) for name in "abc"]
    (hold,) = loaded(cubes, [a_van()]).holds
    assert [(each.x_m, each.y_m, each.z_m) for each in hold.placed] == [(0, 0, 0), (0, 0.5, 0), (0, 0, 0.5)]
    base, top = a_box("base", (0.5, 0.3, 0.2), 20.0), a_box("top", (0.5, 0.4, 0.2), 10.0)
    assert loaded([base, top], [a_van(inner_l_m=0.5, inner_w_m=0.4, inner_h_m=0.4)]).left == ()
    assert loaded([base, top], [a_van(inner_l_m=0.5, inner_w_m=0.4, inner_h_m=0.39)]).is_overloaded
    # A later day's goes in first, but where it would have to bear what is heavier.
    heavy, light = a_box("heavy", (0.5, 0.5, 0.5), 30.0), a_box("light", (0.5, 0.5, 0.5), 10.0, first_min=1440)
    found = loaded([heavy, light], [a_van(inner_l_m=0.5, inner_w_m=0.5, inner_h_m=1.0)])
    assert (found.left, found.holds[0].is_by_day) == ((), False)
    large, small = a_box("large", (0.6, 0.5, 0.5), 30.0), a_box("small", (0.5, 0.4, 0.4), 20.0)
    assert all(order(large) < order(small) for order in _ORDERS)


def test_a_case_is_full_to_its_share_the_largest_first_and_one_of_several_can_be_named():
    share = typical("packing")["fill"]
    cube = a_case(inner_l_m=1.0, inner_w_m=1.0, inner_h_m=1.0)
    halves = [a_piece(f"half-{at}", (1.0, 1.0, share / 2.0), 1.0, number=at) for at in range(3)]
    assert boxed(halves, cube) == {"crate": ["half-0", "half-1"], "half-2": ["half-2"]}
    small, large = a_piece("a", (0.5, 0.3, 0.2), 1.0), a_piece("b", (0.6, 0.4, 0.3), 1.0)
    assert boxed([small, large], a_case()) == {"crate": ["b"], "a": ["a"]}
    blue = (Container(piece_id="c", item="crate", count=2, name="Blue"), Container(piece_id="o", item="own"))
    for case, home in (("Blue", "Blue 1"), ("Blue 2", "Blue 2"), ("own", "own")):
        plan = BucketPlan(cases=blue, stowed=(Stowed(piece_id="a", item="lamp", case=case),))
        assert boxed([a_piece()], a_case(), a_case("own"), plan=plan) == {home: ["lamp"]}


@pytest.mark.parametrize(("wall", "along_m"), [(0, 4.0), (1, 4.0)])
def test_how_far_a_door_is_counts_from_the_middle_of_an_area(wall, along_m):
    """0.6 and 0.8 m along the wall; from the corners of the areas it would be the other way round."""
    door = WallOpening(
        opening_id="d",
        name="D",
        wall=wall,
        along_m=along_m,
        sill_m=0.0,
        width_m=0.9,
        height_m=2.0,
        kind=OpeningKind.DOORWAY,
    )
    along = {"short": (4.6, 0.4), "long": (2.4, 2.0)}
    areas = [
        KitArea(area_id=name, name=name, x_m=at, y_m=0.2, width_m=long, depth_m=0.4)
        if wall == 0
        else KitArea(area_id=name, name=name, x_m=5.2, y_m=at, width_m=0.4, depth_m=long)
        for name, (at, long) in along.items()
    ]
    room = replace(a_place().rooms[0], openings=(door,))
    found = layout_of([], Surroundings(a_place(rooms=(room,), kit_areas=tuple(areas))), [])
    assert [each.name for each in found.areas] == ["long", "short"]


def test_rows_of_cases_fill_an_area_to_the_hair():
    """1.3 by 1.25 m from (1.0, 0.5): two rows of two that reach its edge, a hand between them, and a last one."""
    area = KitArea(area_id="k", name="Kit", x_m=1.0, y_m=0.5, width_m=1.3, depth_m=1.25)
    sizes = ((0.6, 0.4), (0.6, 0.35), (0.6, 0.3), (0.5, 0.35), (0.4, 0.3), (0.4, 0.31))
    boxes = [a_box(f"{at}", (long, wide, 0.2), 5.0, first_min=at) for at, (long, wide) in enumerate(sizes)]
    found = layout_of(boxes, Surroundings(a_place(kit_areas=(area,))), [])
    expected = [(1.0, 0.5), (1.7, 0.5), (1.0, 1.0), (1.7, 1.0), (1.0, 1.45)]
    assert [(each.x_m, each.y_m) for each in found.laid] == [pytest.approx(at) for at in expected]
    assert [box.label for box in found.crowded_out] == ["5"]
