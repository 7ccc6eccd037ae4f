"""How bright the sky is in every direction, and the ground below it."""

from dataclasses import dataclass, replace
from functools import cache, cached_property

import numpy as np

from iron_bucket.core.arrays import Array, angle_rad, lengths
from iron_bucket.core.checks import require_not_negative, require_share
from iron_bucket.core.typical import typical

#: Rings of equal height of the sphere, half of them below the horizon, and directions in each.
_RINGS, _TURNS = 16, 24


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

    def luminance_cd_m2(self, ways: Array, half_m: float = 0.0) -> Array:
        """Towards some directions of any length. Shapes: ways (..., 3); gives (...).

        ``half_m``: so far above and below its middle what is looked at reaches, part of it over the horizon.
        """
        sine = ways[..., 2] / lengths(ways)
        rise = ways[..., 2]
        share = np.where(rise > 0.0, 1.0, 0.0) if half_m <= 0.0 else np.clip((rise + half_m) / (2.0 * half_m), 0.0, 1.0)
        above = self._zenith_cd_m2 * self._relative(np.maximum(sine, 0.0), ways)
        return np.asarray(share * above + (1.0 - share) * self.ground_cd_m2)

    def on_plane_lx(self, normal: Array) -> float:
        """Sky, ground and sun on a plane in the open that looks along ``normal``, shape (3,)."""
        beam = 0.0 if self.sun_towards is None else max(float(self.sun_towards @ normal), 0.0)
        return self.on_plane_lx_without_sun(normal) + self.sun_normal_lx * beam

    def on_plane_lx_without_sun(self, normal: Array) -> float:
        """The same, the sun's own beam left out."""
        ways = dome_directions(4)
        return float(self.luminance_cd_m2(ways) @ np.maximum(ways @ normal, 0.0)) * 4.0 * np.pi / len(ways)

    def _relative(self, sine: Array, ways: Array) -> Array:
        """Luminance over the zenith's, but for a factor.

        Source: ISO 15469:2004, L ~ (1 + a exp(b / sin)) (1 + c (exp(d x) - exp(d pi / 2)) + e cos^2 x), x the angle
        to the sun; the traditional overcast sky (1 + 2 sin) / 3.
        """
        form = typical("sky_kinds")[self.kind]
        if "a" not in form:
            return np.asarray((1.0 + 2.0 * sine) / 3.0)
        found = 1.0 + form["a"] * np.exp(form["b"] / np.maximum(sine, 1e-3))
        if self.sun_towards is not None and (form["c"] or form["e"]):
            off = angle_rad(ways @ self.sun_towards / lengths(ways))
            ring = np.exp(form["d"] * off) - np.exp(form["d"] * np.pi / 2.0)
            found = found * (1.0 + form["c"] * ring + form["e"] * np.square(np.cos(off)))
        return np.asarray(found)

    @cached_property
    def _zenith_cd_m2(self) -> float:
        """So that the sky lays on open ground what it is said to."""
        ways = dome_directions(8)
        ways = ways[ways[:, 2] > 0.0]
        whole = float(self._relative(ways[:, 2], ways) @ ways[:, 2]) * 2.0 * np.pi / len(ways)
        return self.horizontal_lx / whole


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
