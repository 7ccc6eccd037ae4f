"""An empty box room."""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.checks import require_positive, require_share
from iron_bucket.core.errors import BadValue
from iron_bucket.core.scene.patches import Patches

FACES = ("x0", "x1", "y0", "y1", "floor", "ceiling")


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxRoom:
    """An empty box with its corner at the origin. ``reflectances`` in the order of ``FACES``."""

    dimensions_m: tuple[float, float, float]
    reflectances: tuple[float, float, float, float, float, float]

    def __post_init__(self) -> None:
        for side in self.dimensions_m:
            require_positive("dimensions_m", side, unit="m")
        for reflectance in self.reflectances:
            require_share("reflectances", reflectance)
        if min(self.reflectances) >= 1.0:
            raise BadValue("reflectances", self.reflectances, "at least one wall that absorbs")

    @property
    def is_convex(self) -> bool:
        """Nothing of it stands between two of its walls."""
        return True

    def patches(self, per_side: int) -> Patches:
        """The six walls, each as ``per_side`` x ``per_side`` pieces."""
        size = np.array(self.dimensions_m)
        steps = np.linspace(0.0, 1.0, per_side + 1)
        corners, faces = [], []
        for index in range(6):
            axis, at_far_end = divmod(index, 2)
            u, v = [other for other in range(3) if other != axis]
            low_u, low_v = np.meshgrid(steps[:-1], steps[:-1], indexing="ij")
            square = np.zeros((per_side**2, 4, 3))
            for corner, (du, dv) in enumerate(((0, 0), (1, 0), (1, 1), (0, 1))):
                square[:, corner, u] = (low_u.ravel() + du / per_side) * size[u]
                square[:, corner, v] = (low_v.ravel() + dv / per_side) * size[v]
            square[:, :, axis] = size[axis] * at_far_end
            if (axis == 1) != bool(at_far_end):  # x and z turn about y the other way round
                square = square[:, ::-1]
            corners.append(square)
            faces.append(np.full(per_side**2, index))
        face = np.concatenate(faces)
        return Patches.of(np.concatenate(corners), np.array(self.reflectances)[face], face)
