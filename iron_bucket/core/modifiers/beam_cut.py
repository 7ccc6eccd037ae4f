"""What cuts a beam at the head: barn doors, a snoot, half-scrims; the iris, shutters and slide of a profile spot."""

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from iron_bucket.core.arrays import Array, Floats
from iron_bucket.core.checks import require_between, require_share
from iron_bucket.core.errors import BadValue
from iron_bucket.core.photometry.distribution import FIRST_PLANE_DEG, IntensityDistribution
from iron_bucket.core.typical import typical

#: Opened so far a leaf is out of every beam.
WIDE_OPEN_DEG = 90.0
#: Edges in the gate of a profile spot are blurred over this share of the field's radius, either way; typical.
_BLUR = 0.03
#: The field of a lamp ends where a tenth of its peak is left.
_LOOKED_AT_DEG = np.arange(0.25, 85.0, 0.25)
Four = tuple[float, float, float, float]
OPEN_DOORS: Four = (WIDE_OPEN_DEG, WIDE_OPEN_DEG, WIDE_OPEN_DEG, WIDE_OPEN_DEG)
OPEN_SHUTTERS: Four = (0.0, 0.0, 0.0, 0.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class BeamCut:
    """``doors_deg``: how far the leaves at top, bottom, left and right are opened from straight ahead, 90 out of the
    way, below 0 across the beam; left as seen from behind the lamp. ``shutters``: how far each is pushed in, as a share
    of the field's radius. ``iris``: what is left of the field's diameter. ``half_passes``: of what leaves downwards.
    ``snoot_m``: the length of a tube as wide as the lens. ``slide``: a pattern of the typical table, or nothing.
    """

    doors_deg: Four = OPEN_DOORS
    snoot_m: float = 0.0
    half_passes: float = 1.0
    iris: float = 1.0
    shutters: Four = OPEN_SHUTTERS
    slide: str = ""

    def __post_init__(self) -> None:
        for leaf in self.doors_deg:
            require_between("barn doors", leaf, low=-60.0, high=WIDE_OPEN_DEG, unit="degrees")
        require_between("snoot", self.snoot_m, low=0.0, high=2.0, unit="m")
        require_share("half-scrims", self.half_passes)
        require_between("iris", self.iris, low=0.05, high=1.0, unit="of the field")
        for shutter in self.shutters:
            require_between("shutters", shutter, low=0.0, high=1.9, unit="of the field's radius")
        if self.slide and self.slide not in typical("slides"):
            raise BadValue("slide", repr(self.slide), "one of " + ", ".join(slides()))

    @property
    def cuts_nothing(self) -> bool:
        """Whether the beam is as it was."""
        return self == BeamCut()

    @property
    def is_doors_alone(self) -> bool:
        """Whether it is no more than leaves, which go before a glowing face too."""
        return replace(self, doors_deg=OPEN_DOORS).cuts_nothing


def slides() -> list[str]:
    """The patterns that there are."""
    return [name for name in typical("slides") if name != "origin"]


@dataclass(frozen=True, slots=True, kw_only=True)
class CutBeam:
    """A beam behind all that. ``lens_m``: across the lens; the leaves are as long as that, which is typical.

    Source: of a lens of radius r a leaf that ends e off the axis and z before the lens lets the part within
    (e - z tan(angle)) / r of the middle be seen; of a tube of length L, what two circles L tan(angle) apart share.
    """

    inner: IntensityDistribution
    cut: BeamCut
    lens_m: float

    def intensity_cd(self, gamma_deg: Floats, azimuth_deg: Floats = FIRST_PLANE_DEG) -> Array:
        """Candela; azimuth from the left, upwards."""
        gamma, azimuth = np.broadcast_arrays(np.asarray(gamma_deg, dtype=float), azimuth_deg)
        away = np.tan(np.radians(np.minimum(gamma, 89.9)))
        left, up = away * np.cos(np.radians(azimuth)), away * np.sin(np.radians(azimuth))
        passes = self._past_doors(left, up) * self._through_snoot(away) * self._through_gate(left, up, away)
        return np.asarray(self.inner.intensity_cd(gamma, azimuth) * passes)

    def _past_doors(self, left: Array, up: Array) -> Array:
        top, bottom, to_left, to_right = self.cut.doors_deg
        return between_leaves(top, bottom, up) * between_leaves(to_left, to_right, left)

    def _through_snoot(self, away: Array) -> Array:
        """Source: two circles of radius r, d apart, share 2 (acos(h) - h sqrt(1 - h^2)) / pi of one; h = d / 2r."""
        apart = np.minimum(self.cut.snoot_m * away / self.lens_m, 1.0)
        return np.asarray(2.0 / np.pi * (np.arccos(apart) - apart * np.sqrt(1.0 - np.square(apart))))

    def _through_gate(self, left: Array, up: Array, away: Array) -> Array:
        """Half-scrims, iris, shutters and the slide: edges across the field, all as shares of its radius."""
        field = field_tangent(self.inner)
        x, y, off = left / field, up / field, away / field
        passes = 1.0 - (1.0 - self.cut.half_passes) * _beyond(-y, 0.0, 1.0 / 3.0)
        if self.cut.iris < 1.0:
            passes = passes * _beyond(-off, -self.cut.iris, _BLUR)
        for shutter, along in zip(self.cut.shutters, (y, -y, x, -x), strict=True):
            if shutter > 0.0:
                passes = passes * _beyond(-along, shutter - 1.0, _BLUR)
        return np.asarray(passes * (_slide(self.cut.slide, x, y) if self.cut.slide else 1.0))


def between_leaves(one_deg: float, other_deg: float, along: Array) -> Array:
    """Share of a lens that is seen between two leaves across from each other, by tangents towards the first."""
    one, other = _past_leaf(one_deg, along), _past_leaf(other_deg, -along)
    return np.asarray(np.maximum(one + other - 1.0, 0.0))


def _past_leaf(leaf_deg: float, along: Array) -> Array:
    """In units of the lens's radius: hinged at 1, two long."""
    if leaf_deg >= WIDE_OPEN_DEG:
        return np.ones_like(along)
    opened = np.radians(leaf_deg)
    return _part_of_a_disc(1.0 + 2.0 * np.sin(opened) - 2.0 * np.cos(opened) * along)


@lru_cache(maxsize=256)
def field_tangent(beam: IntensityDistribution) -> float:
    """Of the angle from the axis to a tenth of the peak."""
    candela = np.asarray(beam.intensity_cd(_LOOKED_AT_DEG))
    tenth = 0.1 * candela.max()
    last = np.flatnonzero(candela >= tenth)[-1]
    about = slice(last, last + 2)
    return float(np.tan(np.radians(np.interp(tenth, candela[about][::-1], _LOOKED_AT_DEG[about][::-1]))))


def _part_of_a_disc(reach: Array) -> Array:
    """Of a disc of radius 1, up to a straight edge so far from its middle. Source: the segment of a circle."""
    edge = np.clip(reach, -1.0, 1.0)
    return np.asarray(0.5 + (edge * np.sqrt(1.0 - np.square(edge)) + np.arcsin(edge)) / np.pi)


def _beyond(places: Array, edge: float, blur: float) -> Array:
    """1 beyond an edge, 0 before it, straight over what is blurred."""
    return np.asarray(np.clip((places - edge) / (2.0 * blur) + 0.5, 0.0, 1.0))


def _slide(name: str, x: Array, y: Array) -> Array:
    """Open where one of its rectangles is."""
    passes = np.zeros_like(x)
    for left, right, low, high in typical("slides")[name]:
        across = _beyond(x, left, _BLUR) * _beyond(-x, -right, _BLUR)
        passes = passes + across * _beyond(y, low, _BLUR) * _beyond(-y, -high, _BLUR)
    return np.minimum(passes, 1.0)
