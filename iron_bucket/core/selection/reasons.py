"""Why a candidate is passed over: the reasons, in the order in which they are asked, and each one's unit."""

from dataclasses import dataclass
from enum import IntEnum

from iron_bucket.core.typical import typical


class Reason(IntEnum):
    """The first that applies is the one named. Those before WEAK depend on head and front alone."""

    FITS = 0
    TECHNOLOGY = 1
    NOT_OURS = 2
    NOISE = 3
    SUPPLY = 4
    HEAT = 5
    HEIGHT = 6
    HARD = 7
    NARROW = 8
    WEAK = 9
    HOT = 10
    COLOUR = 11
    CIRCUIT = 12
    BATTERY_CURRENT = 13
    DARK = 14
    WEIGHT = 15
    PRICE = 16


PAIR_REASONS = tuple(reason for reason in Reason if Reason.FITS < reason < Reason.WEAK)


@dataclass(frozen=True, slots=True, kw_only=True)
class ReasonKind:
    """``code`` in files, ``title`` on screens, ``near``: the miss that counts as one step when misses are compared."""

    code: str
    title: str
    near: float


KINDS = {Reason[name]: ReasonKind(**row) for name, row in typical("misses").items()}
