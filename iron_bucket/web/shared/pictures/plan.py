"""A place on paper, to scale: rooms, openings, house lamps, sockets, kit areas.

One unit is a centimetre; y runs down.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field

import numpy as np

from iron_bucket.core.places.bearing import along_bearing
from iron_bucket.core.places.place import OpeningKind, Room
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.scene.polygon_room import CEILING, PolygonRoom

CM = 100.0
MARGIN_M = 0.8
_SMALLEST_M = 5.0
#: A wall's number is tried so far along it from its middle, in shares of its length, and inside by so many pixels.
_ALONG = np.array([-0.3, 0.3, -0.15, 0.15, -0.4, 0.4, 0.0])
#: From a wall to its number, and where a room's name fills the whole length of a short wall.
_NUMBER_INSIDE_PX = np.array([11.0, 25.0])
#: A room's name: from its walls, a letter's width and height, and how far a sign is from its middle line.
_NAME_INSIDE_M = 0.12
LETTER_PX, _LETTER_HIGH_PX = 6.6, 9.0
_NAME_CLEAR_PX = 18.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Paper:
    """What of the plan is on the paper, in metres; ``filled_m``: how much of its width, about the middle, holds
    anything; ``per_px``: units to a pixel at the width it is shown at.
    """

    left_m: float
    top_m: float
    width_m: float
    height_m: float
    shown_px: float
    filled_m: float

    @property
    def view_box(self) -> str:
        """For the picture."""
        return f"0 0 {self.width_m * CM:.0f} {self.height_m * CM:.0f}"

    @property
    def per_px(self) -> float:
        """Units to a pixel."""
        return self.width_m * CM / self.shown_px

    def at(self, x_m: float, y_m: float) -> tuple[float, float]:
        """A place on the plan in units."""
        return round((x_m - self.left_m) * CM, 1), round((self.top_m - y_m) * CM, 1)

    def on_floor(self, units: np.ndarray) -> np.ndarray:
        """Places in units, in metres on the plan. Shapes (N, 2) to (N, 3)."""
        flat = (self.left_m, self.top_m) + units * (1.0, -1.0) / CM
        return np.column_stack([flat, np.zeros(len(flat))])

    def path(self, points: np.ndarray, *, is_closed: bool = True) -> str:
        """An outline. Shape (N, 2)."""
        units = np.round((np.asarray(points) - (self.left_m, self.top_m)) * (CM, -CM), 1).tolist()
        return "M" + "L".join(f"{x} {y}" for x, y in units) + ("Z" if is_closed else "")


def paper_for(points_m: np.ndarray, *, shown_px: float, most_px: float) -> Paper:
    """A sheet that holds all points with a margin, no higher than ``most_px``. Shape (N, 2)."""
    low, high = points_m.min(axis=0) - MARGIN_M, points_m.max(axis=0) + MARGIN_M
    size = np.maximum(high - low, _SMALLEST_M)
    middle = (low + high) / 2.0
    width = max(size[0], size[1] * shown_px / most_px)
    height = min(max(size[1], 0.35 * width), width * most_px / shown_px)
    return Paper(
        left_m=float(middle[0] - width / 2),
        top_m=float(middle[1] + height / 2),
        width_m=float(width),
        height_m=float(height),
        shown_px=shown_px,
        filled_m=float(min(size[0], width)),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnRoom:
    """Its outline, and where ``words``, its name and height, stand."""

    path: str
    words: str
    x: float
    y: float


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnOpening:
    """A stretch of wall: a pane is a double line, a doorway a gap."""

    name: str
    is_doorway: bool
    x1: float
    y1: float
    x2: float
    y2: float


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnThing:
    """A house lamp or a socket."""

    name: str
    x: float
    y: float
    must_stay: bool = False
    is_on: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnArea:
    """A rectangle where kit may stand, or a roof light."""

    name: str
    x: float
    y: float
    width: float
    height: float


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnWall:
    """The number by which forms call a wall, inside by its middle."""

    number: int
    x: float
    y: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PlacePicture:
    """All of it. ``starts``: first corner of each room, where wall 1 begins; ``north``: the needle's tip from its foot;
    ``bar``: a length and its words.
    """

    paper: Paper
    rooms: tuple[DrawnRoom, ...]
    openings: tuple[DrawnOpening, ...]
    roof_lights: tuple[DrawnArea, ...]
    lamps: tuple[DrawnThing, ...]
    sockets: tuple[DrawnThing, ...]
    areas: tuple[DrawnArea, ...]
    walls: tuple[DrawnWall, ...]
    starts: tuple[tuple[float, float], ...]
    north_dx: float
    north_dy: float
    bar_length: float
    bar_text: str
    description: str = field(default="")


def place_points(surroundings: Surroundings) -> np.ndarray:
    """All that a sheet must hold. Shape (N, 2)."""
    place = surroundings.place
    points = [np.array(room.corners) for room in place.rooms]
    points.append(np.array([(each.x_m, each.y_m) for each in place.house_lamps]).reshape(-1, 2))
    points.append(np.array([(each.x_m, each.y_m) for each in place.sockets]).reshape(-1, 2))
    for area in place.kit_areas:
        points.append(np.array([[area.x_m, area.y_m], [area.x_m + area.width_m, area.y_m + area.depth_m]]))
    found = np.concatenate(points)
    return found if len(found) else np.array([[0.0, 0.0]])


def place_picture(
    surroundings: Surroundings, paper: Paper, units: UnitSystem, signs: Sequence[tuple[float, float]] = ()
) -> PlacePicture:
    """Drawn on a sheet; rooms' names and walls' numbers keep clear of ``signs``, in units, where they can."""
    place = surroundings.place
    north = along_bearing(place.north_deg)
    bar_m = _bar_m(paper.width_m, units)
    things = [paper.at(lamp.x_m, lamp.y_m) for lamp in place.house_lamps]
    things += [paper.at(socket.x_m, socket.y_m) for socket in place.sockets]
    taken = np.array([*things, *signs]).reshape(-1, 2)
    rooms = tuple(
        _room(paper, shape, room, units, taken) for shape, room in zip(surroundings.rooms, place.rooms, strict=True)
    )
    names = [_along_name(paper, room.x, room.y, room.words) for room in rooms]
    taken = np.concatenate([taken, *names])
    return PlacePicture(
        paper=paper,
        rooms=rooms,
        openings=tuple(_openings(surroundings, paper)),
        roof_lights=tuple(_roof_lights(surroundings, paper)),
        lamps=tuple(
            DrawnThing(
                name=each.name,
                x=paper.at(each.x_m, each.y_m)[0],
                y=paper.at(each.x_m, each.y_m)[1],
                must_stay=each.must_stay,
                is_on=each.is_on,
            )
            for each in place.house_lamps
        ),
        sockets=tuple(
            DrawnThing(
                name=f"{each.name}, {each.circuit}",
                x=paper.at(each.x_m, each.y_m)[0],
                y=paper.at(each.x_m, each.y_m)[1],
            )
            for each in place.sockets
        ),
        areas=tuple(
            _area(paper, each.name, each.x_m, each.y_m + each.depth_m, each.width_m, each.depth_m)
            for each in place.kit_areas
        ),
        walls=tuple(each for shape in surroundings.rooms for each in _wall_numbers(shape, paper, taken)),
        starts=tuple(paper.at(*map(float, room.corners[0])) for room in place.rooms),
        north_dx=round(float(north[0]), 3),
        north_dy=round(-float(north[1]), 3),
        bar_length=bar_m * CM,
        bar_text=str(display.length(bar_m, units)),
        description=f"Plan of {place.name}: "
        + (
            "; ".join(
                f"{room.name}, {len(room.corners)} walls, {display.length(room.height_m, units)} high"
                for room in place.rooms
            )
            or "open ground"
        ),
    )


def _bar_m(width_m: float, units: UnitSystem) -> float:
    """About a sixth of the sheet, in round lengths."""
    foot = 0.3048 if units is UnitSystem.IMPERIAL else 1.0
    return max(
        length * foot for length in (0.5, 1, 2, 5, 10, 20, 50, 100) if length * foot <= max(width_m / 5.0, 0.5 * foot)
    )


def _room(paper: Paper, shape: PolygonRoom, room: Room, units: UnitSystem, taken: np.ndarray) -> DrawnRoom:
    """Its name in the first corner, from the lower left on, that lies inside it with nothing near."""
    words = f"{room.name} {display.length(room.height_m, units)}"
    width, high = len(words) * LETTER_PX * paper.per_px, _LETTER_HIGH_PX * paper.per_px
    (left, foot), (right, head) = (
        paper.at(*map(float, corner + way * _NAME_INSIDE_M))
        for corner, way in ((shape.corners_m.min(axis=0), 1.0), (shape.corners_m.max(axis=0), -1.0))
    )
    corners = [(x, y) for y in (foot, head + high) for x in (left, right - width)]

    def room_about(corner: tuple[float, float]) -> float:
        along = _along_name(paper, *corner, words)
        inside = shape.holds(paper.on_floor(along))
        apart = np.linalg.norm(along[:, None] - taken[None], axis=2).min(initial=np.inf)
        return min(float(apart), _NAME_CLEAR_PX * paper.per_px) if inside.all() else -1.0

    x, y = max(corners, key=room_about)  # of several that are free the first
    return DrawnRoom(path=paper.path(shape.corners_m), words=words, x=round(x, 1), y=round(y, 1))


def _along_name(paper: Paper, x: float, y: float, words: str) -> np.ndarray:
    """Points on the middle line of a name that begins at a place, in units. Shape (4, 2)."""
    across = x + len(words) * LETTER_PX * paper.per_px * np.linspace(0.0, 1.0, 4)
    return np.stack([across, np.full(4, y - _LETTER_HIGH_PX / 2.0 * paper.per_px)], axis=1)


def _wall_numbers(shape: PolygonRoom, paper: Paper, taken: np.ndarray) -> Iterator[DrawnWall]:
    """Inside, along each wall where nothing else of the place is near."""
    inside = _NUMBER_INSIDE_PX * paper.per_px
    for at in range(len(shape.corners_m)):
        panel = shape.wall(at)
        spots = panel.centre_m + panel.side_x * panel.width_m * _ALONG[:, None]
        along = np.array([paper.at(*map(float, spot[:2])) for spot in spots])
        inwards = panel.normal[:2] * np.array([1.0, -1.0])
        places = (along + inwards * inside[:, None, None]).reshape(-1, 2)
        apart = np.linalg.norm(places[:, None] - taken[None], axis=2).min(axis=1, initial=np.inf)
        x, y = places[int(np.argmax(np.minimum(apart, 1.5 * inside[0])))]  # of several that are free the first
        yield DrawnWall(number=at + 1, x=round(float(x), 1), y=round(float(y), 1))


def _openings(surroundings: Surroundings, paper: Paper) -> list[DrawnOpening]:
    found = []
    for shape, room in zip(surroundings.rooms, surroundings.place.rooms, strict=True):
        own = [each for each in shape.openings if each.surface != CEILING][
            : sum(each.wall != CEILING for each in room.openings)
        ]
        for opening, each in zip(own, [each for each in room.openings if each.wall != CEILING], strict=True):
            half = opening.panel.width_m / 2.0 * opening.panel.side_x[:2]
            (x1, y1), (x2, y2) = (paper.at(*(opening.panel.centre_m[:2] + way * half)) for way in (-1.0, 1.0))
            found.append(
                DrawnOpening(name=each.name, is_doorway=each.kind is OpeningKind.DOORWAY, x1=x1, y1=y1, x2=x2, y2=y2)
            )
    return found


def _roof_lights(surroundings: Surroundings, paper: Paper) -> list[DrawnArea]:
    return [
        _area(
            paper,
            each.name,
            each.along_m - each.width_m / 2,
            each.sill_m + each.height_m / 2,
            each.width_m,
            each.height_m,
        )
        for room in surroundings.place.rooms
        for each in room.openings
        if each.wall == CEILING
    ]


def _area(paper: Paper, name: str, left_m: float, top_m: float, width_m: float, depth_m: float) -> DrawnArea:
    x, y = paper.at(left_m, top_m)
    return DrawnArea(name=name, x=x, y=y, width=round(width_m * CM, 1), height=round(depth_m * CM, 1))
