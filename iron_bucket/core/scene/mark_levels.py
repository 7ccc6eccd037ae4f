"""What every lamp does at every mark: straight, by way of each frame, and off the walls.

Everything is reckoned for each lamp at full output and weighed with its level afterwards, because light adds up: a dimmer moves no geometry.
One frame is taken in each way; light that goes from a bounce through a cloth is not followed.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.photometry.contour import form_factors
from iron_bucket.core.scene.blocking import Blocker, passing
from iron_bucket.core.scene.box_room import RoomGrid
from iron_bucket.core.scene.scene import Scene, SceneFrame
from iron_bucket.core.scene.sources import (
    FRAME_POINTS,
    FRAME_POINTS_FOR_WALLS,
    FramePoints,
    Points,
    lamp_flux_lm,
    lamp_level_lx,
)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class UnitResponse:
    """All lamps at full output. Shapes: with L lamps, F frames, M marks: direct_lx (L, M), via_lx (L, F, M), share_caught (L, F),
    first_bounce_lx and indirect_lx (L, M); the latter counts every bounce, the first too.
    """

    direct_lx: Array
    via_lx: Array
    share_caught: Array
    first_bounce_lx: Array
    indirect_lx: Array

    @property
    def whole_lx(self) -> Array:
        """Every way of each lamp together. Shape (L, M)."""
        return np.asarray(self.direct_lx + self.via_lx.sum(axis=1) + self.indirect_lx)

    def total_lx(self, levels: Array) -> Array:
        """Everything at the marks with the lamps at some levels. Shapes (L,) to (M,)."""
        return np.asarray(levels @ self.whole_lx)


def unit_response(scene: Scene, grid: RoomGrid | None = None) -> UnitResponse:
    """Every lamp's share at every mark. ``grid``: the room's, where it is at hand already."""
    marks = Points(
        positions_m=np.array([each.position_m for each in scene.marks]).reshape(-1, 3),
        normals=np.array([each.normal for each in scene.marks]).reshape(-1, 3),
    )
    every = _blockers(scene)
    shape = (len(scene.lamps), len(scene.frames), len(scene.marks))
    direct = np.array([lamp_level_lx(lamp, marks, every) for lamp in scene.lamps]).reshape(shape[::2])
    flux_lm = np.array([lamp_flux_lm(lamp) for lamp in scene.lamps])
    via, caught = np.zeros(shape), np.zeros(shape[:2])
    for of, frame in enumerate(scene.frames):
        caught_lm, via[:, of] = _by_frame(scene, frame, marks, FRAME_POINTS)
        caught[:, of] = np.divide(caught_lm, flux_lm, out=np.zeros(len(flux_lm)), where=flux_lm > 0)
    first, indirect = np.zeros(shape[::2]), np.zeros(shape[::2])
    if scene.room is not None:
        first, indirect = _off_the_walls(scene, grid or RoomGrid.of(scene.room), marks, every)
    return UnitResponse(direct_lx=direct, via_lx=via, share_caught=caught, first_bounce_lx=first, indirect_lx=indirect)


def _blockers(scene: Scene, without: SceneFrame | None = None) -> tuple[Blocker, ...]:
    """Solids, and frames by what they let straight through; a frame is not in its own way."""
    solids = [Blocker(panel=each.panel, passes=each.transmittance) for each in scene.solids]
    frames = [
        Blocker(panel=each.panel, passes=each.straight_transmittance) for each in scene.frames if each is not without
    ]
    return (*solids, *frames)


def _by_frame(scene: Scene, frame: SceneFrame, points: Points, points_a_side: int) -> tuple[Array, Array]:
    """Lumens that a frame catches of each lamp, and what it sends on to some points. Shapes (L,), (L, R)."""
    others = _blockers(scene, without=frame)
    cut = FramePoints.of(frame, points_a_side)
    lit_lx = np.array([cut.lit_lx(lamp, others) for lamp in scene.lamps]).reshape(len(scene.lamps), len(cut.area_m2))
    in_front = np.array([cut.is_lit_in_front(lamp) for lamp in scene.lamps], dtype=bool)
    sent_lx = np.zeros((len(scene.lamps), len(points.positions_m)))
    for side in np.unique(in_front):
        of_side = in_front == side
        sent_lx[of_side] = lit_lx[of_side] @ cut.transfer(points, others, is_lit_in_front=bool(side))
    return lit_lx @ cut.area_m2, sent_lx


def _off_the_walls(scene: Scene, grid: RoomGrid, marks: Points, every: Sequence[Blocker]) -> tuple[Array, Array]:
    """First bounce and all bounces at the marks. Shapes (L, M) each."""
    walls = Points(positions_m=grid.fine.centres_m, normals=grid.fine.normals)
    fine_lx = np.array([lamp_level_lx(lamp, walls, every) for lamp in scene.lamps]).reshape(-1, len(walls.normals))
    for frame in scene.frames:
        fine_lx += _by_frame(scene, frame, walls, FRAME_POINTS_FOR_WALLS)[1]
    factors = form_factors(grid.fine.corners_m, marks.positions_m, marks.normals)
    if every:
        factors = factors * passing(grid.fine.centres_m, marks.positions_m, every).T
    first = (fine_lx * grid.fine.reflectance) @ factors.T
    later = grid.later_exitance_lm_m2(fine_lx) @ form_factors(grid.coarse.corners_m, marks.positions_m, marks.normals).T
    return first, first + later
