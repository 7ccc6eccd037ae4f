"""Book lights on a plan: a lamp turned to a board, and the cloth that the board's light passes on its way to whom it is
for.
"""

from dataclasses import dataclass
from itertools import product

import numpy as np
import shapely

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.places.bearing import along_bearing
from iron_bucket.core.setups.plan.setup import PlacedFrame, Setup
from iron_bucket.core.setups.scene.build_scene import frame_size_m


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Book:
    """Its three pieces by id, and the ends of both pages on the plan, (2, 2) each: from the open side to the spine."""

    lamp_id: str
    board_id: str
    cloth_id: str
    board_m: Array
    cloth_m: Array


def books(setup: Setup, gear: Gear) -> tuple[Book, ...]:
    """One for each lamp that makes one; without people there is nobody whom it could be for."""
    return tuple(found for lamp in setup.lamps if (found := _book(lamp.piece_id, lamp.aims_at, setup, gear)))


def _book(lamp_id: str, aims_at: str, setup: Setup, gear: Gear) -> Book | None:
    followed = setup.find(aims_at)
    board = followed[1] if followed else None
    if not isinstance(board, PlacedFrame) or not board.board or not setup.people:
        return None
    way = shapely.LineString([(each.x_m, each.y_m) for each in (board, setup.people[0])])
    between = [each for each in setup.frames if each.cloth and way.intersects(shapely.LineString(_ends_m(each, gear)))]
    if not between:
        return None
    cloth = min(between, key=lambda each: float(np.hypot(each.x_m - board.x_m, each.y_m - board.y_m)))
    pages = product(*((ends, ends[::-1]) for ends in (_ends_m(board, gear), _ends_m(cloth, gear))))
    board_m, cloth_m = min(pages, key=lambda pair: float(np.linalg.norm(pair[0][1] - pair[1][1])))
    return Book(lamp_id=lamp_id, board_id=board.piece_id, cloth_id=cloth.piece_id, board_m=board_m, cloth_m=cloth_m)


def _ends_m(flat: PlacedFrame, gear: Gear) -> Array:
    """Of its lower edge, on the plan. Shape (2, 2)."""
    half = along_bearing(flat.bearing_deg + 90.0)[:2] * frame_size_m(flat, gear)[0] / 2.0
    middle = np.array([flat.x_m, flat.y_m])
    return np.array([middle - half, middle + half])
