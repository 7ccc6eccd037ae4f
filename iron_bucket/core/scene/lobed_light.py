"""What cloths and boards that are not matt send on of light that was scattered before: it still goes on its way, so
that a frost shows the board behind it, and no more.
"""

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


def lobed_ways(
    scatterer: Scatterer, of: int, nodes: Nodes, patches: Patches, marks: Points, blockers: Blockers, a_side: int
) -> Array:
    """What one of the scatterers, by its number, makes of the others' light at the marks: lux for each lux on each
    node, and for each lm/m2 that a patch sends on. Shape (N + P, R).
    """
    near = min(int(np.ceil(points_for_near(scatterer.panel, marks.positions_m))), _MOST_POINTS)
    cut, others = FramePoints.of(scatterer, max(a_side, near)), np.flatnonzero(nodes.owner != of)
    senders = nodes.some(nodes.owner != of)
    places = np.concatenate([senders.points.positions_m, patches.just_off_m])
    numbers = np.concatenate([others, len(nodes.owner) + np.arange(len(patches.area_m2))])
    found = np.zeros((len(nodes.owner) + len(patches.area_m2), len(marks.normals)))
    for side in (True, False):
        receivers = cut.side(is_front=side)
        factors = form_factors(patches.corners_m, receivers.positions_m, receivers.normals)
        by_patches = factors * passing(receivers.positions_m, patches.just_off_m, blockers)
        arriving = np.concatenate([senders.sent_lx(receivers, blockers), by_patches], axis=1)
        sends = np.flatnonzero(arriving.any(axis=0))
        found[numbers[sends]] += cut.sent_lx(
            places[sends], arriving[:, sends].T, marks, blockers, is_lit_in_front=side, lobes_only=True
        )
    return found
