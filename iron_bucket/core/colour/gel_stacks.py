"""Gels one behind the other, and which of them bring a light nearest to a colour for the least light lost."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import combinations, combinations_with_replacement

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.checks import require_between, require_not_negative
from iron_bucket.core.colour.tint import duv_from_tint
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities.rounding import at_most
from iron_bucket.core.typical import typical

#: So much Duv is as far off as one mired: half a hardly seen step of either. Source: of the house.
DUV_A_MIRED = 2e-4
#: More sheets behind each other burn, sag and cost too much light.
MOST_SHEETS = 3
#: Two shifts that point so far apart, by the cosine between them, take each other back.
_AGAINST = -0.7


@dataclass(frozen=True, slots=True, kw_only=True)
class Gel:
    """One colour or tint gel. ``shift_mired``: above 0 warmer; ``duv``: above 0 greener."""

    name: str
    transmittance: float
    shift_mired: float
    duv: float = 0.0
    slug: str = ""

    def __post_init__(self) -> None:
        if not 0.0 < self.transmittance <= 1.0:
            raise BadValue("transmittance", self.transmittance, "a share above 0, up to 1")


def typical_gels() -> tuple[Gel, ...]:
    """Those of the trade."""
    return tuple(
        Gel(name=name, transmittance=passes, shift_mired=shift, duv=float(duv_from_tint(tint)))
        for name, (passes, shift, tint) in typical("gels").items()
    )


@dataclass(frozen=True, kw_only=True, eq=False)
class GelStacks:
    """Every stack of up to so many of some gels, the empty one first. ``members``: places of the gels, shape (S, most),
    -1 for none.
    """

    gels: tuple[Gel, ...]
    members: np.ndarray = field(repr=False)

    @classmethod
    def of(cls, gels: Sequence[Gel], most: int = 2) -> "GelStacks":
        """Raises: BadValue for more sheets than a lamp bears."""
        require_between("sheets", most, low=0, high=MOST_SHEETS, unit="sheets")
        rows = [(-1,) * most]
        for count in range(1, most + 1):
            for chosen in combinations_with_replacement(range(len(gels)), count):
                rows.append((*chosen, *(-1,) * (most - count)))
        return cls(gels=tuple(gels), members=np.array(rows, dtype=int).reshape(len(rows), most))

    def _summed(self, values: Sequence[float]) -> Array:
        with_none = np.append(np.array(values, dtype=float), 0.0)
        return np.asarray(with_none[self.members].sum(axis=1))

    @cached_property
    def shift_mired(self) -> Array:
        """Shape (S,). Source: gels add their mireds."""
        return self._summed([gel.shift_mired for gel in self.gels])

    @cached_property
    def duv(self) -> Array:
        """Shape (S,)."""
        return self._summed([gel.duv for gel in self.gels])

    @cached_property
    def loss_stops(self) -> Array:
        """Shape (S,)."""
        return self._summed([-math.log2(gel.transmittance) for gel in self.gels])

    @cached_property
    def sheets(self) -> np.ndarray:
        """How many are in each. Shape (S,)."""
        return np.asarray((self.members >= 0).sum(axis=1))

    def gels_of(self, stack: int) -> tuple[Gel, ...]:
        """The gels of one of them."""
        return tuple(self.gels[at] for at in self.members[stack].tolist() if at >= 0)


@dataclass(frozen=True, slots=True, kw_only=True)
class GelStack:
    """``shift_mired`` and ``duv`` it makes; ``residual_mired`` and ``residual_duv`` that are left of what was wanted,
    above 0 too warm and too green.
    """

    gels: tuple[Gel, ...]
    shift_mired: float
    residual_mired: float
    residual_duv: float
    loss_stops: float

    @property
    def off(self) -> float:
        """How far off it is, in mired."""
        return off_mired(self.residual_mired, self.residual_duv)

    @property
    def works_against_itself(self) -> bool:
        """Whether one sheet takes back most of what another does, as blue on orange: light for nothing."""
        shifts = [complex(gel.shift_mired, gel.duv / DUV_A_MIRED) for gel in self.gels]
        return any(
            (one * other.conjugate()).real < _AGAINST * abs(one) * abs(other) for one, other in combinations(shifts, 2)
        )


def off_mired(mired: float, duv: float) -> float:
    """Warmth and tint as one distance, in mired."""
    return math.hypot(mired, duv / DUV_A_MIRED)


def ranked(
    stacks: GelStacks, wanted_mired: float, duv: float, *, tolerance_mired: float, most: int = 10
) -> tuple[GelStack, ...]:
    """For a light that has to be shifted so far and is ``duv`` off in tint. Those within the tolerance come first, by
    the light they lose and the sheets they take; then those that come nearest.
    """
    require_not_negative("tolerance", tolerance_mired, unit="mired")
    left_mired, left_duv = stacks.shift_mired - wanted_mired, stacks.duv + duv
    off = np.hypot(left_mired, left_duv / DUV_A_MIRED)
    is_off = ~at_most(off, tolerance_mired)
    order = np.lexsort((off, stacks.sheets, np.round(np.where(is_off, off, stacks.loss_stops), 4), is_off))
    return tuple(
        GelStack(
            gels=stacks.gels_of(at),
            shift_mired=float(stacks.shift_mired[at]),
            residual_mired=float(left_mired[at]),
            residual_duv=float(left_duv[at]),
            loss_stops=float(stacks.loss_stops[at]),
        )
        for at in order[:most].tolist()
    )
