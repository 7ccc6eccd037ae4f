"""Where a piece of a set-up stands: under a roof or not, and how far from the nearest wall."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.setups.plan.setup import Piece


@dataclass(frozen=True, slots=True, kw_only=True)
class Ground:
    """``room_m``: to the nearest wall, None in the open."""

    is_outdoors: bool = False
    room_m: float | None = None


def grounds_of(pieces: Sequence[Piece], surroundings: Surroundings | None) -> dict[str, Ground]:
    """By the ids of the pieces. Without a place everything stands indoors, with room around it."""
    if surroundings is None or not pieces:
        return {each.piece_id: Ground() for each in pieces}
    spots_m = np.array([(each.x_m, each.y_m, 0.5) for each in pieces])
    rooms = surroundings.rooms_at(spots_m).tolist()
    points = shapely.points(spots_m[:, :2])
    edges = [room.outline.exterior for room in surroundings.rooms]
    return {
        each.piece_id: Ground(
            is_outdoors=room < 0, room_m=None if room < 0 else float(shapely.distance(edges[room], point))
        )
        for each, room, point in zip(pieces, rooms, points, strict=True)
    }
