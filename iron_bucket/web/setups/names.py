"""Where names and letters stand on a throw plan, once for a wide screen and once for a phone."""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.places.bearing import along_bearing
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.web.setups.signs import DrawnPiece
from iron_bucket.web.shared.pictures.labels import Label, boxes_along, placed_labels
from iron_bucket.web.shared.pictures.plan import CM, LETTER_PX, Paper, PlacePicture

#: Typical width of a letter of a name at 12 pixels; a chip round one letter, and the height of either.
_CHIP_PX, _HIGH_PX = 19.0, 16.0
#: A sign is a disc of so many pixels.
_SIGN_PX = 13.0
_WALL_PX = 3.0
#: A phone shows the plan so wide, and in one of these shapes where nothing is cut off by it.
PHONE_PX = 390.0
_PHONE_SHAPES = {"1/1": 1.0, "4/3": 4.0 / 3.0, "5/3": 5.0 / 3.0}


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnName:
    """A name beside its sign, in units from the sign's middle; ``line``: from the sign to it, empty where none is
    needed.
    """

    text: str
    is_letter: bool
    dx: float
    dy: float
    line: str
    is_clear: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class NamedSheet:
    """All names for one width of the plan, by piece id. ``u``: units to a pixel there; ``shape``: how wide to how high
    the plan is shown there, empty where the whole sheet is.
    """

    width: str
    u: float
    shape: str
    names: dict[str, DrawnName]


def named_sheets(pieces: tuple[DrawnPiece, ...], place: PlacePicture, around: Surroundings) -> tuple[NamedSheet, ...]:
    """Names that keep clear of signs, walls and each other, at either width."""
    paper = place.paper
    shape, share = _phone_shape(paper)
    shown = {"wide": (paper.shown_px, "", 1.0), "phone": (min(PHONE_PX, paper.shown_px), shape, share)}
    found = []
    for width, (shown_px, held, part) in shown.items():
        u = paper.width_m * CM * part / shown_px
        left_px = paper.width_m * CM / u * (1.0 - part) / 2.0
        names = _named(pieces, place, around, u, left_px)
        found.append(NamedSheet(width=width, u=u, shape=held, names=names))
    return tuple(found)


def _phone_shape(paper: Paper) -> tuple[str, float]:
    """The narrowest shape that shows all that the sheet holds, and which part of its width that is."""
    for shape, ratio in _PHONE_SHAPES.items():
        if paper.filled_m <= ratio * paper.height_m < paper.width_m:
            return shape, ratio * paper.height_m / paper.width_m
    return "", 1.0


def _named(
    pieces: tuple[DrawnPiece, ...], place: PlacePicture, around: Surroundings, u: float, left_px: float
) -> dict[str, DrawnName]:
    """``left_px``: so much is cut off on either side."""
    paper = place.paper
    labels = [
        Label(
            key=piece.piece_id,
            x=piece.x / u - left_px,
            y=piece.y / u,
            width=_CHIP_PX + 7.0 * (len(piece.letter) - 1) if piece.letter else LETTER_PX * len(piece.label) + 4.0,
            height=_CHIP_PX if piece.letter else _HIGH_PX,
            clear=_SIGN_PX,
            towards_deg=_towards(piece),
        )
        for piece in pieces
        if piece.is_named
    ]
    taken = np.concatenate([_signs(pieces, u), _walls(around, place, u), _words(place, u)])
    aside = np.array([left_px, 0.0, left_px, 0.0])
    found = placed_labels(labels, taken - aside, paper.width_m * CM / u - 2.0 * left_px, paper.height_m * CM / u)
    names = {}
    for piece in (each for each in pieces if each.is_named):
        spot = found[piece.piece_id]
        line = ""
        if spot.leader:
            end = np.array(spot.leader)
            start = end / np.linalg.norm(end) * _SIGN_PX * 0.8
            line = f"M{start[0] * u:.1f} {start[1] * u:.1f}L{end[0] * u:.1f} {end[1] * u:.1f}"
        names[piece.piece_id] = DrawnName(
            text=piece.label,
            is_letter=bool(piece.letter),
            dx=round(spot.dx * u, 1),
            dy=round(spot.dy * u, 1),
            line=line,
            is_clear=spot.is_clear,
        )
    return names


def _towards(piece: DrawnPiece) -> float:
    """A letter behind its lamp, a name on the side where no nose is, below a camera."""
    if piece.shape == "person":
        return 0.0 if not 20.0 < piece.bearing < 160.0 else 180.0
    if piece.shape == "spot":
        return -60.0
    return piece.bearing + 90.0  # right behind what looks up at 0


def _signs(pieces: tuple[DrawnPiece, ...], u: float) -> Array:
    """Discs as boxes, and flat things along their whole width."""
    boxes = []
    for piece in pieces:
        middle = np.array([piece.x, piece.y]) / u
        if piece.half:
            along = along_bearing(piece.bearing + 90.0)[:2] * np.array([1.0, -1.0]) * piece.half / u
            boxes.append(boxes_along(np.array([middle - along, middle + along]), 4.0))
        else:
            boxes.append(np.concatenate([middle - _SIGN_PX, middle + _SIGN_PX])[None])
    return np.concatenate(boxes)


def _walls(around: Surroundings, place: PlacePicture, u: float) -> Array:
    corners = [
        np.array([place.paper.at(float(x), float(y)) for x, y in (*room.corners, room.corners[0])]) / u
        for room in around.place.rooms
    ]
    return np.concatenate([np.empty((0, 4)), *(boxes_along(each, _WALL_PX) for each in corners)])


def _words(place: PlacePicture, u: float) -> Array:
    """Rooms' names, wall numbers, the needle and the scale bar."""
    width, height = place.paper.width_m * CM / u, place.paper.height_m * CM / u
    boxes = [
        [room.x / u - 2.0, room.y / u - 12.0, room.x / u + LETTER_PX * len(room.words), room.y / u + 4.0]
        for room in place.rooms
    ]
    boxes += [[each.x / u - 6.0, each.y / u - 7.0, each.x / u + 6.0, each.y / u + 7.0] for each in place.walls]
    bar_px = place.bar_length / u + 12.0 + LETTER_PX * len(place.bar_text)
    boxes += [[width - 50.0, 0.0, width, 54.0], [8.0, height - 24.0, 16.0 + bar_px, height]]
    return np.array(boxes)


def taken_boxes(pieces: tuple[DrawnPiece, ...], place: PlacePicture, sheet: NamedSheet, around: Surroundings) -> Array:
    """All that numbers on the light keep clear of, in pixels of the sheet's width. Shape (N, 4)."""
    u = sheet.u
    names = []
    for piece in (each for each in pieces if each.is_named):
        name, high = sheet.names[piece.piece_id], _CHIP_PX if piece.letter else _HIGH_PX
        half = np.array([_CHIP_PX if name.is_letter else LETTER_PX * len(name.text), high]) / 2.0
        middle = np.array([piece.x + name.dx, piece.y + name.dy]) / u
        names.append(np.concatenate([middle - half, middle + half]))
    return np.concatenate([_signs(pieces, u), _walls(around, place, u), _words(place, u), np.array(names)])
