"""Whence light falls on a frame or board: a lobe follows the way that it came.

From the middle of a lamp, part by part from a face that looks large beside the lobe, or from everywhere.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.modifiers.lobe import is_matt
from iron_bucket.core.scene.face_pieces import face_pieces
from iron_bucket.core.scene.frame_points import FramePoints
from iron_bucket.core.scene.scene import Light, SceneLamp

#: A face is cut into no more parts along each side; each then looks about as large as the half width of the lobe.
_MOST_PARTS = 6


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Origins:
    """Shapes: places_m (O, 3), nan of what comes from everywhere; lit_lx (O, P), what each lays on the points of a cut;
    owner (O,), the number of its lamp.
    """

    places_m: Array
    lit_lx: Array
    owner: np.ndarray

    @classmethod
    def of(cls, lamps: Sequence[Light], cut: FramePoints, lit_lx: Array) -> "Origins":
        """Of what lamps lay on a cut. Shape of ``lit_lx`` (L, P)."""
        places, lit, owner = [], [], []
        for at in map(int, np.flatnonzero(lit_lx.any(axis=1))):
            centres, shares = _parts(lamps[at], cut)
            places.append(centres)
            lit.append(lit_lx[at] * shares)
            owner += [at] * len(centres)
        return cls(
            places_m=np.concatenate([np.zeros((0, 3)), *places]),
            lit_lx=np.concatenate([np.zeros((0, lit_lx.shape[1])), *lit]),
            owner=np.array(owner, dtype=int),
        )

    def by_lamp(self, found: Array, count: int) -> Array:
        """What was found for each origin, added up for each of so many lamps. Shapes (O, R) to (L, R)."""
        added = np.zeros((count, found.shape[1]))
        np.add.at(added, self.owner, found)
        return added


def _parts(lamp: Light, cut: FramePoints) -> tuple[Array, Array]:
    """Middles of the parts of a lamp (Q, 3), and the share of its light that each lays on every point, (Q, P) or 1."""
    if not isinstance(lamp, SceneLamp):
        return np.full((1, 3), np.nan), np.ones((1, 1))
    face, per_side = lamp.face, 1
    if face:
        away_m = float(np.linalg.norm(cut.frame.panel.centre_m - lamp.position_m))
        per_side = parts_a_side(max(face.width_m, face.height_m), away_m, cut.frame.lobe_deg)
    if per_side == 1:
        return lamp.position_m[None], np.ones((1, 1))
    corners, centres, _ = face_pieces(lamp, per_side)
    sides = corners[:, 2] - corners[:, 0], corners[:, 3] - corners[:, 1]
    area = np.linalg.norm(np.cross(*sides), axis=1)
    rays = cut.points_m[None] - centres[:, None]
    reach2 = np.einsum("qpk,qpk->qp", rays, rays)
    # Both cosines over the square, each with the distance once more.
    weight = np.maximum(rays @ lamp.aim, 0.0) * np.abs(rays @ cut.frame.panel.normal) / np.square(reach2)
    weight *= area[:, None]
    return centres, weight / np.maximum(weight.sum(axis=0), 1e-12)


def parts_a_side(size_m: float, away_m: float, lobe_deg: float) -> int:
    """One where all of a face looks small beside the lobe; else an even number, because discs are cut in rings."""
    needed = 0.0 if is_matt(lobe_deg) else size_m / max(away_m, 1e-3) / np.radians(lobe_deg)
    return 1 if needed <= 0.5 else min(2 * int(np.ceil(needed / 2.0)), _MOST_PARTS)
