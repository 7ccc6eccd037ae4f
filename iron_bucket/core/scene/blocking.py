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
#: With fewer starts than this it is quicker to look at every ray than to sort out those that may meet a panel.
_WORTH_SORTING = 4


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Blocker:
    """A rectangle and the share of a ray that goes on behind it; what meets one of the ``holes`` in it goes on with the hole's share."""

    panel: Panel
    passes: float
    holes: tuple["Blocker", ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Blockers(Sequence[Blocker]):
    """Blockers laid out side by side, for scenes that ask by the thousand. Shapes: normals (K, 3), offsets (K,): centre times normal."""

    each: tuple[Blocker, ...]
    normals: Array
    offsets: Array

    @classmethod
    def of(cls, blockers: Sequence[Blocker]) -> "Blockers":
        """Laid out once."""
        if isinstance(blockers, Blockers):
            return blockers
        normals = np.array([blocker.panel.normal for blocker in blockers]).reshape(-1, 3)
        centres = np.array([blocker.panel.centre_m for blocker in blockers]).reshape(-1, 3)
        return cls(each=tuple(blockers), normals=normals, offsets=np.einsum("kc,kc->k", normals, centres))

    def __len__(self) -> int:
        return len(self.each)

    def __getitem__(self, at):  # type: ignore[no-untyped-def]
        return self.each[at]

    def straddled(self, starts_m: Array, ends_m: Array) -> list[tuple[Blocker, np.ndarray | None]]:
        """Those that have rays on both sides, because most panels of a set are in nobody's way; and which ends may lie behind each.

        Ends as indices, shape (S,); None where starts stand on both sides, so that any may.
        """
        before = self.normals @ starts_m.T - self.offsets[:, None]
        behind = self.normals @ ends_m.T - self.offsets[:, None]
        low, high = before.min(axis=1), before.max(axis=1)
        is_between = (np.minimum(low, behind.min(axis=1)) < -_ON_PLANE_M) & (
            np.maximum(high, behind.max(axis=1)) > _ON_PLANE_M
        )
        found: list[tuple[Blocker, np.ndarray | None]] = []
        for at in np.flatnonzero(is_between):
            if low[at] >= -_ON_PLANE_M:
                found.append((self.each[at], np.flatnonzero(behind[at] < -_ON_PLANE_M)))
            elif high[at] <= _ON_PLANE_M:
                found.append((self.each[at], np.flatnonzero(behind[at] > _ON_PLANE_M)))
            else:
                found.append((self.each[at], None))
        return found


def passing(starts_m: Array, ends_m: Array, blockers: Sequence[Blocker]) -> Array:
    """Share of each ray that arrives. Shapes: starts_m (A, 3), ends_m (B, 3); gives (A, B)."""
    share = np.ones((len(starts_m), len(ends_m)))
    if not len(starts_m) or not len(ends_m) or not len(blockers):
        return share
    for blocker, behind in Blockers.of(blockers).straddled(starts_m, ends_m):
        some = behind
        if len(starts_m) >= _WORTH_SORTING:
            some = _that_may_meet(starts_m, ends_m, behind, blocker.panel)
        ends = ends_m if some is None else ends_m[some]
        if not len(ends):
            continue
        met = crosses(starts_m, ends, blocker.panel)
        if not met.any():
            continue
        passes = np.full(met.shape, blocker.passes) if blocker.holes else blocker.passes
        for hole in blocker.holes:
            passes = np.where(crosses(starts_m, ends, hole.panel), hole.passes, passes)
        kept = np.where(met, passes, 1.0)
        if some is None:
            share *= kept
        else:
            share[:, some] *= kept
    return share


def _that_may_meet(starts_m: Array, ends_m: Array, some: np.ndarray | None, panel: Panel) -> np.ndarray | None:
    """Of some ends, those in the shadow of the ball round a panel, cast by the ball round the starts. Shape (S,), indices."""
    middle = starts_m.mean(axis=0)
    spread_m = float(np.sqrt(np.square(starts_m - middle).sum(axis=1).max()))
    towards = panel.centre_m - middle
    distance_m = float(np.linalg.norm(towards))
    # Two balls: every line that meets both lies within this angle of the line between their middles.
    sine = (0.5 * float(np.hypot(panel.width_m, panel.height_m)) + spread_m) / max(distance_m, 1e-9)
    if sine > 0.9:
        return some
    rays = (ends_m if some is None else ends_m[some]) - middle
    along = rays @ (towards / distance_m)
    # An end may lie off that cone by as much as the starts do.
    aside = np.sqrt(np.maximum(np.square(rays).sum(axis=1) - along**2, 0.0))
    found = np.flatnonzero(aside - spread_m <= along * (sine / np.sqrt(1.0 - sine**2)) + 1e-9)
    return found if some is None else some[found]


def crosses(starts_m: Array, ends_m: Array, panel: Panel) -> np.ndarray:
    """Whether the line from each start to each end goes through the rectangle. Shape (A, B)."""
    normal = panel.normal
    before, behind = (starts_m - panel.centre_m) @ normal, (ends_m - panel.centre_m) @ normal
    along = before[:, None] - behind[None, :]
    share = np.divide(before[:, None], along, out=np.full(along.shape, -1.0), where=np.abs(along) > 1e-12)
    inside = (share > _ENDS) & (share < 1.0 - _ENDS)
    for side, size in ((panel.side_x, panel.width_m), (panel.side_y, panel.height_m)):
        start, end = (starts_m - panel.centre_m) @ side, (ends_m - panel.centre_m) @ side
        inside &= np.abs(start[:, None] + share * (end[None, :] - start[:, None])) <= size / 2.0
    return np.asarray(inside)
