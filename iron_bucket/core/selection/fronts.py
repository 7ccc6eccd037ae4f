"""Everything that can stand between a head and its subject, listed once for a whole bench.

A *front* is one of: nothing, a grid, a box or lantern (with or without its grid), a frame with a cloth at one of two
places, a bounce. A *sheet set* is none, one, or two sheets on the head that have different work to do.
"""

from dataclasses import dataclass
from enum import StrEnum
from itertools import combinations

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.item import Item
from iron_bucket.core.figure import Figure
from iron_bucket.core.modifiers.kinds import Board, Cloth, Face, Frame, Grid, Sheet, SheetKind

#: Where a frame is tried: share of the throw between head and frame. Near the subject it is softer, near the head it
#: is filled less.
FRAME_PLACES = (0.4, 0.65)
#: A bounce is lit from half the distance that it has to the subject, 30 degrees off its normal on either side.
BOARD_THROW_SHARE = 0.5
BOARD_ANGLE_DEG = 30.0


class FrontKind(StrEnum):
    OPEN = "open"
    GRID = "grid"
    FACE = "face"
    FRAME = "frame"
    BOARD = "board"


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
    def key(self) -> str:
        """An identifier that survives a restart, such as ``frame-1.2+full-white@0.65``."""
        place = f"@{self.head_share:g}" if self.frame else ""
        return ("+".join(part.slug for part in self.parts) or FrontKind.OPEN.value) + place

    @property
    def weight_kg(self) -> float:
        """All parts; a cloth weighs by its area."""
        return sum(part.weight_kg * self._area_m2(part) for part in self.parts)

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
            (self.cloth, self.cloth and self.cloth.transmittance),
            (self.board, self.board and self.board.reflectance),
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
    return tuple(sorted(fronts, key=lambda front: (list(FrontKind).index(front.kind), front.key)))


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
