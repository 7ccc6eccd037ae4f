"""The sky, seen through a window or from the open, as an area source."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache, lru_cache

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.checks import require_not_negative, require_share, require_word
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.photometry.contour import form_factors
from iron_bucket.core.scene.blocking import Blocker, passing
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.polygon_room import PolygonRoom

#: Pieces along each side of a pane: each by the exact law, and blocked or not as a whole.
PANE_PIECES, PANE_PIECES_FOR_WALLS = 6, 2
#: Rings of equal height of the dome, half of them below the horizon, and directions in each.
_RINGS, _TURNS = 12, 18
_FAR_M = 5_000.0


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Window:
    """A pane with the sky behind it; ``panel`` looks into the room. Luminances are those outside, in cd/m2.

    A clear pane shows the sky to what lies below it and the ground to what lies above; one that ``scatters`` (a sheer,
    a blind, frosted glass) glows evenly.
    """

    lamp_id: str
    panel: Panel
    passes: float
    sky_cd_m2: float
    ground_cd_m2: float
    scatters: bool = False
    level: float = 1.0

    def __post_init__(self) -> None:
        require_word("id", self.lamp_id)
        require_share("passes", self.passes)
        require_not_negative("sky_cd_m2", self.sky_cd_m2, unit="cd/m2")
        require_not_negative("ground_cd_m2", self.ground_cd_m2, unit="cd/m2")

    def flux_lm(self) -> float:
        """Lumens through the pane.

        Source: of a Lambertian face pi L A, sky and ground filling a half of its view each.
        """
        return float(
            np.pi * self.passes * (self.sky_cd_m2 + self.ground_cd_m2) / 2.0 * self.panel.width_m * self.panel.height_m
        )

    def level_lx(self, points: Points, blockers: Sequence[Blocker]) -> Array:
        """Source: E = sum of L times the form factor of each piece of the pane. Shape (R,)."""
        corners, centres = _pane_pieces(self.panel, PANE_PIECES_FOR_WALLS if points.are_many else PANE_PIECES)
        factors = form_factors(corners, points.positions_m, points.normals)
        if blockers:
            factors *= passing(centres, points.positions_m, blockers).T
        if self.scatters:
            return np.asarray(np.pi * self.passes * (self.sky_cd_m2 + self.ground_cd_m2) / 2.0 * factors.sum(axis=1))
        looks_up = centres[None, :, 2] > points.positions_m[:, None, 2]
        luminance = np.where(looks_up, self.sky_cd_m2, self.ground_cd_m2)
        return np.asarray(np.pi * self.passes * (luminance * factors).sum(axis=1))


@lru_cache(maxsize=256)
def _pane_pieces(panel: Panel, per_side: int) -> tuple[Array, Array]:
    """Corners (Q, 4, 3) counter-clockwise from inside, and centres (Q, 3)."""
    steps = np.linspace(-0.5, 0.5, per_side + 1)
    x, y = np.meshgrid(steps * panel.width_m, steps * panel.height_m, indexing="ij")
    points = panel.centre_m + x[..., None] * panel.side_x + y[..., None] * panel.side_y
    corners = np.stack([points[:-1, :-1], points[1:, :-1], points[1:, 1:], points[:-1, 1:]], axis=2).reshape(-1, 4, 3)
    return corners, corners.mean(axis=1)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class OpenSky:
    """An even sky over open ground, both in cd/m2.

    What lies in one of the ``rooms`` has it through their windows alone.
    """

    lamp_id: str
    sky_cd_m2: float
    ground_cd_m2: float
    rooms: tuple[PolygonRoom, ...] = ()
    level: float = 1.0

    def __post_init__(self) -> None:
        require_word("id", self.lamp_id)
        require_not_negative("sky_cd_m2", self.sky_cd_m2, unit="cd/m2")
        require_not_negative("ground_cd_m2", self.ground_cd_m2, unit="cd/m2")

    def flux_lm(self) -> float:
        """A sky has no end; nothing catches a share of it."""
        return float("inf")

    def level_lx(self, points: Points, blockers: Sequence[Blocker]) -> Array:
        """Source: E = integral of L cos(epsilon) over the sphere, in directions of equal solid angle. Shape (R,)."""
        level = np.zeros(len(points.positions_m))
        outside = np.ones(len(level), dtype=bool)
        for room in self.rooms:
            outside &= ~room.holds(points.positions_m)
        if not outside.any():
            return level
        directions = _dome_directions()
        luminance = np.where(directions[:, 2] > 0.0, self.sky_cd_m2, self.ground_cd_m2)
        share = np.maximum(points.normals[outside] @ directions.T, 0.0) * luminance * (4.0 * np.pi / len(directions))
        if blockers:
            share *= passing(directions * _FAR_M, points.positions_m[outside], blockers).T
        level[outside] = share.sum(axis=1)
        return level


@cache
def _dome_directions() -> Array:
    """Bands of equal height are bands of equal solid angle (Archimedes); each is turned by half a step.

    Shape (K, 3).
    """
    z = -1.0 + (2.0 * np.arange(_RINGS) + 1.0) / _RINGS
    turn = 2.0 * np.pi * (np.arange(_TURNS)[None, :] + 0.5 * (np.arange(_RINGS)[:, None] % 2)) / _TURNS
    flat = np.sqrt(1.0 - z**2)[:, None]
    return np.stack(
        [flat * np.cos(turn), flat * np.sin(turn), np.broadcast_to(z[:, None], turn.shape)], axis=2
    ).reshape(-1, 3)
