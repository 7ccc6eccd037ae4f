"""How bright the sky is in every direction, and the ground below it."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cache, cached_property, lru_cache

import numpy as np

from iron_bucket.core.arrays import Array, angle_rad, units
from iron_bucket.core.checks import require_not_negative, require_share
from iron_bucket.core.typical import typical

#: Rings of equal height of the sphere, half of them below the horizon, and directions in each.
_RINGS, _TURNS = 16, 24


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Looks:
    """Where one looks, whatever the sky does: ``towards`` (..., 3), length 1, and the share of it that is over the
    horizon (...).
    """

    towards: Array
    over_share: Array

    @classmethod
    def along(cls, ways: Array, half_m: float = 0.0) -> "Looks":
        """Along ways of any length. ``half_m``: so far above and below its middle what is looked at reaches, part of it
        over the horizon.
        """
        rise = ways[..., 2]
        share = np.where(rise > 0.0, 1.0, 0.0) if half_m <= 0.0 else np.clip((rise + half_m) / (2.0 * half_m), 0.0, 1.0)
        return cls(towards=units(ways), over_share=share)


@dataclass(frozen=True, kw_only=True, eq=False)
class SkyLuminance:
    """A sky of one kind (the names of the table of sky kinds) that lays ``horizontal_lx`` on open ground, the sun's
    own light apart.

    ``ground_reflectance``: of matt ground to the horizon, lit by this sky and a sun of ``sun_normal_lx`` square to its
    beam. ``sun_towards``: where it stands, shape (3,), length 1; None where it counts nowhere.
    """

    kind: str
    horizontal_lx: float
    ground_reflectance: float = 0.0
    sun_towards: Array | None = None
    sun_normal_lx: float = 0.0

    def __post_init__(self) -> None:
        require_not_negative("horizontal_lx", self.horizontal_lx, unit="lx")
        require_not_negative("normal_lx", self.sun_normal_lx, unit="lx")
        require_share("reflectance", self.ground_reflectance)

    @property
    def ground_cd_m2(self) -> float:
        """Source: L = rho E / pi of matt ground, sky and sun on it."""
        sine = 0.0 if self.sun_towards is None else max(float(self.sun_towards[2]), 0.0)
        return self.ground_reflectance * (self.horizontal_lx + self.sun_normal_lx * sine) / np.pi

    def brighter(self, factor: float) -> "SkyLuminance":
        """The same sky and sun, all of it so many times as bright."""
        return replace(self, horizontal_lx=self.horizontal_lx * factor, sun_normal_lx=self.sun_normal_lx * factor)

    def luminance_cd_m2(self, looks: Looks) -> Array:
        """Shape (...)."""
        return np.asarray(luminances_cd_m2((self,), looks)[0])

    def on_plane_lx(self, normal: Array) -> float:
        """Sky, ground and sun on a plane in the open that looks along ``normal``, shape (3,)."""
        beam = 0.0 if self.sun_towards is None else max(float(self.sun_towards @ normal), 0.0)
        return self.on_plane_lx_without_sun(normal) + self.sun_normal_lx * beam

    def on_plane_lx_without_sun(self, normal: Array) -> float:
        """The same, the sun's own beam left out."""
        return _on_plane_lx(self, tuple(normal.tolist()))

    @cached_property
    def _zenith_cd_m2(self) -> float:
        """So that the sky lays on open ground what it is said to."""
        ways = dome_directions(8)
        ways = ways[ways[:, 2] > 0.0]
        whole = float(_over_zenith((self,), ways)[0] @ ways[:, 2]) * 2.0 * np.pi / len(ways)
        return self.horizontal_lx / whole


def luminances_cd_m2(skies: Sequence[SkyLuminance], looks: Looks) -> Array:
    """Of several skies of one kind. Shape (K, ...)."""
    each = (len(skies), *(1,) * looks.over_share.ndim)
    zenith, ground = (
        np.array(some).reshape(each)
        for some in ([sky._zenith_cd_m2 for sky in skies], [sky.ground_cd_m2 for sky in skies])
    )
    over = looks.over_share
    return np.asarray(over * zenith * _over_zenith(skies, looks.towards) + (1.0 - over) * ground)


def _over_zenith(skies: Sequence[SkyLuminance], towards: Array) -> Array:
    """Luminance of skies of one kind over their zenith's, but for a factor. Shapes (..., 3) to (K, ...).

    Source: ISO 15469:2004, L ~ (1 + a exp(b / sin)) (1 + c (exp(d x) - exp(d pi / 2)) + e cos^2 x), x the angle to the
    sun; the traditional overcast sky 1 + 2 sin.
    """
    form, sine = typical("sky_kinds")[skies[0].kind], np.maximum(towards[..., 2], 0.0)
    if "a" not in form:
        return np.asarray(1.0 + 2.0 * sine)[None]
    rises = 1.0 + form["a"] * np.exp(form["b"] / np.maximum(sine, 1e-3))
    if not form["c"] and not form["e"]:
        return np.asarray(rises)[None]
    # Where no sun counts, all is as far from it as what counts for nothing.
    suns = np.array([np.zeros(3) if sky.sun_towards is None else sky.sun_towards for sky in skies])
    cosine = np.moveaxis(towards @ suns.T, -1, 0)
    ring = np.exp(form["d"] * angle_rad(cosine)) - np.exp(form["d"] * np.pi / 2.0)
    return np.asarray(rises * (1.0 + form["c"] * ring + form["e"] * np.square(cosine)))


@lru_cache(maxsize=1000)
def _on_plane_lx(sky: SkyLuminance, normal: tuple[float, ...]) -> float:
    """Kept: panes of one wall all ask for it."""
    ways = dome_directions(4)
    return float(sky.luminance_cd_m2(Looks.along(ways)) @ np.maximum(ways @ normal, 0.0)) * 4.0 * np.pi / len(ways)


@cache
def dome_directions(fineness: int = 1) -> Array:
    """Bands of equal height are bands of equal solid angle (Archimedes); each is turned by half a step.

    Shape (K, 3).
    """
    rings, turns = _RINGS * fineness, _TURNS * fineness
    z = -1.0 + (2.0 * np.arange(rings) + 1.0) / rings
    turn = 2.0 * np.pi * (np.arange(turns)[None, :] + 0.5 * (np.arange(rings)[:, None] % 2)) / turns
    flat = np.sqrt(1.0 - z**2)[:, None]
    return np.stack(
        [flat * np.cos(turn), flat * np.sin(turn), np.broadcast_to(z[:, None], turn.shape)], axis=2
    ).reshape(-1, 3)
