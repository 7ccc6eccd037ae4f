"""What a meter found that a modifier does on one class of head."""

from dataclasses import dataclass

from iron_bucket.core.bench.head import HeadClass
from iron_bucket.core.checks import require_between, require_positive
from iron_bucket.core.errors import BadValue

#: Typical: what one full plus green adds to Duv. Tints of makers differ by a fifth either way.
FULL_GREEN_DUV = 0.02


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasuredPass:
    """``passes`` takes the place of the modifier's own figure: transmittance, efficiency of a box, cells on the axis,
    or reflectance.

    ``spread_stops``: standard deviation over the ``count`` readings, None for one. Shifts are None where nobody read a
    colour;
    ``beam_deg`` and ``spread`` (that beam over the one the chain computes) where nobody read beside the axis.
    """

    modifier_slug: str
    head_class: HeadClass
    passes: float
    count: int
    spread_stops: float | None = None
    shift_mired: float | None = None
    duv_shift: float | None = None
    beam_deg: float | None = None
    spread: float | None = None

    def __post_init__(self) -> None:
        require_positive("passes", self.passes, unit="")
        if self.count < 1:
            raise BadValue("count", self.count, "1 reading or more")
        if self.spread is not None:
            require_positive("spread", self.spread, unit="")
        if self.shift_mired is not None:
            require_between("shift_mired", self.shift_mired, low=-500.0, high=500.0, unit="mired")

    @property
    def tint(self) -> float | None:
        """The Duv shift in full plus greens."""
        return None if self.duv_shift is None else self.duv_shift / FULL_GREEN_DUV
