"""What is left of a ray after everything that stands in its way."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.modifiers.two_stage import Panel

#: A ray that begins or ends on a panel does not cross it: this share of its length is not looked at on either end.
_ENDS = 1e-6
#: What stands on a wall is on neither side of it.
_ON_PLANE_M = 1e-9


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Blocker:
    """A rectangle and the share of a ray that goes on behind it; what meets one of the ``holes`` in it goes on with the hole's share."""

    panel: Panel
    passes: float
    holes: tuple["Blocker", ...] = ()


def passing(starts_m: Array, ends_m: Array, blockers: Sequence[Blocker]) -> Array:
    """Share of each ray that arrives. Shapes: starts_m (A, 3), ends_m (B, 3); gives (A, B)."""
    share = np.ones((len(starts_m), len(ends_m)))
    for blocker in blockers:
        met = crosses(starts_m, ends_m, blocker.panel)
        if not met.any():
            continue
        passes = np.full(share.shape, blocker.passes) if blocker.holes else blocker.passes
        for hole in blocker.holes:
            passes = np.where(crosses(starts_m, ends_m, hole.panel), hole.passes, passes)
        share *= np.where(met, passes, 1.0)
    return share


def crosses(starts_m: Array, ends_m: Array, panel: Panel) -> np.ndarray:
    """Whether the line from each start to each end goes through the rectangle. Shape (A, B)."""
    normal = panel.normal
    before, behind = (starts_m - panel.centre_m) @ normal, (ends_m - panel.centre_m) @ normal
    if (
        min(before.min(initial=0), behind.min(initial=0)) >= -_ON_PLANE_M
        or max(before.max(initial=0), behind.max(initial=0)) <= _ON_PLANE_M
    ):
        return np.zeros(
            (len(starts_m), len(ends_m)), dtype=bool
        )  # all on one side: most panels of a set are in nobody's way
    along = before[:, None] - behind[None, :]
    share = np.divide(before[:, None], along, out=np.full(along.shape, -1.0), where=np.abs(along) > 1e-12)
    inside = (share > _ENDS) & (share < 1.0 - _ENDS)
    for side, size in ((panel.side_x, panel.width_m), (panel.side_y, panel.height_m)):
        start, end = (starts_m - panel.centre_m) @ side, (ends_m - panel.centre_m) @ side
        inside &= np.abs(start[:, None] + share * (end[None, :] - start[:, None])) <= size / 2.0
    return np.asarray(inside)
