"""Where our lamps lie on walls, floor and ceiling: spill, and hot spots."""

from dataclasses import dataclass, replace

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.scene.fineness import PASSING
from iron_bucket.core.scene.light_levels import levels_lx
from iron_bucket.core.scene.mark_levels import scattered_lx
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.standing import rooms_with_marks
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.plan.look import surface_stops
from iron_bucket.core.setups.scene.build_scene import LightKind

#: A wall is looked at on so many places along its longer side.
WALL_PLACES = 96
_OFF_WALL_M = 0.01


@dataclass(frozen=True, slots=True, kw_only=True)
class Spill:
    """The brightest patch of a room by our lamps alone, as a surface of the camera's range;

    ``light`` gives most of it.
    """

    light: str
    surface: str
    stops: float
    illuminance_lx: float
    x_m: float
    y_m: float
    z_m: float


def brightest_spill(lit: LitScene, receptor: Receptor) -> tuple[Spill, ...]:
    """One for each room that holds a mark and gets light of ours; patches are some decimetres wide."""
    built, wanted_lx = lit.built, lit.built.setup.look.wanted_lx(receptor)
    mine = np.array([light.kind is LightKind.LAMP for light in built.lights], dtype=bool)
    found, start = [], 0
    for at in rooms_with_marks(built.scene):
        grid, room = built.surroundings.grids[at], built.surroundings.rooms[at]
        end = start + len(grid.coarse.area_m2)
        by_lamp = built.levels[:, None] * lit.response.walls_lx[:, start:end] * mine[:, None]
        start = end
        if not by_lamp.size or by_lamp.max() <= 0.0:
            continue
        seen = by_lamp.sum(axis=0) * grid.coarse.reflectance
        brightest = int(np.argmax(seen))
        level = float(by_lamp[:, brightest].sum())
        face, count = int(grid.coarse.face[brightest]), len(room.walls)
        x, y, z = (float(part) for part in grid.coarse.centres_m[brightest])
        found.append(
            Spill(
                light=built.lights[int(np.argmax(by_lamp[:, brightest]))].name,
                surface="the floor" if face == count else "the ceiling" if face == count + 1 else f"wall {face + 1}",
                stops=surface_stops(float(grid.coarse.reflectance[brightest]), level, wanted_lx),
                illuminance_lx=level,
                x_m=x,
                y_m=y,
                z_m=z,
            )
        )
    return tuple(found)


def level_on_wall_lx(lit: LitScene, room: int, wall: int) -> Array:
    """Lux over one wall, seen from inside, what comes off other walls left out.

    Shape (rows, columns), top row first, from the wall's left end.
    """
    return np.asarray(weighted_on_wall_lx(lit, room, wall, lit.built.levels[None])[0])


def weighted_on_wall_lx(lit: LitScene, room: int, wall: int, weights: Array) -> Array:
    """The same for some weightings of the lights at full. Shapes: weights (K, L), result (K, rows, columns)."""
    panel, scene = lit.built.surroundings.rooms[room].wall(wall), lit.built.scene
    columns = (
        WALL_PLACES if panel.width_m >= panel.height_m else max(8, round(WALL_PLACES * panel.width_m / panel.height_m))
    )
    rows = max(8, round(columns * panel.height_m / panel.width_m))
    along = ((np.arange(columns) + 0.5) / columns - 0.5) * panel.width_m
    up = (0.5 - (np.arange(rows) + 0.5) / rows) * panel.height_m
    places = (
        panel.centre_m
        + _OFF_WALL_M * panel.normal
        + along[None, :, None] * panel.side_x
        + up[:, None, None] * panel.side_y
    )
    points = Points(
        positions_m=places.reshape(-1, 3), normals=np.broadcast_to(panel.normal, (rows * columns, 3)), are_many=True
    )
    burning = np.flatnonzero(weights.any(axis=0))
    of_those = replace(scene, lamps=tuple(scene.lamps[at] for at in burning))
    sent = levels_lx(of_those.lamps, points, scene.blockers) + scattered_lx(of_those, points, fineness=PASSING)
    return np.asarray((weights[:, burning] @ sent).reshape(-1, rows, columns))
