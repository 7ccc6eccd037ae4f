"""A book light as one thing to begin with: a lamp into a white board, and a cloth between the board and the face, board
and cloth opened like a book.
"""

import math
from dataclasses import replace
from typing import Any

import numpy as np

from iron_bucket.core.arrays import Array, units
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.modifiers.kinds import Board, Cloth, Frame
from iron_bucket.core.modifiers.lobe import is_matt
from iron_bucket.core.setups.plan.setup import PlacedFrame, PlacedLamp
from iron_bucket.core.setups.plan.written import placed_m, turned_deg
from iron_bucket.core.setups.suggest.preset_ground import PresetGround

#: A frame that one can still turn in a room.
_LARGEST_M = 1.3


def book_light(ground: PresetGround, row: dict[str, Any]) -> tuple[tuple[PlacedLamp, ...], tuple[PlacedFrame, ...]]:
    """Nothing where we own no matt board, no frame or no cloth for it. ``row``: as its table has it.

    The lamp stands beside the cloth and looks at the board, its back to the face. The three move together.
    """
    book = _pages(ground.gear)
    if book is None:
        return (), ()
    board, frame, cloth = book
    off_deg, height_m = row["off_deg"] * ground.window_side, row["height_m"]
    cloth_at, board_at = (ground.at(off_deg, row[name]) for name in ("cloth_m", "board_m"))
    away = math.degrees(math.atan2(row["aside_m"], row["cloth_m"])) * ground.window_side
    lamp_at = ground.at(off_deg + away, math.hypot(row["aside_m"], row["cloth_m"]))
    towards = [units(each - board_at) for each in (cloth_at, lamp_at)]
    lamp = ground.lamp(
        1,
        row["name"],
        ground.narrow(),
        off_deg + away,
        math.hypot(row["aside_m"], row["cloth_m"]),
        height_m,
        aims_at="board-1",
        purpose="Key",
        motivation=row["motivation"],
        level=0.5,
    )
    stands: dict[str, dict[str, Any]] = {
        "cloth": _stands(cloth_at, height_m, ground.subject_m - cloth_at) | {"frame": frame.slug, "cloth": cloth.slug},
        "board": _stands(board_at, height_m, towards[0] + towards[1]) | {"board": board.slug},
    }
    return (replace(lamp, group=row["name"]),), tuple(
        PlacedFrame(piece_id=f"{part}-1", name=f"{row['name']}, {part}", group=row["name"], **given)
        for part, given in stands.items()
    )


def _pages(gear: Gear) -> tuple[Board, Frame, Cloth] | None:
    """The largest frame of ours that is not too large, its densest cloth, and the largest matt board."""
    boards = [each for each in gear.boards if each.is_owned and is_matt(each.lobe_deg)]
    frames = [each for each in gear.frames if each.is_owned and max(each.width_m, each.height_m) <= _LARGEST_M]
    if not boards or not frames:
        return None
    frame = max(frames, key=lambda each: (each.width_m * each.height_m, each.slug))
    cloths = [each for each in gear.cloths if each.is_owned and is_matt(each.lobe_deg) and each.fits(frame)]
    if not cloths:
        return None
    board = max(boards, key=lambda each: (each.width_m * each.height_m, each.slug))
    return board, frame, max(cloths, key=lambda each: (each.transmittance.value, each.slug))


def _stands(at: Array, height_m: float, looks: Array) -> dict[str, Any]:
    """Where a page of the book stands, and which way it looks on the plan."""
    return placed_m(np.append(at, height_m)) | turned_deg(np.append(looks, 0.0))
