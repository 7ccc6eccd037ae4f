"""What gels and films do to light: stops that are lost, and a shift of its colour."""

from dataclasses import dataclass

from iron_bucket.core.colour.bands import sent_on
from iron_bucket.core.colour.light_colour import LightColour


@dataclass(frozen=True, slots=True, kw_only=True)
class Tinting:
    """``stops`` that are lost, and how far the light is shifted: above 0 warmer, and greener."""

    stops: float = 0.0
    shift_mired: float = 0.0
    duv: float = 0.0

    def of(self, colour: LightColour) -> LightColour:
        """A light behind it."""
        return colour.shifted(self.shift_mired, self.duv)

    def bands(self, glass_mired: float = 0.0, glass_duv: float = 0.0) -> tuple[float, float, float]:
        """What it makes of three bands, on glass that is tinted itself."""
        return sent_on(round(self.shift_mired + glass_mired, 3), round(self.duv + glass_duv, 6))


NOTHING = Tinting()
