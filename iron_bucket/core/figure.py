"""A figure and where it comes from: measured, claimed, or typical."""

from dataclasses import dataclass
from enum import StrEnum


class Origin(StrEnum):
    """Who says so. The order is the order of trust."""

    MEASURED = "measured"  # a meter, on this configuration
    CLAIMED = "claimed"  # the maker's sheet or file
    TYPICAL = "typical"  # a house default of the trade


TRUST = (Origin.MEASURED, Origin.CLAIMED, Origin.TYPICAL)


def least_trusted(origins: tuple[Origin, ...]) -> Origin:
    """The origin that a result inherits from several inputs: the weakest of them."""
    return max(origins, key=TRUST.index)


@dataclass(frozen=True, slots=True, kw_only=True)
class Figure:
    """A number that a screen may show, with its origin."""

    value: float
    origin: Origin
