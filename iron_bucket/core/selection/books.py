"""Book lights among the panels: a board lit by the head, and the cloth between it and the subject, as one panel.

Both are matt. Light that the cloth sends back to the board comes again, all of it; what of the head's light falls on
the cloth at once counts too; what passes beside the cloth is left out, as spill is.
"""

from dataclasses import dataclass, replace

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.modifiers.kinds import Board, Cloth, Frame
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.scene.blocking import crosses
from iron_bucket.core.selection.fronts import BOARD_ANGLE_DEG, BOOK_CLOTH_SHARE, Front, FrontKind
from iron_bucket.core.selection.geometry import Stage
from iron_bucket.core.selection.places import DARK_LX

#: Points along each side of a cloth; what a board sends to it is smooth.
_CLOTH_NODES = 7
_UP = np.array([0.0, 1.0, 0.0])


def with_books(stage: Stage, fronts: tuple[Front, ...], throw_m: float, places_m: Array) -> Stage:
    """The stage of the same fronts, their boards followed by their cloths."""
    which = np.array([at for at, front in enumerate(fronts) if front.kind is FrontKind.BOOK], dtype=int)
    if not len(which):
        return stage
    pages: dict[tuple[float, ...], _Pages] = {}
    books = []
    for at in which:
        board, frame, cloth = _parts(fronts[at])
        size = (*stage.size_m[at], frame.width_m, frame.height_m)
        if size not in pages:
            pages[size] = _Pages.of(frame, stage.points[at], stage.area[at], throw_m, places_m)
        books.append(_Book.of(pages[size], board, cloth))
    matt, squares_m2 = stage.matt.copy(), stage.squares_m2.copy()
    for at, book in zip(which, books, strict=True):
        matt[at] = book.by_board + book.straight_share * book.pages.sees_board * stage.matt[at]
        squares_m2[at] = book.squares_by_board_m2
    at_once = np.array([book.at_once for book in books])
    beside = replace(
        stage.of_those(which),
        normal=np.tile(_facing(), (len(which), 1)),
        points=np.array([book.pages.points for book in books]),
        area=np.array([book.pages.area for book in books]),
        matt=at_once,
        subject_m=np.zeros((len(which), len(places_m), 3)),  # of no use to what is matt, like the ways there
        ways=np.zeros((*at_once.shape, 3)),
        arriving=np.zeros_like(at_once),
        squares_m2=np.array([book.squares_at_once_m2 for book in books]),
    )
    return replace(stage, matt=matt, squares_m2=squares_m2, beside=beside, beside_of=which)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Pages:
    """How two pages of one size see each other and the subject, whatever they are made of.

    Shapes: N points of the board, Q of the cloth, M places. ``to_cloth`` (N, Q), ``to_board`` (Q, N): lumens on a point
    of the other page for each that one of this scatters; ``onward`` (Q, M): level at a place for each; ``sees_board``
    (N, M): whether a place sees the point through the frame; ``offsets_m2`` (Q, 2): squares from the middle.
    """

    points: Array
    area: Array
    to_cloth: Array
    to_board: Array
    onward: Array
    sees_board: np.ndarray
    offsets_m2: Array

    @classmethod
    def of(cls, frame: Frame, board_points: Array, board_area: Array, throw_m: float, places_m: Array) -> "_Pages":
        """Source: docs/craft.md, section 3; matt pages send by the cosine."""
        facing, sideways = _facing(), _sideways()
        middle = facing * BOOK_CLOTH_SHARE * throw_m
        panel = Panel(centre_m=middle, side_x=sideways, side_y=_UP, width_m=frame.width_m, height_m=frame.height_m)
        points, area = panel.points(_CLOTH_NODES)
        rays = points[None] - board_points[:, None]
        cosines = np.maximum(rays[..., 2], 0.0) * np.maximum(rays @ facing, 0.0)
        between = cosines / np.pi / np.square(np.einsum("nqk,nqk->nq", rays, rays))
        subject = facing * throw_m + places_m[:, None] * sideways
        rays = subject[None] - points[:, None]
        return cls(
            points=points,
            area=area,
            to_cloth=between * area,
            to_board=(between * board_area[:, None]).T,
            onward=np.square(rays @ facing) / np.pi / np.square(np.einsum("qmk,qmk->qm", rays, rays)),
            sees_board=crosses(board_points, subject, panel),
            offsets_m2=np.square((points - middle) @ np.array([sideways, _UP]).T),
        )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Book:
    """``by_board`` (N, M): level at a place per lumen that a point of the board scatters; ``at_once`` (Q, M): the same
    per lumen that falls on the cloth from the head, over what the board reflects, because both are multiplied with
    that in the end; squares (N, 2), (Q, 2): offsets from the middle of the cloth.
    """

    pages: _Pages
    straight_share: float
    by_board: Array
    at_once: Array
    squares_by_board_m2: Array
    squares_at_once_m2: Array

    @classmethod
    def of(cls, pages: _Pages, board: Board, cloth: Cloth) -> "_Book":
        """Source: docs/craft.md, section 3, in series: the matrix of what two matt pages send each other, solved."""
        back = board.reflectance.value * cloth.back_reflectance() * pages.to_board @ pages.to_cloth
        wanted = np.concatenate([pages.onward, pages.onward[:, :1] * pages.offsets_m2], axis=1)
        at_once = np.linalg.solve(np.eye(len(back)) - back, wanted)
        by_board = pages.to_cloth @ at_once
        share = 1.0 - cloth.straight_share
        return cls(
            pages=pages,
            straight_share=cloth.straight_share,
            by_board=share * by_board[:, :-2],
            at_once=share * at_once[:, :-2] / board.reflectance.value,
            squares_by_board_m2=by_board[:, -2:] / np.maximum(by_board[:, :1], DARK_LX),
            squares_at_once_m2=at_once[:, -2:] / np.maximum(at_once[:, :1], DARK_LX),
        )


def _parts(front: Front) -> tuple[Board, Frame, Cloth]:
    match front:
        case Front(board=Board() as board, frame=Frame() as frame, cloth=Cloth() as cloth):
            return board, frame, cloth
    raise ValueError("a book light has a board, a frame and a cloth")


def _facing() -> Array:
    """From the middle of the board to the subject's."""
    turn = np.radians(BOARD_ANGLE_DEG)
    return np.array([np.sin(turn), 0.0, np.cos(turn)])


def _sideways() -> Array:
    turn = np.radians(BOARD_ANGLE_DEG)
    return np.array([np.cos(turn), 0.0, -np.sin(turn)])
