"""What walls, floors and ground send back.

Typical figures: docs/craft.md, section 3, and common tables of the trade.
"""

from dataclasses import dataclass

from iron_bucket.core.checks import require_between, require_share, require_word
from iron_bucket.core.figure import Origin


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
    for name, reflectance, shift in (
        ("white paint", 0.8, 0.0),
        ("cream paint", 0.65, 12.0),
        ("pale grey paint", 0.5, 0.0),
        ("mid grey paint", 0.3, 0.0),
        ("dark paint", 0.12, 0.0),
        ("bare plaster", 0.55, 8.0),
        ("brick", 0.25, 35.0),
        ("concrete", 0.3, 0.0),
        ("light wood", 0.45, 25.0),
        ("dark wood", 0.12, 40.0),
        ("carpet", 0.15, 0.0),
        ("stone floor", 0.25, 5.0),
        ("green leaves", 0.2, 0.0),
        ("black cloth", 0.03, 0.0),
        ("glass", 0.1, 0.0),
        ("grass", 0.2, 0.0),
        ("gravel", 0.25, 5.0),
        ("water", 0.07, 0.0),
        ("snow", 0.8, 0.0),
    )
)
