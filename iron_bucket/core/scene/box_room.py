"""Light between the six walls of an empty box room, by patch radiosity.

Levels at receivers count every order of reflection; the direct light of the source is left out.
"""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.checks import require_positive, require_share
from iron_bucket.core.errors import BadValue
from iron_bucket.core.photometry.contour import polygon_illuminance_lx

FACES = ("x0", "x1", "y0", "y1", "floor", "ceiling")
#: Patches along each side of a wall; 14 keeps the reference rooms within 0.5 %.
PATCHES = 14


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


def exchange_factors(patches: Patches) -> Array:
    """Exitance of each patch to illuminance at each patch's centre. Shape (receiver P, emitter P)."""
    columns = [
        polygon_illuminance_lx(1.0 / np.pi, corners, patches.centres_m, patches.normals)
        for corners in patches.corners_m
    ]
    factors = np.stack(columns, axis=1)
    factors[patches.face[:, None] == patches.face[None, :]] = 0.0  # a flat wall does not see itself
    return factors


def total_illuminance_lx(patches: Patches, first_lx: Array) -> Array:
    """Level on every patch after all bounces, from the level ``first_lx`` that the source lays there. Shapes (P,).

    Source: radiosity, E = E0 + F diag(rho) E.
    """
    factors = exchange_factors(patches)
    return np.asarray(
        np.linalg.solve(np.eye(len(first_lx)) - factors * patches.reflectance[None, :], first_lx), dtype=float
    )


def indirect_illuminance_lx(patches: Patches, total_lx: Array, positions_m: Array, normals: Array) -> Array:
    """Level at receivers from the walls glowing with what they reflect. Shapes (R, 3), (R, 3) to (R,)."""
    exitance = patches.reflectance * total_lx
    level = np.zeros(len(positions_m))
    for corners, exitance_lm_m2 in zip(patches.corners_m, exitance, strict=True):
        level += polygon_illuminance_lx(float(exitance_lm_m2) / np.pi, corners, positions_m, normals)
    return level
