"""What somebody means who points at a place on the plan: a person's side, a point that is measured, a wall, a table."""

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.places.bearing import bearing_of, turn_between
from iron_bucket.core.scene.polygon_room import PolygonRoom
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.plan.changes import next_id
from iron_bucket.core.setups.plan.setup import Person, Spot
from iron_bucket.core.setups.plan.written import hundredth, placed_m, turned_deg

#: A person is meant so far round, a point, and a wall.
_PERSON_M, _SPOT_M, _WALL_M = 0.7, 0.3, 0.4
#: A side is meant where one points so far off the nose.
_BACK_FROM_DEG = 110.0
#: Typical: walls are looked at as high as a standing face, tables from above.
_ON_WALL_M, _TABLE_M = 1.5, 0.75


def pointed_at(lit: LitScene, x_m: float, y_m: float) -> tuple[str, Spot | None]:
    """The mark that is meant, as the ladder calls it, and the point that has to be put there first, if any."""
    setup, at = lit.built.setup, np.array([x_m, y_m])
    people = [(float(np.hypot(each.x_m - x_m, each.y_m - y_m)), each) for each in setup.people]
    near, person = min(people, key=lambda row: row[0], default=(np.inf, None))
    if person is not None and near <= _PERSON_M:
        return _side_of(lit, person, at), None
    for spot in setup.spots:
        if np.hypot(spot.x_m - x_m, spot.y_m - y_m) <= _SPOT_M:
            return spot.piece_id, None
    spot = _on_wall(lit, at) or Spot(
        piece_id=next_id(setup, "spot"),
        name=f"Point {len(setup.spots) + 1}",
        **placed_m(at),
        z_m=_TABLE_M,
        tilt_deg=90.0,
    )
    return spot.piece_id, spot


def _side_of(lit: LitScene, person: Person, at: Array) -> str:
    """The key side, the shadow side or the back of a head, by where one points beside it."""
    away = at - np.array([person.x_m, person.y_m])
    turn = turn_between(person.bearing_deg, bearing_of(np.append(away, 0.0))) if away.any() else 0.0
    if abs(turn) > _BACK_FROM_DEG:
        return f"{person.piece_id}.back"
    key, _ = lit.key_and_shadow(person.piece_id)
    return f"{person.piece_id}.{'key' if turn == 0.0 or (turn < 0.0) == (key == 'left') else 'shadow'}"


def _on_wall(lit: LitScene, at: Array) -> Spot | None:
    """A point on the nearest wall, looking into the room; None in the middle of a room, or outside."""
    around, best = lit.built.surroundings, None
    for room in around.rooms:
        for number in range(len(room.corners_m)):
            foot = _foot(room, number, at)
            away_m = float(np.linalg.norm(foot - at))
            if away_m <= _WALL_M and (best is None or away_m < best[0]):
                best = away_m, room, number, foot
    if best is None:
        return None
    _, room, number, foot = best
    return Spot(
        piece_id=next_id(lit.built.setup, "spot"),
        name=f"Wall {number + 1}",
        reflectance=hundredth(room.walls[number]),
        z_m=min(_ON_WALL_M, room.height_m),
        **placed_m(foot),
        **turned_deg(room.wall(number).normal),
    )


def _foot(room: PolygonRoom, number: int, at: Array) -> Array:
    """The place of a wall that is nearest."""
    start, end = room.corners_m[number], room.corners_m[(number + 1) % len(room.corners_m)]
    share = float(np.clip((at - start) @ (end - start) / ((end - start) @ (end - start)), 0.0, 1.0))
    return np.asarray(start + share * (end - start))
