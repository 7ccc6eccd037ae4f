"""A set-up on its place, to scale: signs, letters and names, beams, the picture's edges."""

from dataclasses import dataclass, replace

import numpy as np

from iron_bucket.core.arrays import units as unit_ways
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.places.bearing import along_bearing
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.scene.scene import SceneLamp
from iron_bucket.core.setups.evaluate.beams import Beam, beams_on_plan
from iron_bucket.core.setups.evaluation import Evaluation
from iron_bucket.core.setups.plan.camera_view import field_of_view_deg
from iron_bucket.core.setups.plan.setup import PLACED, Setup
from iron_bucket.core.setups.scene.book import Book, books
from iron_bucket.core.setups.scene.build_scene import LightKind
from iron_bucket.web.setups.names import NamedSheet, named_sheets
from iron_bucket.web.setups.signs import DrawnPiece, drawn_pieces, light_colours
from iron_bucket.web.setups.strip_picture import Strip, strip_picture
from iron_bucket.web.shared.pictures.plan import Paper, PlacePicture, paper_for, place_picture, place_points

PLAN_PX, PLAN_HIGH_PX = 698.0, 360.0
#: A beam is drawn as far as its axis lies so many stops under the exposure.
SHOWN_UNDER_STOPS = 2.0
_VIEW_M = 9.0


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnBeam:
    """The outline of half the peak, in the colour of the light."""

    piece_id: str
    half: str
    colour: str


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnBook:
    """A book light as one sign: what lies between its pages, in the colour of its light, and the spine."""

    pages: str
    spine: str
    colour: str


@dataclass(frozen=True, slots=True, kw_only=True)
class SetupPicture:
    """The throw plan and its strip.

    ``view``: the camera's field as an outline; ``walks``: people's ways from position to position;
    ``sheets``: names for a wide screen and for a phone; ``corners``: of all
    rooms, in metres, to snap to; ``walls``: value and name of each.
    """

    place: PlacePicture
    view: str
    pieces: tuple[DrawnPiece, ...]
    beams: tuple[DrawnBeam, ...]
    books: tuple[DrawnBook, ...]
    walks: tuple[str, ...]
    sheets: tuple[NamedSheet, ...]
    strip: Strip
    description: str
    corners: tuple[tuple[float, float], ...] = ()
    walls: tuple[tuple[str, str], ...] = ()

    @property
    def paper(self) -> Paper:
        """The sheet."""
        return self.place.paper


def setup_paper(now: Evaluation, *, shown_px: float = PLAN_PX, most_px: float = PLAN_HIGH_PX) -> Paper:
    """A sheet that holds the place and all that is placed."""
    setup, surroundings = now.setup, now.lit.built.surroundings
    points = [place_points(surroundings)] if surroundings.place.rooms else []
    placed = [[each.x_m, each.y_m] for where in PLACED for each in getattr(setup, where)]
    points.append(np.array([[setup.camera.x_m, setup.camera.y_m], *placed]))
    return paper_for(np.concatenate(points), shown_px=shown_px, most_px=most_px)


def setup_picture(
    now: Evaluation, units: UnitSystem, receptor: Receptor, *, shown_px: float = PLAN_PX, most_px: float = PLAN_HIGH_PX
) -> SetupPicture:
    """Drawn from what was computed."""
    setup, built = now.setup, now.lit.built
    paper = setup_paper(now, shown_px=shown_px, most_px=most_px)
    bound, colours = books(setup, now.gear), light_colours(now)
    pages = {page for each in bound for page in (each.board_id, each.cloth_id)}  # the lamp's letter is for all three
    pieces = tuple(replace(each, is_named=each.piece_id not in pages) for each in drawn_pieces(now, paper, units))
    place = place_picture(built.surroundings, paper, units, [(each.x, each.y) for each in pieces])
    beams = _beams(now, receptor)
    return SetupPicture(
        place=place,
        view=_view(setup, paper),
        pieces=pieces,
        beams=tuple(
            DrawnBeam(piece_id=key, half=paper.path(beam.half_m), colour=colours[key]) for key, beam in beams.items()
        ),
        walks=tuple(
            paper.path(np.array([[each.x_m, each.y_m] for each in (person, *positions)]), is_closed=False)
            for person in setup.people
            if (positions := setup.positions_of(person.piece_id))
        ),
        books=tuple(_drawn_book(each, colours[each.lamp_id], paper) for each in bound),
        sheets=named_sheets(pieces, place, built.surroundings),
        strip=strip_picture(now, paper, pieces, beams, units),
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


def _beams(now: Evaluation, receptor: Receptor) -> dict[str, Beam]:
    """Of every lamp that burns."""
    shown_lx = now.setup.look.wanted_lx(receptor) * 2.0**-SHOWN_UNDER_STOPS
    burning = {
        light.light_id: (light.light, light.level)
        for light in now.lit.built.lights
        if light.kind is LightKind.LAMP and light.level > 0.0 and isinstance(light.light, SceneLamp)
    }
    return dict(zip(burning, beams_on_plan(list(burning.values()), shown_lx, now.lit.built.scene), strict=True))


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
