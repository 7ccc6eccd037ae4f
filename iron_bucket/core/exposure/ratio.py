"""Contrast ratios, two schools: key to fill, and key plus fill to fill.

Both are always computed; a house rule leads.
"""

import math
from dataclasses import dataclass
from enum import StrEnum

from iron_bucket.core.checks import require_positive


class RatioSchool(StrEnum):
    KEY_TO_FILL = "key to fill"
    SUM_TO_FILL = "key plus fill to fill"


@dataclass(frozen=True, slots=True, kw_only=True)
class ContrastRatio:
    """Key and fill, each metered alone at the subject."""

    key_lx: float
    fill_lx: float

    def __post_init__(self) -> None:
        require_positive("key_lx", self.key_lx, unit="lx")
        require_positive("fill_lx", self.fill_lx, unit="lx")

    def ratio(self, school: RatioSchool) -> float:
        """Brighter over darker side, as that school counts it."""
        lit = self.key_lx + (self.fill_lx if school is RatioSchool.SUM_TO_FILL else 0.0)
        return lit / self.fill_lx

    def stops(self, school: RatioSchool) -> float:
        """The same in stops."""
        return math.log2(self.ratio(school))
