"""The kinds of modifier.

Every optical figure carries its origin; ``typical`` ones come from the docs/craft.md, section 3.
"""

from dataclasses import dataclass
from enum import StrEnum

from iron_bucket.core.bench.item import MOST_OWNED, Item
from iron_bucket.core.checks import require_between, require_positive, require_share
from iron_bucket.core.colour.transmission import Transmission
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Figure, Origin
from iron_bucket.core.modifiers.scatter import Scatter, typical_scatter
from iron_bucket.core.quantities.rounding import whole_up


class SheetKind(StrEnum):
    """What a sheet on the head is for."""

    COLOUR = "colour gel"
    TINT = "tint gel"
    ND = "ND"
    SCRIM = "scrim"
    NET = "net"
    DIFFUSION = "diffusion gel"

    @property
    def is_colour(self) -> bool:
        """Whether it is there for the colour it makes."""
        return self in (SheetKind.COLOUR, SheetKind.TINT)

    @property
    def only_dims(self) -> bool:
        """ND, scrims and nets take light away and nothing else."""
        return self in (SheetKind.ND, SheetKind.SCRIM, SheetKind.NET)


class ScrimSchool(StrEnum):
    """What a single and a double are held to take, where nobody has measured the set."""

    HALF_AND_ONE = "half and one stop"
    ONE_AND_TWO = "one and two stops"

    def transmittance(self, layers: int) -> float:
        """Of a single (1) or a double (2)."""
        stops = layers / 2.0 if self is ScrimSchool.HALF_AND_ONE else float(layers)
        return float(2.0**-stops)


def _require_passes(value: float) -> None:
    if not 0.0 < value <= 1.0:
        raise BadValue("transmittance", value, "a share above 0, up to 1")


@dataclass(frozen=True, slots=True, kw_only=True)
class Optic(Item):
    """A reflector or lens; what it does to the beam belongs to the configuration that wears it."""

    fitting: str


class GelCondition(StrEnum):
    """Of an offcut."""

    GOOD = "good"
    CREASED = "creased"
    FADED = "faded"


@dataclass(frozen=True, slots=True, kw_only=True)
class Offcut:
    """What was left of a sheet or roll."""

    width_m: float
    length_m: float
    condition: GelCondition = GelCondition.GOOD

    def __post_init__(self) -> None:
        require_between("width_m", self.width_m, low=0.05, high=20.0, unit="m")
        require_between("length_m", self.length_m, low=0.05, high=100.0, unit="m")


@dataclass(frozen=True, slots=True, kw_only=True)
class Sheet(Item):
    """Something thin on the head.

    ``layers``: 1 single, 2 double, for scrims and nets; transmittance None: the house school's. ``straight_share`` and
    ``lobe_deg`` of a diffusion sheet: what is only dimmed, and the half width of the rest; None: typical.
    ``stock_w_m`` and ``stock_l_m``: of the sheet or roll that pieces are cut from, 0: it is used as it is. ``offcuts``:
    of ours. ``curve``: what it passes by wavelength, where anybody took that; its other figures follow from it then.
    """

    kind: SheetKind
    transmittance: Figure | None
    shift_mired: float = 0.0
    tint: float = 0.0
    layers: int = 0
    ring_mm: float = 0.0
    straight_share: float | None = None
    lobe_deg: float | None = None
    stock_w_m: float = 0.0
    stock_l_m: float = 0.0
    offcuts: tuple[Offcut, ...] = ()
    is_heat_rated: bool = False
    curve: Transmission | None = None

    def __post_init__(self) -> None:
        Item.__post_init__(self)
        for side in ("stock_w_m", "stock_l_m"):
            require_between(side, getattr(self, side), low=0.0, high=100.0, unit="m")
        if self.transmittance is not None:
            _require_passes(self.transmittance.value)
        elif self.layers not in (1, 2):
            raise BadValue("layers", self.layers, "1 (single) or 2 (double) where no transmittance is measured")
        require_between("shift_mired", self.shift_mired, low=-500.0, high=500.0, unit="mired")
        if (self.straight_share is None) != (self.lobe_deg is None):
            raise BadValue("straight_share", "only one of two", "both straight share and scatter width, or neither")
        if self.straight_share is not None and self.kind is not SheetKind.DIFFUSION:
            raise BadValue("straight_share", self.straight_share, "nothing there, unless it is a diffusion gel")
        _ = self.scatter

    @property
    def scatter(self) -> Scatter | None:
        """What a diffusion sheet does to a beam, as stated or typical; None of all others."""
        if self.kind is not SheetKind.DIFFUSION or self.transmittance is None:
            return None
        if self.straight_share is None or self.lobe_deg is None:
            return typical_scatter(self.transmittance.value)
        return Scatter(straight_share=self.straight_share, lobe_deg=self.lobe_deg)

    def passes(self, school: ScrimSchool) -> Figure:
        """The transmittance to compute with: measured or stated, else the house school's."""
        return self.transmittance or Figure(value=school.transmittance(self.layers), origin=Origin.TYPICAL)


class FaceForm(StrEnum):
    """The shape of a box."""

    RECTANGLE = "rectangle"
    DISC = "disc"
    LANTERN = "lantern"


@dataclass(frozen=True, slots=True, kw_only=True)
class Face(Item):
    """A softbox, octagon, dome or lantern.

    ``efficiency`` is docs/craft.md's eta; ``hottest_w``: the hot lamp it bears, 0 none.
    """

    fitting: str
    form: FaceForm
    width_m: float
    height_m: float
    efficiency: Figure
    shift_mired: float = 0.0
    hottest_w: float = 0.0

    def __post_init__(self) -> None:
        Item.__post_init__(self)
        require_positive("width_m", self.width_m, unit="m")
        require_positive("height_m", self.height_m, unit="m")
        if not 0.0 < self.efficiency.value <= 1.0:
            raise BadValue("efficiency", self.efficiency.value, "a share above 0, up to 1")


@dataclass(frozen=True, slots=True, kw_only=True)
class Grid(Item):
    """A honeycomb or fabric grid.

    ``cutoff_deg``: the full angle beyond which nothing passes. ``face_slug``: the box it goes on.
    """

    fitting: str
    cutoff_deg: float
    on_axis: Figure
    face_slug: str = ""

    def __post_init__(self) -> None:
        Item.__post_init__(self)
        require_between("cutoff_deg", self.cutoff_deg, low=2.0, high=170.0, unit="degrees")
        require_share("on_axis", self.on_axis.value)


@dataclass(frozen=True, slots=True, kw_only=True)
class Frame(Item):
    """An empty frame that cloths are tied to. ``tube_m``: it is put together from tubes so long, 0: it is one piece."""

    width_m: float
    height_m: float
    tube_m: float = 0.0

    def __post_init__(self) -> None:
        Item.__post_init__(self)
        require_positive("width_m", self.width_m, unit="m")
        require_positive("height_m", self.height_m, unit="m")
        require_between("tube_m", self.tube_m, low=0.0, high=6.0, unit="m")

    @property
    def tubes(self) -> int:
        """How many it is put together from; 0 where it is one piece."""
        if not self.tube_m:
            return 0
        return 2 * sum(whole_up(side / self.tube_m) for side in (self.width_m, self.height_m))


#: Of what falls on a cloth, typical.
_CLOTH_KEEPS = 0.05
#: Cloths whose areas differ by less are of one size.
_SAME_M2 = 0.01


@dataclass(frozen=True, slots=True, kw_only=True)
class ClothSize:
    """So many of a cloth are sewn for a frame of this size."""

    width_m: float
    height_m: float
    owned: int

    def __post_init__(self) -> None:
        require_between("width_m", self.width_m, low=0.1, high=20.0, unit="m")
        require_between("height_m", self.height_m, low=0.1, high=20.0, unit="m")
        require_between("owned", self.owned, low=0, high=MOST_OWNED, unit="pieces")


@dataclass(frozen=True, slots=True, kw_only=True)
class Cloth(Item):
    """A cloth for frames. ``straight_share`` of what passes goes straight on, the rest scatters. Weight and price per
    m2. ``sizes``: of those that are ours, where they are known by size.

    ``lobe_deg``: half width of the scattering; 90 is Lambertian, light frosts are narrower.
    """

    transmittance: Figure
    straight_share: float = 0.0
    lobe_deg: float = 90.0
    shift_mired: float = 0.0
    widest_m: float = 6.0
    sizes: tuple[ClothSize, ...] = ()

    def __post_init__(self) -> None:
        Item.__post_init__(self)
        _require_passes(self.transmittance.value)
        require_share("straight_share", self.straight_share)
        require_between("lobe_deg", self.lobe_deg, low=3.0, high=90.0, unit="degrees")

    def back_reflectance(self, passes: float | None = None) -> float:
        """Of what falls on it, sent back from the lit side, matt; ``passes``: by a meter. Source: docs/craft.md,
        section 3, typical.
        """
        return max(1.0 - (self.transmittance.value if passes is None else passes) - _CLOTH_KEEPS, 0.0)

    def owned_of(self, area_m2: float) -> int:
        """How many of ours are of that area; all of them where nobody has said which sizes they are."""
        if not self.sizes:
            return self.owned
        return sum(each.owned for each in self.sizes if abs(each.width_m * each.height_m - area_m2) < _SAME_M2)

    def fits(self, frame: Frame) -> bool:
        """Whether it is sold that large."""
        return max(frame.width_m, frame.height_m) <= self.widest_m


@dataclass(frozen=True, slots=True, kw_only=True)
class Board(Item):
    """A bounce. ``lobe_deg``: half width of its reflection; 90 is matt (Lambertian)."""

    width_m: float
    height_m: float
    reflectance: Figure
    lobe_deg: float = 90.0
    shift_mired: float = 0.0

    def __post_init__(self) -> None:
        Item.__post_init__(self)
        require_positive("width_m", self.width_m, unit="m")
        require_positive("height_m", self.height_m, unit="m")
        require_share("reflectance", self.reflectance.value)
        require_between("lobe_deg", self.lobe_deg, low=3.0, high=90.0, unit="degrees")
