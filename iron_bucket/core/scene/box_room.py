"""Light between the six walls of an empty box room.

The first bounce is taken from a fine grid on the walls, because spots there are sharp; every later one from a coarse grid by patch
radiosity, because what has been reflected twice is smooth.
"""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.checks import require_positive, require_share
from iron_bucket.core.errors import BadValue
from iron_bucket.core.photometry.contour import form_factors

FACES = ("x0", "x1", "y0", "y1", "floor", "ceiling")
#: Coarse patches along each side of a wall, and how many fine ones each of them holds along a side.
PATCHES, FINE = 7, 4


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


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Patches:
    """The walls cut up. Shapes: corners_m (P, 4, 3) counter-clockwise from inside, centres and normals (P, 3), rest (P,)."""

    corners_m: Array
    centres_m: Array
    normals: Array
    area_m2: Array
    reflectance: Array
    face: np.ndarray


def patches_of(room: BoxRoom, per_side: int = PATCHES) -> Patches:
    """The room's six walls, each as ``per_side`` x ``per_side`` patches."""
    size = np.array(room.dimensions_m)
    steps = np.linspace(0.0, 1.0, per_side + 1)
    corners, normals, faces = [], [], []
    for index in range(6):
        axis, at_far_end = divmod(index, 2)
        u, v = [other for other in range(3) if other != axis]
        low_u, low_v = np.meshgrid(steps[:-1], steps[:-1], indexing="ij")
        square = np.zeros((per_side**2, 4, 3))
        for corner, (du, dv) in enumerate(((0, 0), (1, 0), (1, 1), (0, 1))):
            square[:, corner, u] = (low_u.ravel() + du / per_side) * size[u]
            square[:, corner, v] = (low_v.ravel() + dv / per_side) * size[v]
        square[:, :, axis] = size[axis] * at_far_end
        normal = np.zeros(3)
        normal[axis] = -1.0 if at_far_end else 1.0
        if np.dot(np.cross(square[0, 1] - square[0, 0], square[0, 2] - square[0, 1]), normal) < 0:
            square = square[:, ::-1]
        corners.append(square)
        normals.append(np.broadcast_to(normal, (per_side**2, 3)))
        faces.append(np.full(per_side**2, index))
    corners_m, face = np.concatenate(corners), np.concatenate(faces)
    area = np.linalg.norm(np.cross(corners_m[:, 1] - corners_m[:, 0], corners_m[:, 3] - corners_m[:, 0]), axis=1)
    return Patches(
        corners_m=corners_m,
        centres_m=corners_m.mean(axis=1),
        normals=np.concatenate(normals),
        area_m2=area,
        reflectance=np.array(room.reflectances)[face],
        face=face,
    )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class RoomGrid:
    """A room ready to be lit: its fine and coarse patches, and what each coarse patch gets in the end for each lux first laid on each.

    Shapes: ``solved`` (P, P). It depends on the room alone, so that levels of lamps may change without it.
    """

    fine: Patches
    coarse: Patches
    solved: Array

    @classmethod
    def of(cls, room: BoxRoom, per_side: int = PATCHES) -> "RoomGrid":
        """Source: radiosity, E = E0 + F diag(rho) E, so E = (1 - F diag(rho))^-1 E0."""
        coarse = patches_of(room, per_side)
        factors = form_factors(coarse.corners_m, coarse.centres_m, coarse.normals)
        factors[coarse.face[:, None] == coarse.face[None, :]] = 0.0  # a flat wall does not see itself
        solved = np.linalg.inv(np.eye(len(factors)) - factors * coarse.reflectance[None, :])
        return cls(fine=patches_of(room, per_side * FINE), coarse=coarse, solved=np.asarray(solved, dtype=float))

    def on_coarse(self, fine_lx: Array) -> Array:
        """Means of the fine patches within each coarse one. Shapes (..., 16 P) to (..., P)."""
        side = round(np.sqrt(len(self.coarse.area_m2) / 6))
        split = fine_lx.reshape(*fine_lx.shape[:-1], 6, side, FINE, side, FINE)
        return np.asarray(split.mean(axis=(-3, -1)).reshape(*fine_lx.shape[:-1], len(self.coarse.area_m2)))

    def later_exitance_lm_m2(self, fine_lx: Array) -> Array:
        """What the coarse patches send on of light that was reflected already: everything but the first bounce. Shapes as ``on_coarse``."""
        first = self.on_coarse(fine_lx)
        return np.asarray(self.coarse.reflectance * (first @ self.solved.T - first))
