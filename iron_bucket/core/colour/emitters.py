"""What a head of several coloured emitters can make: the most light of a wanted colour, and what lies beyond it."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
import shapely.ops
from scipy.optimize import linprog

from iron_bucket.core.arrays import Array
from iron_bucket.core.checks import require_not_negative
from iron_bucket.core.colour.gel_stacks import off_mired
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.seen import seen_against
from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.core.figure import Origin
from iron_bucket.core.typical import typical

#: Rounding of a linear programme.
_HAIR = 1e-7


@dataclass(frozen=True, slots=True, kw_only=True)
class Emitter:
    """One colour of diode: its light, and its lumens at full as a share of all together."""

    name: str
    colour: LightColour
    share: float

    def __post_init__(self) -> None:
        require_not_negative("share", self.share, unit="")


@dataclass(frozen=True, slots=True, kw_only=True)
class Mixture:
    """How hard each emitter is driven for a colour, 1 full, and the light of all of them together over that of all at
    full.
    """

    drives: tuple[float, ...]
    share: float

    def lowest_level(self, lowest: float) -> float:
        """How far it can be dimmed until its faintest emitter is below the ``lowest`` that it can be driven at, and the
        colour turns.
        """
        faintest = min((each for each in self.drives if each > _HAIR), default=1.0)
        return min(lowest / faintest, 1.0)


def typical_emitters() -> tuple[Emitter, ...]:
    """Those of a head that nobody measured."""
    return tuple(
        Emitter(name=name, colour=LightColour.of_xy(x, y, Origin.TYPICAL), share=share)
        for name, (x, y, share) in typical("emitters").items()
    )


def mixture_for(emitters: Sequence[Emitter], wanted: LightColour) -> Mixture:
    """The brightest. Raises: NoAnswer for a colour out of reach, with the nearest and how far off that is; BadValue
    without emitters.

    Source: maximise the sum of Y w over 0 <= w <= 1 with X and Z as the wanted chromaticity has them.
    """
    if not emitters:
        raise BadValue("emitters", "none", "one at least")
    lumens = np.array([each.share for each in emitters])
    xyz = np.array([each.colour.xyz for each in emitters]) * lumens[:, None]
    x, _, z = wanted.xyz
    rows = np.array([xyz[:, 0] - x * xyz[:, 1], xyz[:, 2] - z * xyz[:, 1]])
    found = linprog(-xyz[:, 1], A_eq=rows, b_eq=[0.0, 0.0], bounds=[(0.0, 1.0)] * len(emitters))
    if not found.success or -found.fun <= _HAIR:
        near = nearest(emitters, wanted)
        raise NoAnswer(_beyond(wanted, near))
    return Mixture(drives=tuple(found.x.tolist()), share=float(-found.fun / lumens.sum()))


def nearest(emitters: Sequence[Emitter], wanted: LightColour) -> LightColour:
    """The colour within reach that lies nearest in CIE 1960 u, v; the wanted one where that is."""
    reach = reachable(emitters)
    point = shapely.Point(wanted.u, wanted.v)
    if reach.covers(point):
        return wanted
    on_edge = shapely.ops.nearest_points(reach, point)[0]
    inside = np.array([on_edge.x, on_edge.y])
    middle = np.array([reach.centroid.x, reach.centroid.y])
    return LightColour.of(inside + 1e-4 * (middle - inside), wanted.origin)


def reachable(emitters: Sequence[Emitter]) -> shapely.Geometry:
    """All colours that they mix to, in CIE 1960 u, v: what lies between them."""
    return shapely.convex_hull(shapely.MultiPoint(np.array([each.colour.uv for each in emitters])))


def _beyond(wanted: LightColour, near: LightColour) -> str:
    seen = seen_against(near, wanted)
    far = off_mired(seen.mired, seen.duv)
    off = "" if math.isnan(far) else f", {far:.0f} mired off"
    (x, y), (near_x, near_y) = wanted.xy, near.xy
    return (
        f"x {x:.3f}, y {y:.3f} lies beyond what this head reaches; the nearest is x {near_x:.3f}, y {near_y:.3f}{off}"
    )


def in_whites(emitters: Sequence[Emitter], whites: Array) -> Array:
    """The share of all light that is left at some whites in kelvins. Shapes (N,) to (N,)."""
    return np.array([mixture_for(emitters, LightColour.of_cct(float(each))).share for each in whites])
