"""How a lead lies from a socket to a lamp: along the walls and through doorways, or straight."""

import math
from collections import defaultdict
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from functools import lru_cache
from itertools import combinations, pairwise

import numpy as np
from scipy.sparse import csr_array
from scipy.sparse.csgraph import dijkstra

from iron_bucket.core.places.place import OpeningKind, Room
from iron_bucket.core.scene.polygon_room import PolygonRoom

Point = tuple[float, float]
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

    def _points(self, start: Point, end: Point, is_straight: bool) -> tuple[Point, ...]:
        held = [self._room_at(each) for each in (start, end)]
        if is_straight or held == [_OPEN, _OPEN]:
            return start, end
        return _Net(self.shapes, self.doorways).shortest(start, end, held) or (start, end)

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
    """Points that leads may lie between: corners, doorways, feet of what stands in the room, and the ways of them."""

    def __init__(self, rooms: tuple[PolygonRoom, ...], doorways: tuple[Doorway, ...]) -> None:
        self.rooms, self.doorways = rooms, doorways
        self.points: list[Point] = []
        self.held: list[int] = []
        self.ways: dict[tuple[int, int], float] = {}

    def shortest(self, start: Point, end: Point, held: list[int]) -> tuple[Point, ...] | None:
        """None where no way leads from one to the other; ``held``: the rooms of both, -1 outside."""
        ends = [self._number(point, room) for point, room in zip((start, end), held, strict=True)]
        for at, room in enumerate(self.rooms):
            inside = [number for number, own in zip(ends, held, strict=True) if own == at]
            self._along_walls(room, at, inside)
        outside = [number for number, own in zip(ends, held, strict=True) if own == _OPEN]
        self._join([*outside, *(self._number(each.middle, _OPEN) for each in self.doorways)], _ACROSS_TIMES)
        return self._found(*ends)

    def _number(self, point: Point, room: int) -> int:
        """Of a point in a room, or in the open: corners of two rooms that meet are two, with a wall between them."""
        for at, known in enumerate(self.points):
            if self.held[at] == room and math.dist(point, known) < _SAME_M:
                return at
        self.points.append(point)
        self.held.append(room)
        return len(self.points) - 1

    def _along_walls(self, room: PolygonRoom, own: int, inside: list[int]) -> None:
        """Walls from corner to corner, with the doorways in them and the feet of what stands in the room."""
        corners = [_point(each) for each in room.corners_m]
        on_wall: dict[int, list[tuple[Point, int]]] = defaultdict(list)
        walls = [(corner, corners[(at + 1) % len(corners)]) for at, corner in enumerate(corners)]
        for at, wall in enumerate(walls):
            middles = (each.middle for each in self.doorways)
            on_wall[at] += [(each, _OPEN) for each in middles if math.dist(_foot(each, wall), each) < _NEAR_M]
        for number in inside:
            for at, wall in enumerate(walls):
                foot = _foot(self.points[number], wall)
                on_wall[at].append((foot, own))
                self._add(number, self._number(foot, own), _ACROSS_TIMES)
        self._join(inside, _ACROSS_TIMES * 2.0)  # right across the room only where it saves much
        for at, (corner, after) in enumerate(walls):
            chain = [(corner, own), *on_wall[at], (after, own)]
            chain.sort(key=lambda pair, begins=corner: math.dist(pair[0], begins))  # type: ignore[misc]
            for one, other in pairwise(chain):
                self._add(self._number(*one), self._number(*other), 1.0)

    def _join(self, numbers: list[int], times: float) -> None:
        for one, other in combinations(dict.fromkeys(numbers), 2):
            self._add(one, other, times)

    def _add(self, one: int, other: int, times: float) -> None:
        if one != other:
            cost = max(times * math.dist(self.points[one], self.points[other]), 1e-9)
            pair = (min(one, other), max(one, other))
            self.ways[pair] = min(cost, self.ways.get(pair, math.inf))

    def _found(self, start: int, end: int) -> tuple[Point, ...] | None:
        if start == end:
            return (self.points[start],)
        rows, columns = zip(*self.ways, strict=True)
        net = csr_array((list(self.ways.values()), (rows, columns)), shape=(len(self.points),) * 2)
        _, before = dijkstra(net, directed=False, indices=start, return_predecessors=True)
        chain = [end]
        while chain[-1] != start:
            if before[chain[-1]] < 0:
                return None
            chain.append(int(before[chain[-1]]))
        return tuple(self.points[each] for each in reversed(chain))


def _foot(point: Point, wall: tuple[Point, Point]) -> Point:
    """The nearest place on a wall."""
    start, end = np.array(wall[0]), np.array(wall[1])
    along = end - start
    share = float(np.clip((np.array(point) - start) @ along / (along @ along), 0.0, 1.0))
    return _point(start + share * along)


def cross(one: tuple[Point, Point], other: tuple[Point, Point]) -> bool:
    """Whether two stretches cross, lie on each other in part, or one ends on the other's middle."""
    (a, b), (c, d) = (tuple(np.array(each) for each in pair) for pair in (one, other))
    middle = (c + d) / 2.0
    near = math.dist(_foot(_point(middle), one), _point(middle))
    return near < _NEAR_M or (_side(a, b, c) * _side(a, b, d) < 0.0 and _side(c, d, a) * _side(c, d, b) < 0.0)


def _side(a: np.ndarray, b: np.ndarray, at: np.ndarray) -> float:
    return float((b[0] - a[0]) * (at[1] - a[1]) - (b[1] - a[1]) * (at[0] - a[0]))
