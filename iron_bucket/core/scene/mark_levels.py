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
    FRAME_POINTS_FOR_WALLS,
    LitFrame,
    Points,
    lamp_flux_lm,
    lamp_level_lx,
    lit_frame,
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

    def total_lx(self, levels: Array) -> Array:
        """Everything at the marks with the lamps at some levels. Shapes (L,) to (M,)."""
        return np.asarray(levels @ (self.direct_lx + self.via_lx.sum(axis=1) + self.indirect_lx))


def unit_response(scene: Scene, grid: RoomGrid | None = None) -> UnitResponse:
    """Every lamp's share at every mark. ``grid``: the room's, where it is at hand already."""
    marks = Points(
        positions_m=np.array([each.position_m for each in scene.marks]).reshape(-1, 3),
        normals=np.array([each.normal for each in scene.marks]).reshape(-1, 3),
    )
    every = _blockers(scene)
    shape = (len(scene.lamps), len(scene.frames), len(scene.marks))
    direct, via, caught = np.zeros(shape[::2]), np.zeros(shape), np.zeros(shape[:2])
    for at, lamp in enumerate(scene.lamps):
        direct[at] = lamp_level_lx(lamp, marks, every)
        flux_lm = lamp_flux_lm(lamp)
        for of, frame in enumerate(scene.frames):
            others = _blockers(scene, without=frame)
            lit = lit_frame(lamp, frame, others)
            via[at, of] = lit.level_lx(marks, others)
            caught[at, of] = lit.caught_lm / flux_lm if flux_lm else 0.0
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


def _off_the_walls(scene: Scene, grid: RoomGrid, marks: Points, every: Sequence[Blocker]) -> tuple[Array, Array]:
    """First bounce and all bounces at the marks. Shapes (L, M) each."""
    fine_lx = np.array([_on_walls_lx(scene, at, grid, every) for at in range(len(scene.lamps))])
    factors = form_factors(grid.fine.corners_m, marks.positions_m, marks.normals)
    if every:
        factors = factors * passing(grid.fine.centres_m, marks.positions_m, every).T
    first = (fine_lx * grid.fine.reflectance) @ factors.T
    later = grid.later_exitance_lm_m2(fine_lx) @ form_factors(grid.coarse.corners_m, marks.positions_m, marks.normals).T
    return first, first + later


def _on_walls_lx(scene: Scene, at: int, grid: RoomGrid, every: Sequence[Blocker]) -> Array:
    """What one lamp and the frames under it lay on the fine patches. Shape (W,)."""
    lamp = scene.lamps[at]
    walls = Points(positions_m=grid.fine.centres_m, normals=grid.fine.normals)
    level = lamp_level_lx(lamp, walls, every)
    for frame in scene.frames:
        others = _blockers(scene, without=frame)
        lit: LitFrame = lit_frame(lamp, frame, others, FRAME_POINTS_FOR_WALLS)
        level = level + lit.level_lx(walls, others)
    return level
