"""How a lead lies from a socket to a lamp: along the walls and through doorways, or straight."""

import math
from bisect import bisect
from collections import defaultdict
from collections.abc import Callable, Iterator
from copy import copy
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from heapq import heappop, heappush
from itertools import combinations, pairwise

import numpy as np

from iron_bucket.core.places.place import OpeningKind, Room
from iron_bucket.core.scene.polygon_room import PolygonRoom

Point = tuple[float, float]
#: A wall, and what lies on it: how far from its first corner, and the number of the point.
_OnWall = tuple[tuple[Point, Point], list[tuple[float, int]]]
#: Points nearer to each other are one.
_SAME_M = 0.01
#: A doorway whose middle is this near to a wall is in it; a lead that comes this near crosses it.
_NEAR_M = 0.05
#: In place of a room's number, of what lies in none or between two.
_OPEN = -1
#: A walk across the floor is one that a foot can catch on: it counts so much longer than one along the wall.
_ACROSS_TIMES = 1.5
#: Ways that are kept: a lamp that is dragged asks for many.
_KEPT = 1000


@dataclass(frozen=True, slots=True, kw_only=True)
class Doorway:
    """An opening that people walk through: its two sides on the plan."""

    name: str
    sides: tuple[Point, Point]

    @property
    def middle(self) -> Point:
        """Where a lead goes through."""
        (x1, y1), (x2, y2) = self.sides
        return (x1 + x2) / 2.0, (y1 + y2) / 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class LeadWay:
    """``points`` one after the other; ``doorways``: names of those that it crosses or goes through."""

    points: tuple[Point, ...]
    doorways: tuple[str, ...] = ()

    @property
    def length_m(self) -> float:
        """On the floor."""
        return sum(math.dist(*pair) for pair in pairwise(self.points))


@dataclass(eq=False)
class LeadWays:
    """Ways between the rooms of one place, made ready once; ``shapes`` of the rooms, in their order."""

    rooms: tuple[Room, ...]
    shapes: tuple[PolygonRoom, ...]
    doorways: tuple[Doorway, ...] = field(init=False)
    _kept: Callable[[Point, Point, bool], LeadWay] = field(init=False, repr=False)

    def __post_init__(self) -> None:
        self.doorways = tuple(_doorways(self.rooms, self.shapes))
        self._kept = lru_cache(_KEPT)(lambda start, end, is_straight: self._told(self._points(start, end, is_straight)))

    def way(self, start: Point, end: Point, *, is_straight: bool = False) -> LeadWay:
        """From one place on the plan to another. Straight where both stand outside, or no way leads along the walls."""
        return self._kept(start, end, is_straight)

    @cached_property
    def _net(self) -> "_Net":
        return _Net(self.shapes, self.doorways)

    def _points(self, start: Point, end: Point, is_straight: bool) -> tuple[Point, ...]:
        held = [self._room_at(each) for each in (start, end)]
        if is_straight or held == [_OPEN, _OPEN]:
            return start, end
        return self._net.shortest(start, end, held) or (start, end)

    def _room_at(self, point: Point) -> int:
        """-1 outside."""
        spot = np.array([(*point, 0.5)])
        return next((at for at, shape in enumerate(self.shapes) if shape.holds(spot)[0]), _OPEN)

    def _told(self, points: tuple[Point, ...]) -> LeadWay:
        crossed = [each.name for each in self.doorways if any(cross(pair, each.sides) for pair in pairwise(points))]
        return LeadWay(points=points, doorways=tuple(dict.fromkeys(crossed)))


def _doorways(rooms: tuple[Room, ...], shapes: tuple[PolygonRoom, ...]) -> Iterator[Doorway]:
    for shape, room in zip(shapes, rooms, strict=True):
        for opening in room.openings:
            if opening.kind is not OpeningKind.DOORWAY or opening.wall < 0:
                continue
            start, end = shape.corners_m[opening.wall], shape.corners_m[(opening.wall + 1) % len(shape.corners_m)]
            along = (end - start) / float(np.linalg.norm(end - start))
            sides = [start + along * (opening.along_m + way * opening.width_m / 2.0) for way in (-1.0, 1.0)]
            yield Doorway(name=opening.name, sides=(_point(sides[0]), _point(sides[1])))


def _point(at: np.ndarray) -> Point:
    return round(float(at[0]), 4), round(float(at[1]), 4)


class _Net:
    """Points that leads may lie between, and the ways of them: corners and doorways, which stay, then the feet of what
    stands in a room.
    """

    def __init__(self, rooms: tuple[PolygonRoom, ...], doorways: tuple[Doorway, ...]) -> None:
        self.points: list[Point] = []
        self.held: list[int] = []
        self.ways: dict[tuple[int, int], float] = {}
        self._numbers: dict[tuple[int, Point], int] = {}
        #: By room: each wall with what lies on it, by the distance from its first corner.
        self._walls = [self._along_walls(room, at, doorways) for at, room in enumerate(rooms)]
        self._middles = [self._number(each.middle, _OPEN) for each in doorways]
        self._join(self._middles, _ACROSS_TIMES)

    def shortest(self, start: Point, end: Point, held: list[int]) -> tuple[Point, ...] | None:
        """None where no way leads from one to the other; ``held``: the rooms of both, -1 outside."""
        net = copy(self)
        net.points, net.held, net.ways, net._numbers = [*self.points], [*self.held], {**self.ways}, {**self._numbers}
        ends = [net._number(point, room) for point, room in zip((start, end), held, strict=True)]
        net._stand(ends, held)
        return net._found(*ends)

    def _number(self, point: Point, room: int) -> int:
        """Of a point in a room, or in the open: corners of two rooms that meet are two, with a wall between them."""
        if (room, point) not in self._numbers:
            own = ((at, known) for at, known in enumerate(self.points) if self.held[at] == room)
            same = next((at for at, known in own if math.dist(point, known) < _SAME_M), len(self.points))
            if same == len(self.points):
                self.points.append(point)
                self.held.append(room)
            self._numbers[room, point] = same
        return self._numbers[room, point]

    def _along_walls(self, room: PolygonRoom, own: int, doorways: tuple[Doorway, ...]) -> list[_OnWall]:
        """Walls from corner to corner, with the doorways in them."""
        corners = [_point(each) for each in room.corners_m]
        found = []
        for at, corner in enumerate(corners):
            wall = corner, corners[(at + 1) % len(corners)]
            on_it = [(0.0, self._number(wall[0], own)), (math.dist(*wall), self._number(wall[1], own))]
            for each in doorways:
                if math.dist(_foot(each.middle, wall), each.middle) < _NEAR_M:
                    on_it.append((math.dist(corner, each.middle), self._number(each.middle, _OPEN)))
            on_it.sort()
            for (_, one), (_, other) in pairwise(on_it):
                self._add(one, other, 1.0)
            found.append((wall, on_it))
        return found

    def _stand(self, ends: list[int], held: list[int]) -> None:
        """Ways from what stands in a room to its walls and on to what lies on them, and across to each other."""
        feet: dict[tuple[int, int], list[int]] = defaultdict(list)
        for number, room in zip(ends, held, strict=True):
            for at, (wall, on_it) in enumerate(self._walls[room] if room != _OPEN else ()):
                place = _foot(self.points[number], wall)
                foot, along = self._number(place, room), math.dist(wall[0], place)
                self._add(number, foot, _ACROSS_TIMES)
                after = bisect(on_it, (along, -1))
                for _, neighbour in on_it[max(after - 1, 0) : after + 1]:
                    self._add(foot, neighbour, 1.0)
                feet[room, at].append(foot)
        for on_one_wall in feet.values():
            self._join(on_one_wall, 1.0)
        for room in set(held):
            inside = [number for number, own in zip(ends, held, strict=True) if own == room]
            if room == _OPEN:
                self._join([*inside, *self._middles], _ACROSS_TIMES)
            else:
                self._join(inside, _ACROSS_TIMES * 2.0)  # right across the room only where it saves much

    def _join(self, numbers: list[int], times: float) -> None:
        for one, other in combinations(dict.fromkeys(numbers), 2):
            self._add(one, other, times)

    def _add(self, one: int, other: int, times: float) -> None:
        if one != other:
            cost = max(times * math.dist(self.points[one], self.points[other]), 1e-9)
            pair = (min(one, other), max(one, other))
            self.ways[pair] = min(cost, self.ways.get(pair, math.inf))

    def _found(self, start: int, end: int) -> tuple[Point, ...] | None:
        """Source: E. W. Dijkstra, A note on two problems in connexion with graphs, 1959. In plain Python: a net has a
        dozen points, and a library's takes ten times as long to be built.
        """
        ways: dict[int, list[tuple[int, float]]] = defaultdict(list)
        for (one, other), cost in self.ways.items():
            ways[one].append((other, cost))
            ways[other].append((one, cost))
        before, nearest = {start: start}, [(0.0, start, start)]
        settled: set[int] = set()
        while nearest and end not in settled:
            far, number, from_ = heappop(nearest)
            if number in settled:
                continue
            settled.add(number)
            before[number] = from_
            for other, cost in ways[number]:
                if other not in settled:
                    heappush(nearest, (far + cost, other, number))
        if end not in settled:
            return None
        chain = [end]
        while chain[-1] != start:
            chain.append(before[chain[-1]])
        return tuple(self.points[each] for each in reversed(chain))


def _foot(point: Point, wall: tuple[Point, Point]) -> Point:
    """The nearest place on a wall."""
    (x, y), ((left, low), (right, high)) = point, wall
    across, up = right - left, high - low
    share = ((x - left) * across + (y - low) * up) / (across * across + up * up)
    share = min(max(share, 0.0), 1.0)
    return round(left + share * across, 4), round(low + share * up, 4)


def cross(one: tuple[Point, Point], other: tuple[Point, Point]) -> bool:
    """Whether two stretches cross, lie on each other in part, or one ends on the other's middle."""
    (a, b), (c, d) = (tuple(np.array(each) for each in pair) for pair in (one, other))
    middle = (c + d) / 2.0
    near = math.dist(_foot(_point(middle), one), _point(middle))
    return near < _NEAR_M or (_side(a, b, c) * _side(a, b, d) < 0.0 and _side(c, d, a) * _side(c, d, b) < 0.0)


def _side(a: np.ndarray, b: np.ndarray, at: np.ndarray) -> float:
    return float((b[0] - a[0]) * (at[1] - a[1]) - (b[1] - a[1]) * (at[0] - a[0]))
