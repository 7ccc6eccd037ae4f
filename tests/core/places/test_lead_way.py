"""How leads lie, on a plan that can be walked in the head: two rooms of 6 by 5 with a doorway between them."""

import pytest

from iron_bucket.core.places.lead_way import LeadWay, cross
from iron_bucket.core.places.place import OpeningKind, Place, Room, WallOpening
from iron_bucket.core.places.surroundings import Surroundings

DOOR = WallOpening(
    opening_id="door", name="Door", kind=OpeningKind.DOORWAY, wall=1, along_m=2.5, sill_m=0.0, width_m=1.0, height_m=2.0
)
ROOF = WallOpening(
    opening_id="r", name="Hatch", kind=OpeningKind.DOORWAY, wall=-1, along_m=3, sill_m=2, width_m=1, height_m=1
)
WALLS = {"height_m": 3.0, "walls": ("brick",) * 4, "floor": "concrete", "ceiling": "white paint"}
WEST = Room(room_id="w", name="West", corners=((0, 0), (6, 0), (6, 5), (0, 5)), openings=(DOOR, ROOF), **WALLS)
EAST = Room(room_id="e", name="East", corners=((6, 0), (12, 0), (12, 5), (6, 5)), **WALLS)
WAYS = Surroundings(Place(name="Two", rooms=(WEST, EAST))).lead_ways


@pytest.mark.parametrize(
    ("start", "end", "length_m", "doorways"),
    [
        ((0.2, 0.2), (5.6, 0.4), 0.2 + 5.4 + 0.4, ()),  # out to the wall, along it, back in
        ((0.2, 0.2), (5.8, 4.6), 0.2 + 5.8 + 4.6 + 0.2, ("Door",)),  # the shorter way round crosses the doorway
        ((3.0, 0.0), (9.0, 0.0), 3.0 + 2.5 + 2.5 + 3.0, ("Door",)),  # through it and back along the other side
        ((0.2, 0.2), (0.2, 0.2), 0.0, ()),
        ((1.0, 2.5), (1.4, 2.5), 0.4, ()),  # near each other nobody goes to the wall
        ((-3.0, -4.0), (0.0, -4.0), 3.0, ()),  # outside straight
    ],
)
def test_along_the_walls_and_through_doorways(start, end, length_m, doorways):
    for way in (WAYS.way(start, end), WAYS.way(end, start)):
        assert (way.length_m, way.doorways) == (pytest.approx(length_m), doorways)
    assert WAYS.way(start, end).points[0] == start
    assert WAYS.way(start, end).points[-1] == end


def test_straight_where_that_is_asked_for_and_by_the_door_from_outside():
    straight = WAYS.way((3.0, 2.5), (9.0, 2.5), is_straight=True)
    assert straight == LeadWay(points=((3.0, 2.5), (9.0, 2.5)), doorways=("Door",))
    alone = Surroundings(Place(name="One", rooms=(WEST,))).lead_ways
    assert alone.way((9.0, 2.5), (6.0, 1.0)).points == ((9.0, 2.5), (6.0, 2.5), (6.0, 1.0))
    shut = Surroundings(Place(name="Shut", rooms=(EAST,))).lead_ways
    assert shut.way((0.0, 1.0), (9.0, 1.0)).points == ((0.0, 1.0), (9.0, 1.0))  # no way leads in: straight
    assert [each.name for each in WAYS.doorways] == ["Door"]
    assert WAYS.doorways[0].sides == ((6.0, 2.0), (6.0, 3.0))


@pytest.mark.parametrize(
    ("one", "other", "do"),
    [
        (((0, 0), (2, 2)), ((0, 2), (2, 0)), True),
        (((0, 0), (1, 1)), ((3, 0), (2, 9)), False),
        (((0, 0), (4, 0)), ((1, 0), (2, 0)), True),  # along it
        (((0, 0), (4, 0)), ((1, 0.2), (2, 0.2)), False),
        (((0, 0), (4, 0)), ((2, 1), (2, 3)), False),
        (((0, 0), (4, 0)), ((2, -1), (2, 3)), True),
        (((0, 0), (4, 0)), ((5, -1), (5, 3)), False),
        (((1, 1), (4, 3)), ((1.5, 3), (3.4, 1.2)), True),
        (((1, 1), (4, 3)), ((1.5, 3), (2.3, 2.3)), False),
        (((-2, 1), (1, -3)), ((-3, -2), (1.5, 0.3)), True),
    ],
)
def test_where_stretches_cross(one, other, do):
    assert cross(one, other) is do
    assert cross(one[::-1], other) is do
