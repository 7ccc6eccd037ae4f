"""Everything that can stand between a head and its subject, listed once for a whole bench.

A *front* is one of: nothing, a grid, a box or lantern (with or without its grid), a frame with a cloth at one of two
places, a bounce, a book light. A *sheet set* is none, one, or two sheets on the head that have different work to do.
"""

from dataclasses import dataclass
from enum import StrEnum
from itertools import combinations

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.item import Item
from iron_bucket.core.figure import Figure
from iron_bucket.core.modifiers.kinds import Board, Cloth, Face, Frame, Grid, Sheet, SheetKind
from iron_bucket.core.modifiers.lobe import is_matt

#: Where a frame is tried: share of the throw between head and frame. Near the subject it is softer, near the head it
#: is filled less.
FRAME_PLACES = (0.4, 0.65)
#: A bounce is lit from half the distance that it has to the subject, 30 degrees off its normal on either side.
BOARD_THROW_SHARE = 0.5
BOARD_ANGLE_DEG = 30.0
#: The cloth of a book light stands at this share of the way from its board to the subject. Frame and board are about
#: alike: the longer side of one no more than so many times that of the other.
BOOK_CLOTH_SHARE, _PAGES_ALIKE = 0.42, 1.3


class FrontKind(StrEnum):
    OPEN = "open"
    GRID = "grid"
    FACE = "face"
    FRAME = "frame"
    BOARD = "board"
    BOOK = "book"

    @property
    def stands_free(self) -> bool:
        """On a stand of its own, so that any head can be put before it."""
        return self in (FrontKind.FRAME, FrontKind.BOARD, FrontKind.BOOK)


@dataclass(frozen=True, slots=True, kw_only=True)
class Front:
    """One of them. ``head_share``: where its frame stands, as a share of the throw."""

    kind: FrontKind
    face: Face | None = None
    grid: Grid | None = None
    frame: Frame | None = None
    cloth: Cloth | None = None
    board: Board | None = None
    head_share: float = 0.0

    @property
    def parts(self) -> tuple[Item, ...]:
        """What has to be brought."""
        return tuple(part for part in (self.face, self.grid, self.frame, self.cloth, self.board) if part)

    @property
    def names(self) -> tuple[str, ...]:
        """What it is called, part by part; a book light is named as such first."""
        named = ("book light",) if self.kind is FrontKind.BOOK else ()
        return (*named, *(part.name for part in self.parts))

    @property
    def key(self) -> str:
        """An identifier that survives a restart, such as ``frame-1.2+full-white@0.65``."""
        place = f"@{self.head_share:g}" if self.kind is FrontKind.FRAME else ""
        return ("+".join(part.slug for part in self.parts) or FrontKind.OPEN.value) + place

    @property
    def weight_kg(self) -> float:
        """All parts; a cloth weighs by its area."""
        return sum(part.weight_kg * self._area_m2(part) for part in self.parts)

    @property
    def flats(self) -> tuple[Frame | Board, ...]:
        """What stands free, in the order in which the light meets it."""
        return tuple(flat for flat in (self.board, self.frame) if flat)

    @property
    def seen_share(self) -> float:
        """How far what the subject sees stands from it, as a share of the throw."""
        return 1.0 - (BOOK_CLOTH_SHARE if self.kind is FrontKind.BOOK else self.head_share)

    @property
    def on_head_kg(self) -> float:
        """What of it the head's own stand carries."""
        return sum(part.weight_kg for part in (self.face, self.grid) if part)

    @property
    def day_price(self) -> float:
        """What its parts cost a day; ours cost nothing."""
        return sum(part.price_to_pay * self._area_m2(part) for part in self.parts)

    def _area_m2(self, part: Item) -> float:
        return self.frame.width_m * self.frame.height_m if isinstance(part, Cloth) and self.frame else 1.0

    @property
    def is_owned(self) -> bool:
        """Whether every part is ours."""
        return all(part.is_owned for part in self.parts)

    @property
    def shifting(self) -> tuple[Face | Cloth | Board, ...]:
        """The parts that may change the colour."""
        return tuple(part for part in (self.face, self.cloth, self.board) if part)

    @property
    def passing(self) -> tuple[tuple[Item, Figure], ...]:
        """The parts that decide how much comes through, each with its own figure; the level is proportional to every
        one.
        """
        every = (
            (self.face, self.face and self.face.efficiency),
            (self.grid, self.grid and self.grid.on_axis),
            (self.board, self.board and self.board.reflectance),
            (self.cloth, self.cloth and self.cloth.transmittance),
        )
        return tuple((part, figure) for part, figure in every if part and figure)


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetSet:
    """None, one or two sheets."""

    sheets: tuple[Sheet, ...] = ()

    @property
    def key(self) -> str:
        """The slugs, joined; ``none`` where there are none."""
        return "+".join(sheet.slug for sheet in self.sheets) or "none"


def fronts_of(gear: Gear) -> tuple[Front, ...]:
    """Every front that the gear allows, in a fixed order."""
    fronts = [Front(kind=FrontKind.OPEN)]
    fronts += [Front(kind=FrontKind.GRID, grid=grid) for grid in gear.grids if not grid.face_slug]
    for face in gear.faces:
        fronts.append(Front(kind=FrontKind.FACE, face=face))
        fronts += [
            Front(kind=FrontKind.FACE, face=face, grid=grid) for grid in gear.grids if grid.face_slug == face.slug
        ]
    fronts += [
        Front(kind=FrontKind.FRAME, frame=frame, cloth=cloth, head_share=share)
        for frame in gear.frames
        for cloth in gear.cloths
        if cloth.fits(frame)
        for share in FRAME_PLACES
    ]
    fronts += [Front(kind=FrontKind.BOARD, board=board) for board in gear.boards]
    fronts += [
        Front(kind=FrontKind.BOOK, frame=frame, cloth=cloth, board=board)
        for board in gear.boards
        for frame in gear.frames
        for cloth in gear.cloths
        if cloth.fits(frame) and _make_a_book(board, frame, cloth)
    ]
    return tuple(sorted(fronts, key=lambda front: (list(FrontKind).index(front.kind), front.key)))


def _make_a_book(board: Board, frame: Frame, cloth: Cloth) -> bool:
    """A matt board and a matt cloth of about one size; frost would show the board as it is."""
    board_m, frame_m = (max(each.width_m, each.height_m) for each in (board, frame))
    are_matt = bool(is_matt(board.lobe_deg) and is_matt(cloth.lobe_deg))
    return are_matt and max(board_m, frame_m) <= _PAGES_ALIKE * min(board_m, frame_m)


def _work_together(first: Sheet, second: Sheet) -> bool:
    """Two colour gels must pull the same way; two scrims must share a ring; otherwise only dimming
    ones may double up."""
    if first.kind is SheetKind.COLOUR and second.kind is SheetKind.COLOUR:
        return first.shift_mired * second.shift_mired > 0
    if first.kind is SheetKind.SCRIM and second.kind is SheetKind.SCRIM:
        return first.ring_mm == second.ring_mm
    if first.kind.only_dims and second.kind.only_dims:
        return True
    return first.kind is not second.kind


def sheet_sets_of(gear: Gear) -> tuple[SheetSet, ...]:
    """None, every sheet, and every pair that makes sense, in a fixed order."""
    ordered = sorted(gear.sheets, key=lambda sheet: sheet.slug)
    pairs = [pair for pair in combinations(ordered, 2) if _work_together(*pair)]
    return (SheetSet(), *(SheetSet(sheets=(sheet,)) for sheet in ordered), *(SheetSet(sheets=pair) for pair in pairs))
