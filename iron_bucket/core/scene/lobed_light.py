"""What cloths and boards that are not matt send on of light that was scattered before: it still goes on its way, so
that a frost shows the board behind it, and no more.
"""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.photometry.contour import form_factors
from iron_bucket.core.scene.blocking import Blockers, passing
from iron_bucket.core.scene.frame_points import FramePoints, Scatterer, points_for_near
from iron_bucket.core.scene.later_light import Nodes
from iron_bucket.core.scene.patches import Patches
from iron_bucket.core.scene.points import Points

#: Points along each side of such a cloth that the nearest mark may ask for.
_MOST_POINTS = 40


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class ScatteringSources:
    """All that has been lit and sends light on. Shapes: node_lx (L, N); patch_lm_m2 (L, P), as sent on."""

    nodes: Nodes
    node_lx: Array
    patches: Patches
    patch_lm_m2: Array

    def through_lx(self, scatterer: Scatterer, of: int, marks: Points, blockers: Blockers, a_side: int) -> Array:
        """What one of the scatterers, by its number, makes of the others' light at the marks. Shape (L, R)."""
        near = min(int(np.ceil(points_for_near(scatterer.panel, marks.positions_m))), _MOST_POINTS)
        cut, others = FramePoints.of(scatterer, max(a_side, near)), self.nodes.owner != of
        nodes = self.nodes.some(others)
        places = np.concatenate([nodes.points.positions_m, self.patches.just_off_m])
        weights = np.concatenate([self.node_lx[:, others], self.patch_lm_m2], axis=1)
        found = np.zeros((len(weights), len(marks.normals)))
        for side in (True, False):
            receivers = cut.side(is_front=side)
            factors = form_factors(self.patches.corners_m, receivers.positions_m, receivers.normals)
            by_patches = factors * passing(receivers.positions_m, self.patches.just_off_m, blockers)
            arriving = np.concatenate([nodes.sent_lx(receivers, blockers), by_patches], axis=1)
            sends = np.flatnonzero(arriving.any(axis=0))
            sent = cut.sent_lx(
                places[sends], arriving[:, sends].T, marks, blockers, is_lit_in_front=side, lobes_only=True
            )
            found += weights[:, sends] @ sent
        return found
