"""What frames, boards, flags and mirrors send on of what lights lay on them, once."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.scene.frame_points import FramePoints, points_a_side, points_for_near
from iron_bucket.core.scene.light_levels import lamp_flux_lm
from iron_bucket.core.scene.mirrors import mirrored_lx
from iron_bucket.core.scene.origins import Origins
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.scene import Light, Scene
from iron_bucket.core.scene.standing import Standing

#: What lamps lay on scatterers: by its number, how finely it is cut, and the side.
LitCuts = dict[tuple[int, int, bool], Array]
#: More Gauss points along a side than a mark close to a frame may ask for.
_MOST_NEAR = 96


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class FirstLight:
    """By way of each scatterer once; ``caught_lm``: all that falls on it. Shapes (L, K, R), (L, K)."""

    via_lx: Array
    caught_lm: Array

    def share_caught(self, lamps: Sequence[Light]) -> Array:
        """Of all that each of the lights gives, from 0 to 1. Shape (L, K)."""
        flux_lm = np.array([lamp_flux_lm(lamp) for lamp in lamps]).reshape(-1, 1)
        share = np.divide(self.caught_lm, flux_lm, out=np.zeros_like(self.caught_lm), where=flux_lm != 0)
        return np.asarray(share)


def first_light(
    scene: Scene,
    points: Points,
    least_points: int,
    about: Standing | None = None,
    *,
    only: set[int] | None = None,
    lit: LitCuts | None = None,
) -> FirstLight:
    """What lamps at full output send to points by one frame, board or flag, or in a mirror; ``only``: by some of them,
    by their numbers. ``about``: what stands in the scene, where it is at hand. ``lit``: what was laid on them before,
    for other points.
    """
    lit = {} if lit is None else lit
    scatterers = scene.scatterers
    via = np.zeros((len(scene.lamps), len(scatterers), len(points.normals)))
    caught = np.zeros(via.shape[:2])
    for of, frame in enumerate(scatterers):
        if only is not None and of not in only:
            continue
        needed = points_a_side(frame, scene.lamps, least_points)
        if not points.are_many:
            needed = max(needed, min(int(np.ceil(points_for_near(frame.panel, points.positions_m))), _MOST_NEAR))
        cut = about.cut(of, needed) if about else FramePoints.of(frame, needed)
        for side in (True, False):
            lit_lx = lit.get((of, needed, side))
            if lit_lx is None:
                lit_lx = cut.lit_lx(scene.lamps, scene.blockers, is_lit_in_front=side)
                for mirror in scene.mirrors:
                    if mirror is not frame:
                        lit_lx += mirrored_lx(scene.lamps, mirror, cut.side(is_front=side), scene.blockers)
                lit[of, needed, side] = lit_lx
            caught[:, of] += lit_lx @ cut.area_m2
            if lit_lx.any():
                lit_by = Origins.of(scene.lamps, cut, lit_lx)
                sent = cut.sent_lx(lit_by.places_m, lit_by.lit_lx, points, scene.blockers, is_lit_in_front=side)
                via[:, of] += lit_by.by_lamp(sent, len(lit_lx))
        if frame in scene.mirrors:
            via[:, of] += mirrored_lx(scene.lamps, frame, points, scene.blockers)
    return FirstLight(via_lx=via, caught_lm=caught)
