"""How leads lie, on a plan that can be walked in the head: two rooms of 6 by 5 with a doorway between them."""

import math
from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
import shapely
from scipy.sparse.csgraph import dijkstra
from scipy.spatial.distance import cdist

from iron_bucket.core.places.lead_way import Doorway, LeadWay, cross
from iron_bucket.core.places.place import OpeningKind, Place, Room, WallOpening
from iron_bucket.core.places.surroundings import Surroundings
from tests.tables import tabled

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


@tabled
def test_along_the_walls_and_through_doorways(start, end, length_m, doorways):
    for way in (WAYS.way(start, end), WAYS.way(end, start)):
        assert (way.length_m, way.doorways) == (pytest.approx(length_m), doorways)
    assert WAYS.way(start, end).points[0] == start
    assert WAYS.way(start, end).points[-1] == end


OUT = replace(DOOR, opening_id="out", name="Way out", along_m=2.0)
UP = replace(DOOR, opening_id="up", name="Way up", wall=0, along_m=1.5, width_m=0.8)
SLANTING = replace(WEST, room_id="s", corners=((6, 0), (12, 1), (11, 6), (6, 5)), openings=(OUT,))
UPPER = replace(WEST, room_id="u", corners=((0, 5), (6, 5), (6, 9), (1, 8)), openings=(UP,))


@pytest.mark.parametrize("seed", range(100, 160))
def test_no_way_of_all_that_there_are_costs_less(seed):
    """Against every stretch between any two points that lie on one wall, put into a library's search."""
    rooms = (WEST, SLANTING, UPPER)
    around = Surroundings(Place(name="Three", rooms=rooms))
    ends = np.random.default_rng(seed).uniform((-1.0, -1.0), (13.0, 9.5), (2, 2)).round(3)
    if seed % 3 == 0:  # near each other
        ends[1] = ends[0] + (0.3, 0.1)
    outlines = [shapely.Polygon(room.corners) for room in rooms]
    held = [next((at for at, each in enumerate(outlines) if each.contains(shapely.Point(end))), -1) for end in ends]
    doors = [(-1, each.middle) for each in around.lead_ways.doorways]
    assert around.lead_ways.doorways[1].sides == ((11.7058, 2.4709), (11.5097, 3.4515))
    assert around.lead_ways.doorways[2] == Doorway(name="Way up", sides=((1.1, 5.0), (1.9, 5.0)))
    nodes = [*((room, tuple(end)) for room, end in zip(held, ends, strict=True)), *doors]
    walls = [(at, wall) for at, room in enumerate(rooms) for wall in pairwise((*room.corners, room.corners[0]))]
    lines = [(at, shapely.LineString(wall)) for at, wall in walls]
    feet = []
    for at, line in lines:
        nodes += [(at, each) for each in line.coords]
        for number in (0, 1):
            if held[number] == at:
                spot = line.interpolate(line.project(shapely.Point(ends[number])))
                feet.append((number, len(nodes)))
                nodes.append((at, (spot.x, spot.y)))
    apart = cdist([point for _, point in nodes], [point for _, point in nodes])
    times = np.full(apart.shape, np.inf)
    open_air = [at for at, (room, _) in enumerate(nodes) if room == -1]
    times[np.ix_(open_air, open_air)] = 1.5
    for at, line in lines:
        near = [line.dwithin(shapely.Point(each), {at: 1e-6, -1: 0.05}.get(room, -1.0)) for room, each in nodes]
        on = [number for number in np.flatnonzero(near) if number > 1]
        times[np.ix_(on, on)] = 1.0
    for number, foot in feet:
        times[number, foot] = times[foot, number] = 1.5
    if held[0] == held[1] >= 0:
        times[0, 1] = times[1, 0] = 3.0
    cost = times * np.maximum(apart, 1e-9)
    least = dijkstra(np.where(np.isfinite(cost), cost, 0.0), indices=0)[1]
    points = around.lead_ways.way(tuple(ends[0]), tuple(ends[1])).points
    if held == [-1, -1]:
        assert points == (tuple(ends[0]), tuple(ends[1]))
        return
    stands_on_walls = {*points[1:-1]} - {middle for _, middle in doors}
    assert all(round(each, 4) == each for point in stands_on_walls for each in point)
    at = [[n for n, (_, each) in enumerate(nodes) if math.dist(each, point) < 1e-3] for point in points]
    assert sum(cost[np.ix_(*pair)].min() for pair in pairwise(at)) == pytest.approx(least, abs=1e-3)


def test_straight_where_that_is_asked_for_and_by_the_door_from_outside():
    straight = WAYS.way((3.0, 2.5), (9.0, 2.5), is_straight=True)
    assert straight == LeadWay(points=((3.0, 2.5), (9.0, 2.5)), doorways=("Door",))
    alone = Surroundings(Place(name="One", rooms=(WEST,))).lead_ways
    assert alone.way((9.0, 2.5), (6.0, 1.0)).points == ((9.0, 2.5), (6.0, 2.5), (6.0, 1.0))
    shut = Surroundings(Place(name="Shut", rooms=(EAST,))).lead_ways
    assert shut.way((0.0, 1.0), (9.0, 1.0)).points == ((0.0, 1.0), (9.0, 1.0))  # no way leads in: straight
    assert [each.name for each in WAYS.doorways] == ["Door"]
    assert WAYS.doorways[0].sides == ((6.0, 2.0), (6.0, 3.0))


@tabled
def test_where_stretches_cross(one, other, do):
    assert cross(one, other) is do
    assert cross(one[::-1], other) is do
