"""Why a candidate is passed over: the reasons, in the order in which they are asked, and each one's unit."""

from dataclasses import dataclass
from enum import IntEnum

from iron_bucket.core.typical import typical


class Reason(IntEnum):
    """The first that applies is the one named. Those before WEAK depend on head and front alone."""

    FITS = 0
    TECHNOLOGY = 1
    FRONT = 2
    NOT_OURS = 3
    NOISE = 4
    SUPPLY = 5
    HEAT = 6
    HEIGHT = 7
    HARD = 8
    NARROW = 9
    WEAK = 10
    HOT = 11
    COLOUR = 12
    CIRCUIT = 13
    BATTERY_CURRENT = 14
    DARK = 15
    WEIGHT = 16
    PRICE = 17
    TINT = 18


PAIR_REASONS = tuple(reason for reason in Reason if Reason.FITS < reason < Reason.WEAK)


@dataclass(frozen=True, slots=True, kw_only=True)
class ReasonKind:
    """``code`` in files, ``title`` on screens, ``near``: the miss that counts as one step when misses are compared."""

    code: str
    title: str
    near: float


KINDS = {Reason[name]: ReasonKind(**row) for name, row in typical("misses").items()}
