"""The walls of all rooms that are computed, side by side, and what lights lay on them."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from iron_bucket.core.arrays import Array, angle_rad, lengths
from iron_bucket.core.photometry.contour import form_factors
from iron_bucket.core.scene.blocking import Blockers, passing
from iron_bucket.core.scene.fineness import Fineness
from iron_bucket.core.scene.frame_points import half_beam_rad
from iron_bucket.core.scene.light_levels import levels_lx
from iron_bucket.core.scene.patches import Patches, subdivided
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.room_grid import FINE, RoomGrid, means_over
from iron_bucket.core.scene.scene import Light, SceneLamp
from iron_bucket.core.scene.sunlight import is_sun

#: A fine patch that a beam crosses in less than so many is looked at in parts along each side.
_PATCHES_ACROSS_A_BEAM, _PARTS = 4.0, 9
#: Corners are looked at so much nearer to the middle, lest they lie on two walls.
_INSET = 1e-3


@dataclass(frozen=True, kw_only=True, eq=False)
class Walls:
    """``grids``: one of each room. Everything of them is joined in their order."""

    grids: tuple[RoomGrid, ...]

    @cached_property
    def fine(self) -> Patches:
        """All fine patches."""
        return Patches.joined([grid.fine for grid in self.grids])

    @cached_property
    def coarse(self) -> Patches:
        """All coarse patches."""
        return Patches.joined([grid.coarse for grid in self.grids])

    def on_coarse(self, fine_lx: Array) -> Array:
        """Means over the coarse patches. Shapes (..., FINE^2 P) to (..., P)."""
        return means_over(fine_lx, self.fine.area_m2, self.coarse.area_m2)

    def on_fine(self, coarse_lx: Array) -> Array:
        """What lies evenly on coarse patches, on the fine ones. Shapes (..., P) to (..., FINE^2 P)."""
        return np.repeat(coarse_lx, FINE**2, axis=-1)

    @cached_property
    def points(self) -> Points:
        """The middles of the fine patches."""
        return Points(positions_m=self.fine.centres_m, normals=self.fine.normals, are_many=True)

    @cached_property
    def coarse_points(self) -> Points:
        """The middles of the coarse patches."""
        return Points(positions_m=self.coarse.centres_m, normals=self.coarse.normals, are_many=True)

    def lit_lx(self, lamps: Sequence[Light], blockers: Blockers, fineness: Fineness) -> Array:
        """Straight from the lights: the mean over each fine patch, looked at in parts where a beam is narrow; on a set
        windows and the sky, which are smooth, on the coarse ones. Shape (L, W).
        """
        broad = [at for at, lamp in enumerate(lamps) if fineness.is_smooth and not isinstance(lamp, SceneLamp)]
        sharp = [at for at in range(len(lamps)) if at not in broad]
        lit = np.empty((len(lamps), len(self.fine.area_m2)))
        lit[sharp] = levels_lx([lamps[at] for at in sharp], self.points, blockers)
        lit[broad] = self.on_fine(levels_lx([lamps[at] for at in broad], self.coarse_points, blockers))
        small = [at for at, lamp in enumerate(lamps) if isinstance(lamp, SceneLamp) and lamp.intensity is not None]
        for at in small:
            uneven = self._in_a_narrow_beam(lamps[at])  # type: ignore[arg-type]
            # The sun makes sharp patches of the brightest light there is.
            if fineness.splits_shadows or (fineness.splits_suns and is_sun(lamps[at])):  # type: ignore[arg-type]
                uneven |= self._half_seen(lamps[at].position_m[None], blockers)[0]  # type: ignore[union-attr]
            chosen = np.flatnonzero(uneven)
            if len(chosen):
                parts = subdivided(self.fine.of_those(chosen), _PARTS)
                points = Points(positions_m=parts.centres_m, normals=parts.normals, are_many=True)
                level = levels_lx((lamps[at],), points, blockers)[0]
                lit[at, chosen] = level.reshape(len(chosen), -1).mean(axis=1)
        return lit

    def _in_a_narrow_beam(self, lamp: SceneLamp) -> np.ndarray:
        """Which fine patches lie in the beam of a lamp that is narrow for their size."""
        rays = self.fine.centres_m - lamp.position_m
        throw = lengths(rays)
        size = np.sqrt(self.fine.area_m2) / throw
        half = half_beam_rad(lamp)
        off = angle_rad(rays @ lamp.aim / throw)
        return np.asarray((2.0 * half < _PATCHES_ACROSS_A_BEAM * size) & (off < 3.0 * half + size))

    def _half_seen(self, places_m: Array, blockers: Blockers) -> np.ndarray:
        """Which fine patches places see some corners of, and others not. Shape (R, W)."""
        corners = self.fine.corners_m + _INSET * (self.fine.centres_m[:, None] - self.fine.corners_m)
        seen = passing(places_m, corners.reshape(-1, 3), blockers).reshape(len(places_m), len(corners), 4)
        return np.asarray(seen.max(axis=2) > seen.min(axis=2))

    def factors(self, points: Points, blockers: Blockers, *, splits_shadows: bool) -> Array:
        """Form factors of the fine patches at some points, past what stands in the way. Shape (R, W)."""
        factors = form_factors(self.fine.corners_m, points.positions_m, points.normals, points.domes)
        if not len(blockers):
            return factors
        seen = passing(points.positions_m, self.fine.centres_m, blockers)
        if splits_shadows:
            differs = self._half_seen(points.positions_m, blockers)
            for at in np.flatnonzero(differs.any(axis=1)):
                chosen = np.flatnonzero(differs[at])
                parts = subdivided(self.fine.of_those(chosen), _PARTS)
                arriving = passing(points.positions_m[at][None], parts.centres_m, blockers)
                seen[at, chosen] = arriving.reshape(len(chosen), -1).mean(axis=1)
        return np.asarray(factors * seen)
