"""The height strip under a throw plan: floor and ceilings, stands, the cut of each beam, the frame of the shot."""

from dataclasses import dataclass, replace

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.places.bearing import along_bearing
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluate.beams import Beam
from iron_bucket.core.setups.evaluation import Evaluation
from iron_bucket.core.setups.plan.camera_view import depth_m, picture_corners_m
from iron_bucket.core.setups.scene.build_scene import aimed, half_height_m, position_of
from iron_bucket.web.setups.signs import DrawnPiece
from iron_bucket.web.shared.pictures.labels import Label, placed_labels
from iron_bucket.web.shared.pictures.plan import CM, Paper

_ABOVE_M, _BELOW_M = 0.6, 0.25
_OUTSIDE_HEIGHT_M = 4.5
#: Where it would be higher than this, heights are drawn smaller than widths.
_MOST_PX = 96.0
_LETTER_PX, _SIGN_PX, _HIGH_PX = 6.2, 8.0, 12.0
#: Without people the frame of the shot is drawn so far before the lens.
_FRAME_M = 3.0


@dataclass(frozen=True, slots=True, kw_only=True)
class StripThing:
    """A piece on the strip: where, how high, half its height, which way it looks (``dx``, ``dy``), and its height in
    words, whose place is given from its middle; ``is_clear``: nothing else is there.
    """

    piece_id: str
    shape: str
    name: str
    letter: str
    x: float
    y: float
    half: float
    dx: float
    dy: float
    colour: str
    height: str
    label_dx: float = 0.0
    label_dy: float = 0.0
    is_clear: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class StripBeam:
    """The cut of a beam, in its colour."""

    path: str
    colour: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Strip:
    """Everything at its height over the same x as on the plan. ``up``: units to a metre of height; ``frame``: the
    picture's edges where the subject is, empty where that is behind the camera.
    """

    width: float
    height: float
    floor_y: float
    up: float
    ceilings: tuple[tuple[float, float, float, str], ...]
    beams: tuple[StripBeam, ...]
    frame: str
    things: tuple[StripThing, ...]
    per_px: float


def strip_picture(
    now: Evaluation, paper: Paper, pieces: tuple[DrawnPiece, ...], beams: dict[str, Beam], units: UnitSystem
) -> Strip:
    """Drawn from what was computed."""
    setup, rooms = now.setup, now.lit.built.surroundings
    top_m = max([room.height_m for room in rooms.rooms] or [_OUTSIDE_HEIGHT_M])
    top_m = max(top_m, *(piece.z_m for piece in pieces)) + _ABOVE_M
    up = min(CM, _MOST_PX * paper.per_px / (top_m + _BELOW_M))

    def down(z_m: float) -> float:
        return round((top_m - z_m) * up, 1)

    def path(points: Array) -> str:
        units = np.round((points[:, [0, 2]] - (paper.left_m, top_m)) * (CM, -up), 1).tolist()
        return "M" + "L".join(f"{x} {z}" for x, z in units) + "Z"

    ceilings = []
    for shape, room in zip(rooms.rooms, rooms.place.rooms, strict=True):
        left, right = (
            paper.at(float(edge), 0.0)[0] for edge in (shape.corners_m[:, 0].min(), shape.corners_m[:, 0].max())
        )
        ceilings.append((left, right, down(room.height_m), str(display.length(room.height_m, units))))
    things = []
    for piece in pieces:
        placed = setup.find(piece.piece_id)
        tilt, half = setup.camera.tilt_deg, 0.0
        if placed is not None:
            tilt = aimed(setup, placed[1])[1] if piece.where == "lamps" else placed[1].tilt_deg
            half = half_height_m(placed[1], now.gear) if piece.where in ("frames", "flags") else 0.0
        look = along_bearing(piece.bearing, tilt)
        things.append(
            StripThing(
                piece_id=piece.piece_id,
                shape=piece.shape,
                name=piece.name,
                letter=piece.letter,
                x=piece.x,
                y=down(piece.z_m),
                half=round(half * up, 1),
                dx=round(float(look[0]), 3),
                dy=round(-float(look[2]) * up / CM, 3),
                colour=piece.colour,
                height=str(display.length(piece.z_m, units)),
            )
        )
    ahead_m = depth_m(setup.camera, position_of(setup.people[0])) if setup.people else _FRAME_M
    width, height = round(paper.width_m * CM, 1), round((top_m + _BELOW_M) * up, 1)
    return Strip(
        width=width,
        height=height,
        floor_y=down(0.0),
        up=round(up, 3),
        ceilings=tuple(ceilings),
        beams=tuple(
            StripBeam(path=path(beam.upright_m), colour=next(p.colour for p in pieces if p.piece_id == key))
            for key, beam in beams.items()
        ),
        frame=path(picture_corners_m(setup.camera, setup.look, ahead_m)) if ahead_m > 0.0 else "",
        things=_labelled(things, tuple(ceilings), paper.per_px, width, height),
        per_px=paper.per_px,
    )


def _labelled(
    things: list[StripThing],
    ceilings: tuple[tuple[float, float, float, str], ...],
    u: float,
    width: float,
    height: float,
) -> tuple[StripThing, ...]:
    """Each with a place for its letter and height that nothing else has."""
    signs = [[t.x - _SIGN_PX * u, t.y - _SIGN_PX * u, t.x + _SIGN_PX * u, t.y + _SIGN_PX * u] for t in things]
    words = [
        [left, y - 14.0 * u, left + (8.0 + _LETTER_PX * len(text)) * u, y + 2.0 * u] for left, _, y, text in ceilings
    ]
    labels = [
        Label(
            key=each.piece_id,
            x=each.x / u,
            y=each.y / u,
            width=_LETTER_PX * (len(each.height) + len(each.letter) + 1),
            height=_HIGH_PX,
            clear=_SIGN_PX,
        )
        for each in things
    ]
    found = placed_labels(labels, np.array([*signs, *words]) / u, width / u, height / u)
    return tuple(
        replace(
            each,
            label_dx=round(spot.dx * u, 1),
            label_dy=round(spot.dy * u, 1),
            is_clear=spot.is_clear and spot.leader is None,
        )
        for each in things
        for spot in (found[each.piece_id],)
    )
