"""Why a candidate is passed over: the reasons, in the order in which they are asked, and each one's unit."""

from dataclasses import dataclass
from enum import IntEnum


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


KINDS: dict[Reason, ReasonKind] = {
    Reason.TECHNOLOGY: ReasonKind(code="other_technology", title="another technology", near=1.0),
    Reason.NOT_OURS: ReasonKind(code="not_ours", title="not ours", near=1.0),
    Reason.NOISE: ReasonKind(code="too_loud", title="too loud", near=3.0),
    Reason.SUPPLY: ReasonKind(code="wrong_supply", title="cannot be fed from there", near=1.0),
    Reason.HEAT: ReasonKind(code="not_heat_rated", title="box not rated for that heat", near=100.0),
    Reason.HEIGHT: ReasonKind(code="no_headroom", title="no room under the ceiling", near=0.2),
    Reason.HARD: ReasonKind(code="too_hard", title="too hard", near=3.0),
    Reason.NARROW: ReasonKind(code="too_narrow", title="does not cover the width", near=0.3),
    Reason.WEAK: ReasonKind(code="too_weak", title="too weak", near=0.33),
    Reason.HOT: ReasonKind(code="too_hot", title="too hot at its lowest", near=0.33),
    Reason.COLOUR: ReasonKind(code="wrong_colour", title="wrong colour", near=10.0),
    Reason.CIRCUIT: ReasonKind(code="over_circuit", title="over the circuit", near=1.0),
    Reason.BATTERY_CURRENT: ReasonKind(code="over_battery", title="more than the battery delivers", near=2.0),
    Reason.DARK: ReasonKind(code="dark_too_soon", title="dark too soon", near=0.5),
    Reason.WEIGHT: ReasonKind(code="too_heavy", title="too heavy", near=2.0),
    Reason.PRICE: ReasonKind(code="too_dear", title="too dear", near=10.0),
}
