"""Which leads of the stock reach from a source to a load, and what they bear and take."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache
from itertools import product

from iron_bucket.core.checks import require_not_negative, require_positive
from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.power.cable import CableRun
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.rounding import at_most
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.typical import typical

#: What the lamps of a country plug into at home.
HOUSE_PLUG = "house"
#: More joints in one run than this nobody makes.
_MOST_JOINED = 6


class Laid(StrEnum):
    """How a lead lies: what it may carry follows from that."""

    FREE = "free"
    BUNDLED = "bundled"
    HOT = "hot"
    COILED = "coiled"


class Verdict(StrEnum):
    """Of the volts that are lost: docs/craft.md, section 6."""

    FINE = "fine"
    WARN = "warn"
    REFUSE = "refuse"


@dataclass(frozen=True, slots=True, kw_only=True)
class StockLead:
    """``count`` leads of one length and cross-section."""

    length_m: float
    area_mm2: float
    count: int

    def __post_init__(self) -> None:
        require_positive("length_m", self.length_m, unit="m")
        require_positive("area_mm2", self.area_mm2, unit="mm2")


@dataclass(frozen=True, slots=True, kw_only=True)
class LeadChoice:
    """``lengths_m`` of one cross-section, joined, the longest first; ``bears_a`` as they lie."""

    area_mm2: float
    lengths_m: tuple[float, ...]
    bears_a: float
    run: CableRun

    @property
    def verdict(self) -> Verdict:
        """Whether so many volts may be lost on the way."""
        table = typical("leads")
        if self.run.drop_share > table["most_drop"]:
            return Verdict.REFUSE
        return Verdict.WARN if self.run.drop_share > table["warn_drop"] else Verdict.FINE


def ampacity_a(area_mm2: float, laid: Laid = Laid.FREE) -> float:
    """Amps that a lead bears (typical): as the next thinner one of the table where its own is not in it."""
    rows: Mapping[str, float] = typical("leads")["ampacity_a"]
    known = [(float(area), amps) for area, amps in rows.items() if at_most(float(area), area_mm2)]
    return max(known)[1] * float(typical("leads")["laid"][laid]) if known else 0.0


def lead_for(
    way_m: float,
    amps: float,
    voltage_v: float,
    stock: tuple[StockLead, ...],
    laid: Laid = Laid.FREE,
    units: UnitSystem = UnitSystem.METRIC,
) -> LeadChoice:
    """The fewest leads that reach, of the thinnest kind that bears the amps and loses few enough volts; of as many the
    shortest.

    Raises: NoAnswer where none does, with the figure that ruled the last one out.
    """
    require_not_negative("way_m", way_m, unit="m")
    require_not_negative("amps", amps, unit="A")
    why = "no lead is in stock"
    for area_mm2 in sorted({each.area_mm2 for each in stock}):
        bears_a = ampacity_a(area_mm2, laid)
        if bears_a < amps:
            why = f"{area_mm2:g} mm² bears {bears_a:.0f} A {laid}, {amps:.1f} A are drawn"
            continue
        lengths = _joined(way_m, tuple(each for each in stock if each.area_mm2 == area_mm2))
        if lengths is None:
            why = f"the leads of {area_mm2:g} mm² do not reach {display.length(way_m, units)}"
            continue
        run = CableRun(voltage_v=voltage_v, current_a=amps, length_m=sum(lengths), area_mm2=area_mm2)
        found = LeadChoice(area_mm2=area_mm2, lengths_m=lengths, bears_a=bears_a, run=run)
        if found.verdict is not Verdict.REFUSE:
            return found
        long = display.length(sum(lengths), units)
        why = f"{long} of {area_mm2:g} mm² lose {display.share(run.drop_share)} of the volts"
    raise NoAnswer(f"No lead does: {why}.")


def _joined(way_m: float, leads: tuple[StockLead, ...]) -> tuple[float, ...] | None:
    """The fewest that reach, and of those the shortest together; None where all do not reach."""
    return next((lengths for _, together_m, lengths in _ways_to_join(leads) if at_most(way_m, together_m)), None)


@lru_cache(256)
def _ways_to_join(leads: tuple[StockLead, ...]) -> list[tuple[int, float, tuple[float, ...]]]:
    """How many, how long together, and which: every way to join some of them, in that order."""
    found = []
    for counts in product(*(range(min(each.count, _MOST_JOINED) + 1) for each in leads)):
        lengths = [each.length_m for n, each in zip(counts, leads, strict=True) for _ in range(n)]
        if 1 <= len(lengths) <= _MOST_JOINED:
            found.append((len(lengths), sum(lengths), tuple(sorted(lengths, reverse=True))))
    return sorted(found)
