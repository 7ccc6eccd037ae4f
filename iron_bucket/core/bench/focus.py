"""A focusing head between the positions that were measured."""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.core.figure import Origin, least_trusted
from iron_bucket.core.photometry.distribution import straight_cd
from iron_bucket.core.photometry.widths import beam_deg
from iron_bucket.core.quantities.rounding import at_most


@dataclass(frozen=True, slots=True, kw_only=True)
class FocusRange:
    """Positions of one lens, narrow to wide. ``origin``: the weakest of them."""

    optic: str
    beams_deg: tuple[float, ...]
    axis_cd: tuple[float, ...]
    offsets_m: tuple[float, ...]
    origin: Origin

    def at_beam(self, wanted_deg: float) -> tuple[float, float]:
        """Candela on the axis and virtual offset at a beam between the end stops.

        Raises: NoAnswer beyond an end stop: nothing is carried on past what the lens does.
        Source: docs/craft.md, section 2: log I against log beam, a straight line between neighbours.
        """
        if wanted_deg <= 0:
            raise BadValue("beam", wanted_deg, "above 0 degrees")
        low, high = self.beams_deg[0], self.beams_deg[-1]
        if not (at_most(low, wanted_deg) and at_most(wanted_deg, high)):
            raise NoAnswer(
                f"the {self.optic or 'lens'} goes from {low:.0f}° to {high:.0f}°; {wanted_deg:g}° lies past its end"
                " stop"
            )
        place = np.log(wanted_deg)
        candela = np.exp(np.interp(place, np.log(self.beams_deg), np.log(self.axis_cd)))
        return float(candela), float(np.interp(place, np.log(self.beams_deg), self.offsets_m))


def focus_ranges(configurations: tuple[Configuration, ...]) -> tuple[FocusRange, ...]:
    """Every lens of a head with two positions or more, by name."""
    lenses: dict[str, list[tuple[float, Configuration]]] = {}
    for each in configurations:
        beam = beam_deg(each.distribution)
        if each.focus is not None and beam is not None:
            lenses.setdefault(each.optic, []).append((beam, each))
    return tuple(_range(optic, lenses[optic]) for optic in sorted(lenses) if len(lenses[optic]) > 1)


def _range(optic: str, positions: list[tuple[float, Configuration]]) -> FocusRange:
    beams, by_beam = zip(*sorted(positions, key=lambda each: each[0]), strict=True)
    return FocusRange(
        optic=optic,
        beams_deg=beams,
        axis_cd=tuple(straight_cd(each.distribution) for each in by_beam),
        offsets_m=tuple(each.offset_m for each in by_beam),
        origin=least_trusted(tuple(each.origin for each in by_beam)),
    )
