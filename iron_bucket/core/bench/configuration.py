"""A configuration: a head with one optic at one focus. Configurations own readings, so they own the distribution."""

import math
from dataclasses import dataclass
from enum import StrEnum

from iron_bucket.core.bench.head import Head
from iron_bucket.core.bench.item import Item
from iron_bucket.core.checks import require_positive, require_share
from iron_bucket.core.figure import Origin
from iron_bucket.core.photometry.distribution import CosinePower, IntensityDistribution


class FaceShape(StrEnum):
    DISC = "disc"
    RECTANGLE = "rectangle"


@dataclass(frozen=True, slots=True, kw_only=True)
class EmittingFace:
    """What the subject sees glowing. A disc has its diameter in both sides."""

    shape: FaceShape
    width_m: float
    height_m: float

    def __post_init__(self) -> None:
        require_positive("width_m", self.width_m, unit="m")
        require_positive("height_m", self.height_m, unit="m")

    @property
    def longest_side_m(self) -> float:
        """The side by which near and far are told apart."""
        return max(self.width_m, self.height_m)


@dataclass(frozen=True, slots=True, kw_only=True)
class Configuration(Item):
    """``weight_kg`` and ``day_price`` are those of the optic alone; the head has its own.

    ``offset_m``: virtual source behind the housing, of lenses and reflectors. ``is_lambertian``: the face glows evenly,
    so that the area laws hold nearby. ``takes_box``: the head's fitting is still free. ``optic`` and ``focus`` (0
    spot, 1 flood) tell the
    positions of one focusing lens from each other. ``told_at_k``: the setting its figures were taken at, 0: daylight.
    """

    head_slug: str
    distribution: IntensityDistribution
    lumens: float
    face: EmittingFace
    origin: Origin
    offset_m: float = 0.0
    is_lambertian: bool = False
    takes_box: bool = False
    optic: str = ""
    focus: float | None = None
    told_at_k: float = 0.0

    def __post_init__(self) -> None:
        Item.__post_init__(self)
        require_positive("lumens", self.lumens, unit="lm")
        if self.focus is not None:
            require_share("focus", self.focus)


def bare_configuration(head: Head) -> Configuration:
    """What a head is taken for until somebody says or measures more: a small face that shines like a Lambertian one.
    Typical.

    Source: I0 = Phi / pi of a flat Lambertian face.
    """
    return Configuration(
        slug=f"{head.slug}.bare",
        name="bare",
        maker=head.maker,
        weight_kg=0.01,
        owned=head.owned,
        head_slug=head.slug,
        distribution=CosinePower(peak_cd=head.lumens.value / math.pi, exponent=1.0),
        lumens=head.lumens.value,
        face=EmittingFace(shape=FaceShape.DISC, width_m=0.1, height_m=0.1),
        origin=Origin.TYPICAL,
        takes_box=bool(head.fitting),
    )
