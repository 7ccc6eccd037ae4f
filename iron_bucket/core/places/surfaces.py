"""What walls, floors and ground send back."""

from dataclasses import dataclass

from iron_bucket.core.checks import require_between, require_share, require_word
from iron_bucket.core.figure import Origin
from iron_bucket.core.typical import typical


@dataclass(frozen=True, slots=True, kw_only=True)
class Surface:
    """``shift_mired``: what its tint does to light that it sends back; positive is warmer."""

    name: str
    reflectance: float
    shift_mired: float = 0.0
    origin: Origin = Origin.TYPICAL

    def __post_init__(self) -> None:
        require_word("surface", self.name)
        require_share("reflectance", self.reflectance)
        require_between("shift_mired", self.shift_mired, low=-500.0, high=500.0, unit="mired")


TYPICAL_SURFACES = tuple(
    Surface(name=name, reflectance=reflectance, shift_mired=shift)
    for name, (reflectance, shift) in typical("surfaces").items()
)
