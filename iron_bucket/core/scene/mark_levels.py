"""What every lamp does at every mark: straight, by way of each frame, and off the walls.

Everything is computed for each lamp at full output and weighed with its level afterwards, because light adds up: a
dimmer moves no geometry.
One frame is taken in each way; light that goes from a bounce through a cloth is not followed.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.photometry.contour import form_factors
from iron_bucket.core.scene.blocking import Blocker, Blockers, passing
from iron_bucket.core.scene.box_room import BoxRoom
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.polygon_room import PolygonRoom
from iron_bucket.core.scene.room_grid import RoomGrid
from iron_bucket.core.scene.scene import Scene, SceneFrame
from iron_bucket.core.scene.sources import (
    FRAME_POINTS,
    FRAME_POINTS_FOR_WALLS,
    FramePoints,
    lamp_flux_lm,
    levels_lx,
    points_a_side,
)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class UnitResponse:
    """All lamps at full output. Shapes: with L lamps, F frames, M marks: direct_lx (L, M), via_lx (L, F, M),
    share_caught (L, F),
    first_bounce_lx and indirect_lx (L, M); the latter counts every bounce, the first too. ``walls_lx`` (L, W):
    straight and by frames on the coarse patches
    of every room that holds a mark, room after room.
    """

    direct_lx: Array
    via_lx: Array
    share_caught: Array
    first_bounce_lx: Array
    indirect_lx: Array
    walls_lx: Array

    @property
    def whole_lx(self) -> Array:
        """Every way of each lamp together. Shape (L, M)."""
        return np.asarray(self.direct_lx + self.via_lx.sum(axis=1) + self.indirect_lx)

    def total_lx(self, levels: Array) -> Array:
        """Everything at the marks with the lamps at some levels. Shapes (L,) to (M,)."""
        return np.asarray(levels @ self.whole_lx)


def unit_response(
    scene: Scene,
    grids: Sequence[RoomGrid] | None = None,
    *,
    with_walls: bool = True,
    frame_points: int = FRAME_POINTS,
) -> UnitResponse:
    """Every lamp's share at every mark. ``grids``: the rooms', where they are at hand already; without walls nothing
    comes off them.

    ``frame_points``: along each side of a frame at least; a narrow beam on a large frame takes more.
    """
    marks = mark_points(scene)
    every = _blockers(scene)
    shape = (len(scene.lamps), len(scene.frames), len(scene.marks))
    direct = levels_lx(scene.lamps, marks, every)
    flux_lm = np.array([lamp_flux_lm(lamp) for lamp in scene.lamps])
    via, caught = np.zeros(shape), np.zeros(shape[:2])
    for of, frame in enumerate(scene.frames):
        caught_lm, via[:, of] = _by_frame(scene, frame, marks, frame_points)
        caught[:, of] = np.divide(caught_lm, flux_lm, out=np.zeros(len(flux_lm)), where=flux_lm > 0)
    first, indirect, walls = np.zeros(shape[::2]), np.zeros(shape[::2]), [np.zeros((len(scene.lamps), 0))]
    for at in rooms_with_marks(scene) if with_walls else ():
        inside = _inside(scene.rooms[at], marks)
        held = Points(positions_m=marks.positions_m[inside], normals=marks.normals[inside])
        grid = grids[at] if grids else RoomGrid.of(scene.rooms[at])
        first[:, inside], indirect[:, inside], on_walls = _off_the_walls(scene, grid, held, every)
        walls.append(on_walls)
    return UnitResponse(
        direct_lx=direct,
        via_lx=via,
        share_caught=caught,
        first_bounce_lx=first,
        indirect_lx=indirect,
        walls_lx=np.concatenate(walls, axis=1),
    )


def rooms_with_marks(scene: Scene) -> tuple[int, ...]:
    """The rooms whose walls are computed, by their place in the scene."""
    marks = mark_points(scene)
    return tuple(at for at, room in enumerate(scene.rooms) if _inside(room, marks).any())


def mark_points(scene: Scene) -> Points:
    """The marks as receivers."""
    return Points(
        positions_m=np.array([each.position_m for each in scene.marks]).reshape(-1, 3),
        normals=np.array([each.normal for each in scene.marks]).reshape(-1, 3),
    )


def _inside(room: BoxRoom | PolygonRoom, marks: Points) -> np.ndarray:
    """Which marks a room's walls may light; in a box they all are."""
    return np.ones(len(marks.normals), dtype=bool) if isinstance(room, BoxRoom) else room.holds(marks.positions_m)


def _blockers(scene: Scene, without: SceneFrame | None = None) -> Blockers:
    """Walls, solids, and frames by what they let straight through; a frame is not in its own way."""
    solids = [Blocker(panel=each.panel, passes=each.transmittance) for each in scene.solids]
    frames = [
        Blocker(panel=each.panel, passes=each.straight_transmittance) for each in scene.frames if each is not without
    ]
    return Blockers.of((*scene.walls, *solids, *frames))


def _by_frame(scene: Scene, frame: SceneFrame, points: Points, least_points: int) -> tuple[Array, Array]:
    """Lumens that a frame catches of each light, and what it sends on to some points. Shapes (L,), (L, R)."""
    others = _blockers(scene, without=frame)
    cut = FramePoints.of(frame, points_a_side(frame, scene.lamps, least_points))
    caught_lm, sent_lx = np.zeros(len(scene.lamps)), np.zeros((len(scene.lamps), len(points.positions_m)))
    for side in (True, False):
        lighting = [at for at, lamp in enumerate(scene.lamps) if cut.may_light(lamp, is_lit_in_front=side)]
        if not lighting:
            continue
        lamps = [scene.lamps[at] for at in lighting]
        lit_lx = cut.lit_lx(lamps, others, is_lit_in_front=side)
        caught_lm[lighting] += lit_lx @ cut.area_m2
        if lit_lx.any():
            sent_lx[lighting] += cut.sent_lx(lamps, lit_lx, points, others, is_lit_in_front=side)
    return caught_lm, sent_lx


def _off_the_walls(scene: Scene, grid: RoomGrid, marks: Points, every: Sequence[Blocker]) -> tuple[Array, Array, Array]:
    """First bounce and all bounces at the marks, and what lies on the coarse patches. Shapes (L, M) twice, (L, P)."""
    walls = Points(positions_m=grid.fine.centres_m, normals=grid.fine.normals, are_many=True)
    fine_lx = levels_lx(scene.lamps, walls, every)
    for frame in scene.frames:
        fine_lx += _by_frame(scene, frame, walls, FRAME_POINTS_FOR_WALLS)[1]
    factors = form_factors(grid.fine.corners_m, marks.positions_m, marks.normals)
    if every:
        factors = factors * passing(grid.fine.centres_m, marks.positions_m, every).T
    first = (fine_lx * grid.fine.reflectance) @ factors.T
    later = grid.later_exitance_lm_m2(fine_lx) @ form_factors(grid.coarse.corners_m, marks.positions_m, marks.normals).T
    return first, first + later, grid.on_coarse(fine_lx)
