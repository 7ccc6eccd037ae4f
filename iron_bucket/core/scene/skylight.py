"""The sky, seen through a window or from the open, as an area source."""

from collections.abc import Hashable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.checks import require_not_negative, require_share, require_word
from iron_bucket.core.daylight.glass import slant_share
from iron_bucket.core.daylight.sky_luminance import Looks, SkyLuminance, dome_directions, luminances_cd_m2
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.photometry.contour import form_factors
from iron_bucket.core.scene.blocking import Blocker, passing
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.polygon_room import PolygonRoom

#: Pieces along each side of a pane: each by the exact law, and blocked or not as a whole.
PANE_PIECES, PANE_PIECES_FOR_WALLS = 8, 3
_FAR_M = 5_000.0


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Window:
    """A pane with the sky behind it; ``panel`` looks into the room.

    ``passes``: share that goes straight through, so that the pane shows the sky and the ground outside;
    ``glow_cd_m2``: what it sends on evenly besides, of all that falls on its outer side (a sheer, a blind, frost).
    ``is_glass``: panes that lose more slantwise.
    """

    lamp_id: str
    panel: Panel
    passes: float
    sky: SkyLuminance
    glow_cd_m2: float = 0.0
    is_glass: bool = False
    level: float = 1.0

    def __post_init__(self) -> None:
        require_word("id", self.lamp_id)
        require_share("passes", self.passes)
        require_not_negative("glow_cd_m2", self.glow_cd_m2, unit="cd/m2")

    @property
    def ball_m(self) -> tuple[Array, float]:
        """Middle and radius of a ball that holds it."""
        return self.panel.centre_m, max(self.panel.width_m, self.panel.height_m)

    def flux_lm(self) -> float:
        """Lumens through the pane, without the sun's straight beam. Source: pi L A."""
        return float(np.pi * self.mean_cd_m2 * self.panel.width_m * self.panel.height_m)

    @property
    def mean_cd_m2(self) -> float:
        """Of the pane as one looks square through it. Source: of an even half space E = pi L."""
        return float(self.passes * self.sky.on_plane_lx_without_sun(-self.panel.normal) / np.pi + self.glow_cd_m2)

    def seen_from_cd_m2(self, eye_m: Array) -> float:
        """Mean over the pane as one looks at it from a place of shape (3,)."""
        centres = _pane_pieces(self.panel, PANE_PIECES)[1]
        return float(self.luminance_cd_m2(centres, eye_m[None]).mean())

    def brighter(self, factor: float) -> "Window":
        """With so many times the light outside."""
        return replace(self, sky=self.sky.brighter(factor), glow_cd_m2=self.glow_cd_m2 * factor)

    def pieces(self, points: Points) -> tuple[Array, Array]:
        """Corners (Q, 4, 3) counter-clockwise from inside, and centres (Q, 3)."""
        return _pane_pieces(self.panel, PANE_PIECES_FOR_WALLS if points.are_many else PANE_PIECES)

    def looks(self, centres_m: Array, positions_m: Array) -> Looks:
        """Past each piece of the pane from each receiver; a piece on the horizon is part sky, part ground.

        Shapes: centres_m (Q, 3), positions_m (R, 3); gives (R, Q).
        """
        half_m = self.panel.height_m / 2.0 / np.sqrt(len(centres_m)) * abs(self.panel.side_y[2])
        return Looks.along(centres_m[None, :, :] - positions_m[:, None, :], half_m)

    def luminance_cd_m2(self, centres_m: Array, positions_m: Array) -> Array:
        """Of each piece of the pane as each receiver sees it. Shapes: as of ``looks``."""
        looks = self.looks(centres_m, positions_m)
        return np.asarray(self.passes * self.sky.luminance_cd_m2(looks) * self._slant(looks) + self.glow_cd_m2)

    def _slant(self, looks: Looks) -> Array | float:
        return slant_share(looks.towards @ self.panel.normal) if self.is_glass else 1.0

    @property
    def stands(self) -> Hashable:
        """What its view hangs on: where it stands, and the kind of sky that is behind it."""
        panel = self.panel
        where = (panel.centre_m.tobytes(), panel.side_x.tobytes(), panel.side_y.tobytes())
        return (*where, panel.width_m, panel.height_m, self.is_glass, self.sky.kind)

    def view(self, points: Points, blockers: Sequence[Blocker]) -> "PaneView":
        """From some points, past what stands in the way."""
        corners, centres = self.pieces(points)
        factors = form_factors(corners, points.positions_m, points.normals, points.domes)
        if len(blockers):
            factors *= passing(centres, points.positions_m, blockers).T
        looks = self.looks(centres, points.positions_m)
        return PaneView(factors=factors, looks=looks, slant=self._slant(looks))


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class PaneView:
    """One pane from R receivers in Q pieces, whatever the sky behind it does. Shape of all: (R, Q)."""

    factors: Array
    looks: Looks
    slant: Array | float

    def levels_lx(self, windows: "Sequence[Window]") -> Array:
        """Under skies of one kind. Source: E = sum of L times the form factor of each piece of the pane. Shape (K,
        R).
        """
        passes, glow = (np.array([getattr(each, name) for each in windows]) for name in ("passes", "glow_cd_m2"))
        luminance = luminances_cd_m2([each.sky for each in windows], self.looks)
        by_sky = np.einsum(
            "krq,rq->kr", np.broadcast_to(luminance, (len(windows), *self.factors.shape)), self.factors * self.slant
        )
        return np.asarray(np.pi * (passes[:, None] * by_sky + glow[:, None] * self.factors.sum(axis=1)))


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
    """The sky over open ground. What lies in one of the ``rooms`` has it through their windows alone."""

    lamp_id: str
    sky: SkyLuminance
    rooms: tuple[PolygonRoom, ...] = ()
    level: float = 1.0

    def __post_init__(self) -> None:
        require_word("id", self.lamp_id)

    @property
    def ball_m(self) -> tuple[Array, float]:
        """It is on all sides."""
        return np.zeros(3), np.inf

    def flux_lm(self) -> float:
        """A sky has no end; nothing catches a share of it."""
        return float("inf")

    def brighter(self, factor: float) -> "OpenSky":
        """So many times as bright."""
        return replace(self, sky=self.sky.brighter(factor))

    @property
    def stands(self) -> Hashable:
        """What its view hangs on: the rooms that are not under it, and its kind."""
        return (self.sky.kind, *map(id, self.rooms))

    def view(self, points: Points, blockers: Sequence[Blocker]) -> "SkyView":
        """From some points, past what stands in the way."""
        outside = np.ones(len(points.positions_m), dtype=bool)
        for room in self.rooms:
            outside &= ~room.holds(points.positions_m)
        directions, there = dome_directions(), points.some(outside)
        found = np.zeros((len(outside), len(directions)))
        if outside.any():
            share = there.counted(directions @ there.normals.T) * (4.0 * np.pi / len(directions))
            if len(blockers):
                share *= passing(directions * _FAR_M, there.positions_m, blockers)
            found[outside] = share.T
        return SkyView(factors=found)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SkyView:
    """``factors``: what each direction of equal solid angle adds for its luminance. Shape (R, K)."""

    factors: Array

    def levels_lx(self, skies: Sequence[OpenSky]) -> Array:
        """Under skies of one kind. Source: E = integral of L cos(epsilon) over the sphere. Shape (S, R)."""
        looks = Looks.along(dome_directions())
        return np.asarray(luminances_cd_m2([each.sky for each in skies], looks) @ self.factors.T)
