"""Light between the walls of an empty room.

The first bounce is taken from a fine grid on the walls, because spots there are sharp; every later one from a coarse
grid by patch
radiosity, because what has been reflected twice is smooth.
"""

from dataclasses import dataclass, replace

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.photometry.contour import form_factors
from iron_bucket.core.scene.blocking import passing
from iron_bucket.core.scene.box_room import BoxRoom
from iron_bucket.core.scene.patches import Band, Patches, subdivided
from iron_bucket.core.scene.polygon_room import PolygonRoom

#: Coarse patches along each side of a wall of a box, and how many fine ones each of them holds along a side.
PATCHES, FINE = 7, 4
#: What sends nothing back has no tint.
_BLACK = 1e-9


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class RoomGrid:
    """An empty room ready to be lit: its fine and coarse patches, what each coarse patch gets of each other's exitance,
    and what each gets in the end for each lux first laid on each.

    Shapes: ``factors`` and ``solved`` (P, P). They depend on the room alone, so that lamps and their levels may change.
    """

    fine: Patches
    coarse: Patches
    factors: Array
    solved: Array

    @classmethod
    def of(cls, room: BoxRoom | PolygonRoom, per_side: int = PATCHES) -> "RoomGrid":
        """Source: radiosity, E = E0 + F diag(rho) E, so E = (1 - F diag(rho))^-1 E0."""
        coarse = room.patches(per_side)
        fine = subdivided(coarse, FINE)
        if isinstance(room, PolygonRoom) and room.openings:
            fine = room.with_openings(fine)
            coarse = _over(coarse, fine)
        factors = form_factors(coarse.corners_m, coarse.centres_m, coarse.normals)
        factors[coarse.face[:, None] == coarse.face[None, :]] = 0.0  # a flat wall does not see itself
        if isinstance(room, PolygonRoom) and not room.is_convex:
            factors *= passing(
                coarse.just_off_m, coarse.just_off_m, [replace(each, holes=()) for each in room.blockers()]
            )
        return cls(fine=fine, coarse=coarse, factors=factors, solved=_solved(factors, coarse.reflectance))

    def solved_in(self, band: Band) -> Array:
        """The same in one band of light."""
        if band is None or self.coarse.tint is None:
            return self.solved
        return _solved(self.factors, self.coarse.in_band(band))


def _solved(factors: Array, reflectance: Array) -> Array:
    return np.asarray(np.linalg.inv(np.eye(len(factors)) - factors * reflectance[None, :]), dtype=float)


def _over(coarse: Patches, fine: Patches) -> Patches:
    """Coarse patches that send back what their pieces do together."""
    mean = means_over(fine.reflectance, fine.area_m2, coarse.area_m2)
    if fine.tint is None:
        return replace(coarse, reflectance=mean)
    by_band = means_over((fine.reflectance[:, None] * fine.tint).T, fine.area_m2, coarse.area_m2)
    return replace(coarse, reflectance=mean, tint=by_band.T / np.maximum(mean, _BLACK)[:, None])


def means_over(fine: Array, fine_m2: Array, coarse_m2: Array) -> Array:
    """By area; the fine pieces of one coarse piece stand together."""
    weighed = (fine * fine_m2).reshape(*fine.shape[:-1], len(coarse_m2), FINE**2)
    return np.asarray(weighed.sum(axis=-1) / coarse_m2)
