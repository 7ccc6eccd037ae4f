"""When a breaker that is overloaded opens: between its earliest and its latest second (typical)."""

import math
from dataclasses import dataclass
from enum import StrEnum

from iron_bucket.core.checks import require_not_negative, require_positive
from iron_bucket.core.quantities import display
from iron_bucket.core.typical import typical


class BreakerCurve(StrEnum):
    """How much a breaker bears for a moment: B in most houses, C where motors and drivers start."""

    B = "B"
    C = "C"
    D = "D"


@dataclass(frozen=True, slots=True, kw_only=True)
class Trip:
    """Seconds until a breaker opens, at the earliest and the latest; the latter infinite where it need not open."""

    earliest_s: float
    latest_s: float

    @property
    def is_instant(self) -> bool:
        """Whether it opens at once, whatever else."""
        return self.latest_s <= float(typical("breaker_curves")["instant_s"])

    @property
    def words(self) -> str:
        """When it opens, for a sentence."""
        if self.is_instant:
            return "at once"
        if math.isinf(self.latest_s):
            return f"after {display.wait(self.earliest_s)} or not at all"
        return f"after {display.wait(self.earliest_s)} to {display.wait(self.latest_s)}"


def trip(amps: float, breaker_a: float, curve: BreakerCurve = BreakerCurve.B) -> Trip | None:
    """What a steady current does; None where it holds for good.

    Between the standard's points the times are taken on a straight line in the logarithms of current and time.
    Source: IEC 60898-1, table 7.
    """
    require_not_negative("amps", amps, unit="A")
    require_positive("breaker_a", breaker_a, unit="A")
    table = typical("breaker_curves")
    times, warm, magnetic = amps / breaker_a, table["warm"], table[curve]
    if times <= table["holds_to"]:
        return None
    hour_s, instant_s = float(table["opens_by_s"]), float(table["instant_s"])
    earliest = instant_s if times >= magnetic["may"] else _between(times, table["holds_to"], hour_s, warm, "earliest_s")
    if times >= magnetic["must"]:
        return Trip(earliest_s=earliest, latest_s=instant_s)
    latest = math.inf if times < table["opens_by"] else _between(times, table["opens_by"], hour_s, warm, "latest_s")
    return Trip(earliest_s=earliest, latest_s=latest)


def _between(times: float, first: float, first_s: float, warm: dict[str, float], key: str) -> float:
    """Between the conventional current and the point of the warm test; beyond that as there."""
    if times >= warm["from"]:
        return warm[key]
    share = math.log(times / first) / math.log(warm["from"] / first)
    return float(first_s * (warm[key] / first_s) ** share)
