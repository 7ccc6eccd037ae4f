"""Which fronts a need allows: "through a 1.8 m frame", "no bounce"."""

import math
from dataclasses import dataclass

from iron_bucket.core.checks import require_between
from iron_bucket.core.errors import BadValue
from iron_bucket.core.selection.fronts import Front, FrontKind

#: A frame of six feet is one of 1.8 m.
_ALIKE = 1.05


@dataclass(frozen=True, slots=True, kw_only=True)
class FrontWish:
    """``kinds``: those that may stand before the head; ``size_m``: the longer side of what does, within a twentieth."""

    kinds: tuple[FrontKind, ...]
    size_m: float | None = None

    def __post_init__(self) -> None:
        if not self.kinds:
            raise BadValue("front", "no kind at all", "any of " + ", ".join(FrontKind))
        if self.size_m is not None:
            require_between("size_m", self.size_m, low=0.1, high=20.0, unit="m")

    def allows(self, front: Front) -> bool:
        """Whether a front is one of them. What has no size of its own is none of a named size."""
        if front.kind not in self.kinds:
            return False
        if self.size_m is None:
            return True
        flat = front.frame or front.board or front.face
        return flat is not None and abs(math.log(max(flat.width_m, flat.height_m) / self.size_m)) <= math.log(_ALIKE)
