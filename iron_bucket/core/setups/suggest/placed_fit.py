"""What a pick chose, as pieces of a set-up: the head, and its frame, its bounce, or the pages of a book light."""

from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from scipy.spatial.transform import Rotation

from iron_bucket.core.arrays import Array, units
from iron_bucket.core.places.place import LONGEST_NAME
from iron_bucket.core.selection.fit import Fit
from iron_bucket.core.selection.fronts import BOARD_ANGLE_DEG, BOARD_THROW_SHARE, BOOK_CLOTH_SHARE, Front, FrontKind
from iron_bucket.core.setups.plan.changes import Change, added, next_id
from iron_bucket.core.setups.plan.setup import PlacedFrame, PlacedLamp, Setup
from iron_bucket.core.setups.plan.written import dialled, placed_m, turned_deg


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Work:
    """``from_m``: where the light comes from, a head's place or that of what it bounces off; ``subject_m``: where it
    is wanted; ``aims_at``: the person or point there, empty where that is none of either. Shapes (3,).
    """

    from_m: Array
    subject_m: Array
    aims_at: str = ""
    purpose: str = ""
    cct_k: float = 0.0
    feed: str = ""


def placed_fit(fit: Fit, work: Work, setup: Setup, *, side: float = 1.0) -> tuple[Change, ...]:
    """As the pick reckoned it: frames at their share of the throw, a bounce lit 30 degrees off its normal from half its
    throw, ``side`` 1 or -1 of it seen from above. What belongs together moves together.
    """
    front, lamp_id = fit.front, next_id(setup, "lamp")
    frames = _frames(front, work, setup, lamp_id, side)
    board = next((each for each in frames if each.board), None)
    lamp_m = _lamp_m(work, side) if board else work.from_m
    lamp = PlacedLamp(
        piece_id=lamp_id,
        name=fit.head.name[:LONGEST_NAME],
        configuration=fit.configuration.slug,
        sheets=tuple(each.slug for each in fit.sheets),
        face=front.face.slug if front.face else "",
        grid=front.grid.slug if front.grid else "",
        level=dialled(min(max(fit.level, fit.head.lowest_level, 0.0001), 1.0)),
        cct_k=work.cct_k,
        aims_at=board.piece_id if board else work.aims_at,
        purpose=work.purpose,
        feed=work.feed,
        group=lamp_id if board else "",
        **placed_m(lamp_m),
        **turned_deg((work.from_m if board else work.subject_m) - lamp_m),
    )
    return (*(added("frames", each) for each in frames), added("lamps", lamp))


def _frames(front: Front, work: Work, setup: Setup, group: str, side: float) -> list[PlacedFrame]:
    """What stands free, in the order in which the light meets it."""
    ray = work.subject_m - work.from_m
    found: list[dict[str, Any]] = []
    if front.board:
        found.append({"board": front.board.slug, "at": work.from_m, "looks": _turned(ray, side * BOARD_ANGLE_DEG)})
    if front.frame and front.cloth:
        share = BOOK_CLOTH_SHARE if front.kind is FrontKind.BOOK else front.head_share
        found.append(
            {"frame": front.frame.slug, "cloth": front.cloth.slug, "at": work.from_m + share * ray, "looks": ray}
        )
    names = dict(zip(("board", "frame"), (front.board, front.frame), strict=True))
    pieces: list[PlacedFrame] = []
    for row in found:
        what = "board" if "board" in row else "frame"
        looks, place = row.pop("looks"), row.pop("at")
        taken = replace(setup, frames=(*setup.frames, *pieces))
        pieces.append(
            PlacedFrame(
                piece_id=next_id(taken, what),
                name=names[what].name[:LONGEST_NAME],  # type: ignore[union-attr]
                group=group if front.board else "",
                **row,
                **placed_m(place),
                **turned_deg(looks),
            )
        )
    return pieces


def _lamp_m(work: Work, side: float) -> Array:
    """Before a board: on the other side of its normal than the subject, as high as the board."""
    ray = work.subject_m - work.from_m
    level = np.array([ray[0], ray[1], 0.0])
    way = units(_turned(level, side * 2.0 * BOARD_ANGLE_DEG))
    return np.asarray(work.from_m + BOARD_THROW_SHARE * float(np.linalg.norm(ray)) * way)


def _turned(vector: Array, clockwise_deg: float) -> Array:
    """About the upright, clockwise seen from above."""
    return np.asarray(Rotation.from_euler("z", -clockwise_deg, degrees=True).apply(vector))
