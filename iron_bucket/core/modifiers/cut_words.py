"""What cuts a beam, in the words that are called across a set."""

from iron_bucket.core.modifiers.beam_cut import WIDE_OPEN_DEG, BeamCut
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem

_SIDES = ("top", "bottom", "left", "right")


def cut_words(cut: BeamCut, units: UnitSystem) -> list[str]:
    """One text for each thing; none where nothing cuts."""
    leaves = zip(_SIDES, cut.doors_deg, strict=True)
    doors = ", ".join(f"{side} {leaf:g}°" for side, leaf in leaves if leaf < WIDE_OPEN_DEG)
    pushed = zip(_SIDES, cut.shutters, strict=True)
    shutters = ", ".join(f"{side} {display.share(share)}" for side, share in pushed if share)
    said = (
        f"barn doors {doors}" if doors else "",
        f"snoot {display.length(cut.snoot_m, units)}" if cut.snoot_m else "",
        f"half-scrims pass {display.share(cut.half_passes)} below" if cut.half_passes < 1.0 else "",
        f"iris {display.share(cut.iris)}" if cut.iris < 1.0 else "",
        f"shutters {shutters}" if shutters else "",
        f"slide “{cut.slide}”" if cut.slide else "",
    )
    return [each for each in said if each]
