"""Frames and bounces by the two-stage integral: the head lights a panel, the panel lights the subject."""

from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np

from iron_bucket.core.arrays import Array, angle_rad, cross, lengths
from iron_bucket.core.checks import require_positive, require_share
from iron_bucket.core.photometry.distribution import BeamField, CosinePower, IntensityDistribution
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.photometry.steady import Steady
from iron_bucket.core.quadrature import gauss_nodes

#: Gauss points along each side of the panel: enough for a ten-degree spot on a large frame, and one is the middle.
PANEL_POINTS = 61
#: The same all round their axis, so that nobody need ask for the azimuth.
ROUND = (BeamField, CosinePower, Steady)
_ALONG, _, _UP = np.eye(3)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Panel:
    """A flat rectangle in space. ``side_x`` and ``side_y`` are perpendicular unit vectors, shape (3,)."""

    centre_m: Array
    side_x: Array
    side_y: Array
    width_m: float
    height_m: float
    normal: Array = field(init=False, repr=False)  # of length 1, shape (3,); scenes ask for it by the thousand

    def __post_init__(self) -> None:
        require_positive("width_m", self.width_m, unit="m")
        require_positive("height_m", self.height_m, unit="m")
        object.__setattr__(self, "normal", cross(self.side_x, self.side_y))

    def met_m(self, start_m: Array, end_m: Array) -> Array:
        """Where lines from one place to another meet its plane. Shapes: (..., 3) to the same."""
        before, behind = ((each - self.centre_m) @ self.normal for each in (start_m, end_m))
        return np.asarray(start_m + np.asarray(before / (before - behind))[..., None] * (end_m - start_m))

    def points(self, a_side: int = PANEL_POINTS) -> tuple[Array, Array]:
        """Gauss points (P, 3), ``a_side`` squared, and the area in m2 that each stands for (P,)."""
        return _points(self, a_side)


@lru_cache(maxsize=64)  # a scene asks for the same cut of a panel again and again
def _points(panel: Panel, a_side: int) -> tuple[Array, Array]:
    """Never written to: kernels do not take what cannot be."""
    nodes, weights = gauss_nodes(a_side)
    x, y = np.meshgrid(nodes * panel.width_m / 2, nodes * panel.height_m / 2, indexing="ij")
    area = np.outer(weights, weights).ravel() * panel.width_m * panel.height_m / 4
    places = (panel.centre_m + x[..., None] * panel.side_x + y[..., None] * panel.side_y).reshape(-1, 3)
    return places, area


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Head:
    """A small source in space that looks along ``aim`` (unit vector, shape (3,)), C0 along ``sideways``."""

    position_m: Array
    aim: Array
    distribution: IntensityDistribution

    def intensity_towards_cd(self, points_m: Array) -> Array:
        """Candela towards points. Shapes: points_m (P, 3), gives (P,)."""
        rays = points_m - self.position_m
        throw = lengths(rays)
        gamma = np.degrees(angle_rad(rays @ self.aim / throw))
        if isinstance(self.distribution, ROUND):
            return np.asarray(self.distribution.intensity_cd(gamma))
        sideways, upward = _frame_of(self.aim)
        azimuth = np.degrees(np.arctan2(rays @ upward, rays @ sideways))
        return np.asarray(self.distribution.intensity_cd(gamma, azimuth))

    def illuminance_lx(self, points_m: Array, normal: Array) -> Array:
        """Level on surfaces of one normal, lit from either side. Shapes: points_m (P, 3), gives (P,)."""
        rays = points_m - self.position_m
        throw = np.linalg.norm(rays, axis=1)
        cosine = np.abs(rays @ normal) / throw
        return np.asarray(self.intensity_towards_cd(points_m) * cosine / np.square(throw))


def _frame_of(aim: Array) -> tuple[Array, Array]:
    """C0 and C90 directions of an upright head, as long as each other; straight up or down, x is C0."""
    sideways = cross(_UP, aim)
    if np.linalg.norm(sideways) < 1e-9:
        sideways = _ALONG
    return sideways, cross(aim, sideways)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class LitPanel:
    """A panel under a head: what it caught, how evenly, and how much of it is the source now.

    Shapes: points_m (P, 3), area_m2 and illuminance_lx (P,).
    """

    panel: Panel
    points_m: Array
    area_m2: Array
    illuminance_lx: Array
    head_flux_lm: float

    @property
    def caught_lm(self) -> float:
        """Lumens that land on the panel."""
        return float(self.illuminance_lx @ self.area_m2)

    @property
    def share_caught(self) -> float:
        """Share of the head's flux that lands on the panel."""
        return self.caught_lm / self.head_flux_lm

    @property
    def mean_lx(self) -> float:
        """Mean illuminance over the whole panel."""
        return self.caught_lm / float(self.area_m2.sum())

    @property
    def evenness(self) -> float:
        """Mean over peak: 1 is filled evenly, small is a hot spot."""
        return self.mean_lx / float(self.illuminance_lx.max())

    @property
    def lit_size_m(self) -> tuple[float, float]:
        """Width and height of the even rectangle with the same spread: the size of the source now."""
        offset = self.points_m - self.panel.centre_m
        flux = self.illuminance_lx * self.area_m2
        along, across = offset @ self.panel.side_x, offset @ self.panel.side_y
        # An even strip of width w has a mean square offset of w^2/12.
        return (
            float(np.sqrt(12.0 * (flux @ along**2) / flux.sum())),
            float(np.sqrt(12.0 * (flux @ across**2) / flux.sum())),
        )

    def scattered_lx(self, share: float, subject_m: Array, subject_normal: Array) -> float:
        """Level at the subject from the panel glowing with ``share`` of what it caught, Lambertian.

        Source: L = share E / pi; E = sum L cos(theta) cos(epsilon) dA / r^2.
        """
        require_share("share", share)
        rays = subject_m - self.points_m
        throw2 = np.einsum("pk,pk->p", rays, rays)
        leaving = np.abs(rays @ self.panel.normal)
        arriving = np.maximum(-(rays @ subject_normal), 0.0)
        luminance = share * self.illuminance_lx / np.pi
        return float(np.sum(luminance * leaving * arriving * self.area_m2 / np.square(throw2)))


def light_panel(head: Head, panel: Panel, head_flux_lm: float | None = None) -> LitPanel:
    """Stage one: the head's distribution laid over the panel."""
    points_m, area_m2 = panel.points()
    return LitPanel(
        panel=panel,
        points_m=points_m,
        area_m2=area_m2,
        illuminance_lx=head.illuminance_lx(points_m, panel.normal),
        head_flux_lm=lumens(head.distribution) if head_flux_lm is None else head_flux_lm,
    )
