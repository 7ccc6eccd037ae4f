"""A set-up on paper: what is placed, drawn on its place to scale, and the height strip below it."""

from dataclasses import dataclass, replace

import numpy as np

from iron_bucket.core.arrays import units as unit_ways
from iron_bucket.core.colour.seen import seen_rgb
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.places.bearing import along_bearing
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.scene.scene import SceneLamp
from iron_bucket.core.setups.evaluate.beams import beam_on_plan
from iron_bucket.core.setups.evaluation import Evaluation
from iron_bucket.core.setups.plan.camera_view import field_of_view_deg
from iron_bucket.core.setups.plan.setup import PLACED, FlagKind, PlacedFlag, PlacedFrame, Setup
from iron_bucket.core.setups.scene.book import Book, books
from iron_bucket.core.setups.scene.build_scene import LightKind, aimed, frame_size_m, half_height_m
from iron_bucket.web.shared.pictures.lines import Lines
from iron_bucket.web.shared.pictures.plan import CM, Paper, PlacePicture, paper_for, place_picture, place_points

PLAN_PX, PLAN_HIGH_PX = 700.0, 400.0
#: A beam is drawn as far as its axis lies so many stops under the exposure.
SHOWN_UNDER_STOPS = 2.0
_VIEW_M = 9.0
#: Typical width of a letter of a name on the plan, and how far aside of its piece a name begins.
_LETTER_PX, _LABEL_ASIDE_PX = 6.6, 13.0
_STRIP_ABOVE_M, _STRIP_BELOW_M = 0.35, 0.25
_OUTSIDE_HEIGHT_M = 4.5


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnPiece:
    """Anything placed: where, which way it looks (degrees clockwise), what it is called. ``shape`` says which mark is
    drawn.

    ``half`` and ``length`` in units: half the width of a flat thing; ``colour``: of its light against the white
    balance.
    """

    piece_id: str
    where: str
    shape: str
    name: str
    words: str
    x: float
    y: float
    bearing: float
    x_m: float
    y_m: float
    z_m: float
    half: float = 0.0
    colour: str = ""
    is_on: bool = True
    is_locked: bool = False
    group: str = ""
    notes: tuple[str, ...] = ()
    is_named: bool = True
    is_labelled_left: bool = False
    label_down: float = 22.0

    @property
    def label_px(self) -> float:
        """How long its name is with what stands behind it, in pixels."""
        return _LETTER_PX * len(" ".join((self.name, *self.notes)))


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnBeam:
    """Outlines of half and a tenth of the peak, in the colour of the light."""

    piece_id: str
    half: str
    tenth: str
    colour: str


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnBook:
    """A book light as one sign: what lies between its pages, in the colour of its light, and the spine."""

    pages: str
    spine: str
    colour: str


@dataclass(frozen=True, slots=True, kw_only=True)
class StripThing:
    """A piece on the height strip: where, how high, half its height, which way it tilts;

    ``lean``: towards the right or left.
    """

    piece_id: str
    shape: str
    name: str
    x: float
    y: float
    half: float
    dx: float
    dy: float
    colour: str
    height: str
    label_down: float = 4.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Strip:
    """The height strip: floor and ceilings, everything at its height over the same x as on the plan."""

    width: float
    height: float
    floor_y: float
    ceilings: tuple[tuple[float, float, float, str], ...]
    things: tuple[StripThing, ...]
    per_px: float


@dataclass(frozen=True, slots=True, kw_only=True)
class SetupPicture:
    """The throw plan and its strip.

    ``view``: the camera's field as an outline; ``corners``: of all rooms, in metres, to snap to; ``walls``: value and
    name of each.
    """

    place: PlacePicture
    view: str
    pieces: tuple[DrawnPiece, ...]
    beams: tuple[DrawnBeam, ...]
    books: tuple[DrawnBook, ...]
    strip: Strip
    description: str
    corners: tuple[tuple[float, float], ...] = ()
    walls: tuple[tuple[str, str], ...] = ()

    @property
    def paper(self) -> Paper:
        """The sheet."""
        return self.place.paper


def setup_picture(
    now: Evaluation, units: UnitSystem, receptor: Receptor, *, shown_px: float = PLAN_PX, most_px: float = PLAN_HIGH_PX
) -> SetupPicture:
    """Drawn from what was computed."""
    setup, built = now.setup, now.lit.built
    points = [place_points(built.surroundings)] if built.surroundings.place.rooms else []
    points.append(
        np.array(
            [
                [setup.camera.x_m, setup.camera.y_m],
                *([each.x_m, each.y_m] for where in PLACED for each in getattr(setup, where)),
            ]
        )
    )
    paper = paper_for(np.concatenate(points), shown_px=shown_px, most_px=most_px)
    bound = books(setup, now.gear)
    leaves = {page for each in bound for page in (each.board_id, each.cloth_id)}
    pieces = _labelled([replace(p, is_named=p.piece_id not in leaves) for p in _pieces(now, paper, units)], paper)
    return SetupPicture(
        place=place_picture(built.surroundings, paper, units),
        view=_view(setup, paper),
        pieces=pieces,
        beams=tuple(_beams(now, paper, receptor)),
        books=tuple(_drawn_book(each, light_colours(now)[each.lamp_id], paper) for each in bound),
        strip=_strip(now, paper, pieces, units),
        walls=tuple(
            (f"wall-{at}-{number}", f"{room.name}, wall {number + 1}")
            for at, room in enumerate(built.surroundings.place.rooms)
            for number in range(len(room.corners))
        ),
        corners=tuple(corner for room in built.surroundings.place.rooms for corner in room.corners),
        description=f"Throw plan of {setup.name}: " + "; ".join(f"{each.name} {each.words}" for each in pieces),
    )


def _view(setup: Setup, paper: Paper) -> str:
    """The field of view, drawn some metres out."""
    half = field_of_view_deg(setup.camera, setup.look)[0] / 2.0
    start = np.array([setup.camera.x_m, setup.camera.y_m])
    ends = [start + _VIEW_M * along_bearing(setup.camera.bearing_deg + way * half)[:2] for way in (-1.0, 1.0)]
    return paper.path(np.array([ends[0], start, ends[1]]), is_closed=False)


def _pieces(now: Evaluation, paper: Paper, units: UnitSystem) -> list[DrawnPiece]:
    setup, colours = now.setup, light_colours(now)
    camera = setup.camera
    x, y = paper.at(camera.x_m, camera.y_m)
    found = [
        DrawnPiece(
            piece_id="camera",
            where="camera",
            shape="camera",
            name="Camera",
            words=f"{camera.focal_mm:g} mm, {display.length(camera.z_m, units)} high",
            x=x,
            y=y,
            bearing=camera.bearing_deg,
            x_m=camera.x_m,
            y_m=camera.y_m,
            z_m=camera.z_m,
        )
    ]
    sides = {rung.mark_id: rung for rung in now.ladder.rungs}
    for where in PLACED:
        for piece in getattr(setup, where):
            x, y = paper.at(piece.x_m, piece.y_m)
            bearing, half = piece.bearing_deg, 0.0
            notes: tuple[str, ...] = ()
            words = f"{display.length(piece.z_m, units)} high"
            shape = {"people": "person", "spots": "spot", "lamps": "lamp"}.get(where, where)
            if where == "lamps":
                bearing = aimed(setup, piece)[0]
                words = f"at {display.share(piece.level)}, {words}" if piece.is_on else f"off, {words}"
            elif where == "people":
                notes = tuple(
                    display.stops(sides[mark].stops).value
                    for mark in (f"{piece.piece_id}.key", f"{piece.piece_id}.shadow")
                    if mark in sides
                )
            elif where == "spots" and piece.piece_id in sides:
                notes = (display.stops(sides[piece.piece_id].stops).value,)
            elif isinstance(piece, PlacedFrame):
                half, shape = frame_size_m(piece, now.gear)[0] / 2.0 * CM, "board" if piece.board else "cloth"
            elif isinstance(piece, PlacedFlag):
                half, shape = (
                    piece.width_m / 2.0 * CM,
                    "net" if piece.kind in (FlagKind.SINGLE_NET, FlagKind.DOUBLE_NET) else "flag",
                )
            found.append(
                DrawnPiece(
                    piece_id=piece.piece_id,
                    where=where,
                    shape=shape,
                    name=piece.name,
                    words=words,
                    x=x,
                    y=y,
                    bearing=round(bearing, 1),
                    x_m=piece.x_m,
                    y_m=piece.y_m,
                    z_m=piece.z_m,
                    half=round(half, 1),
                    colour=colours.get(piece.piece_id, ""),
                    is_on=getattr(piece, "is_on", True),
                    is_locked=piece.is_locked,
                    group=piece.group,
                    notes=notes,
                )
            )
    return found


def _labelled(pieces: list[DrawnPiece], paper: Paper) -> tuple[DrawnPiece, ...]:
    """Each with a place for its name that keeps clear of the sheet's edge and of the names before it, as far as there
    is one.
    """
    lines, found = Lines(), []
    for piece in pieces:
        if not piece.is_named:
            found.append(piece)
            continue
        x, y = piece.x / paper.per_px, piece.y / paper.per_px
        is_left = x + _LABEL_ASIDE_PX + piece.label_px > paper.width_m * CM / paper.per_px
        start = x - _LABEL_ASIDE_PX - piece.label_px if is_left else x + _LABEL_ASIDE_PX
        down = lines.free(start, piece.label_px, y + _usual_down(piece)) - y
        found.append(replace(piece, is_labelled_left=is_left, label_down=down))
    return tuple(found)


def _heights_apart(things: list[StripThing], paper: Paper) -> tuple[StripThing, ...]:
    """Each with a place for its height."""
    lines = Lines()
    return tuple(
        replace(
            each,
            label_down=lines.free(
                each.x / paper.per_px + 9.0, _LETTER_PX * len(each.height), each.y / paper.per_px + 4.0
            )
            - each.y / paper.per_px,
        )
        for each in things
    )


def _usual_down(piece: DrawnPiece) -> float:
    """How far below its middle a piece is named, in pixels: beside a person unless the nose is there, above a point,
    below all else.
    """
    if piece.shape == "person":
        return 24.0 if 55.0 < piece.bearing < 125.0 else 4.0
    return -9.0 if piece.shape == "spot" else 22.0


def light_colours(now: Evaluation) -> dict[str, str]:
    """Of every light, by its id, against the white balance."""
    balance = now.setup.look.white_balance_k
    return {light.light_id: seen_rgb(light_k=light.cct_k, white_balance_k=balance) for light in now.lit.built.lights}


def _beams(now: Evaluation, paper: Paper, receptor: Receptor) -> list[DrawnBeam]:
    shown_lx = now.setup.look.wanted_lx(receptor) * 2.0**-SHOWN_UNDER_STOPS
    colours, found = light_colours(now), []
    for light in now.lit.built.lights:
        if light.kind is LightKind.LAMP and light.level > 0.0 and isinstance(light.light, SceneLamp):
            beam = beam_on_plan(light.light, light.level, shown_lx, now.lit.built.scene)
            found.append(
                DrawnBeam(
                    piece_id=light.light_id,
                    half=paper.path(beam.half_m),
                    tenth=paper.path(beam.tenth_m),
                    colour=colours[light.light_id],
                )
            )
    return found


def _drawn_book(book: Book, colour: str, paper: Paper) -> DrawnBook:
    """The spine bends away from the open side."""
    hinge = np.array([book.board_m[1], book.cloth_m[1]])
    opens = np.mean([book.board_m[0], book.cloth_m[0]], axis=0)
    out = hinge.mean(axis=0) - opens
    bend = hinge.mean(axis=0) + unit_ways(out) * np.linalg.norm(hinge[1] - hinge[0]) / 2.0
    (x, y), (over_x, over_y), (to_x, to_y) = (paper.at(*map(float, each)) for each in (hinge[0], bend, hinge[1]))
    return DrawnBook(
        pages=paper.path(np.concatenate([book.board_m, book.cloth_m[::-1]])),
        spine=f"M{x} {y}Q{over_x} {over_y} {to_x} {to_y}",
        colour=colour,
    )


def _strip(now: Evaluation, paper: Paper, pieces: tuple[DrawnPiece, ...], units: UnitSystem) -> Strip:
    setup, rooms = now.setup, now.lit.built.surroundings
    top_m = max([room.height_m for room in rooms.rooms] or [_OUTSIDE_HEIGHT_M])
    top_m = max(top_m, *(piece.z_m for piece in pieces)) + _STRIP_ABOVE_M
    height = (top_m + _STRIP_BELOW_M) * CM

    def up(z_m: float) -> float:
        return round((top_m - z_m) * CM, 1)

    ceilings = []
    for shape, room in zip(rooms.rooms, rooms.place.rooms, strict=True):
        left, right = (
            paper.at(float(edge), 0.0)[0] for edge in (shape.corners_m[:, 0].min(), shape.corners_m[:, 0].max())
        )
        ceilings.append((left, right, up(room.height_m), str(display.length(room.height_m, units))))
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
                x=piece.x,
                y=up(piece.z_m),
                half=round(half * CM, 1),
                dx=round(float(look[0]), 3),
                dy=round(-float(look[2]), 3),
                colour=piece.colour,
                height=str(display.length(piece.z_m, units)),
            )
        )
    return Strip(
        width=round(paper.width_m * CM, 1),
        height=round(height, 1),
        floor_y=up(0.0),
        ceilings=tuple(ceilings),
        things=_heights_apart(things, paper),
        per_px=paper.per_px,
    )
