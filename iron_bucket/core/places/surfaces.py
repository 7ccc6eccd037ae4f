"""What walls, floors and ground send back."""

from dataclasses import dataclass

from iron_bucket.core.checks import require_between, require_share, require_word
from iron_bucket.core.colour.bands import sent_on
from iron_bucket.core.figure import Origin
from iron_bucket.core.typical import typical

#: No wall is greener, or more magenta.
MOST_DUV = 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class Surface:
    """``shift_mired`` and ``duv``: what its tint does to light that it sends back; above 0 is warmer, and greener."""

    name: str
    reflectance: float
    shift_mired: float = 0.0
    duv: float = 0.0
    origin: Origin = Origin.TYPICAL

    def __post_init__(self) -> None:
        require_word("surface", self.name)
        require_share("reflectance", self.reflectance)
        require_between("shift_mired", self.shift_mired, low=-500.0, high=500.0, unit="mired")
        require_between("duv", self.duv, low=-MOST_DUV, high=MOST_DUV, unit="")

    @property
    def is_tinted(self) -> bool:
        """Whether it leaves light another colour."""
        return bool(self.shift_mired or self.duv)

    @property
    def tint(self) -> tuple[float, float, float]:
        """What it makes of three bands of light, over its reflectance."""
        return sent_on(self.shift_mired, self.duv)


TYPICAL_SURFACES = tuple(
    Surface(name=name, **dict(zip(("reflectance", "shift_mired", "duv"), row, strict=False)))
    for name, row in typical("surfaces").items()
)
