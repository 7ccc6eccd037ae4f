"""What is left of a ray after everything that stands in its way."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.daylight.glass import SLANT_SHARES
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.scene.rays import shares_of_rays

#: Neighbours in the list that fit into a ball of this radius, such as the sides of one person, are looked at together.
_GROUP_M = 1.0
#: Of what leaves light its colour.
NO_TINT = (1.0, 1.0, 1.0)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Blocker:
    """A rectangle and the share of a ray that goes on behind it; what meets one of the ``holes`` in it goes on with
    the hole's share. ``is_glass``: panes, which pass the less the more slantwise a ray comes. ``tint``: what it makes
    of three bands of light, over what it makes of all of it.
    """

    panel: Panel
    passes: float
    holes: tuple["Blocker", ...] = ()
    is_glass: bool = False
    tint: tuple[float, float, float] = NO_TINT

    @property
    def tinting(self) -> tuple["Blocker", ...]:
        """Those of itself and its holes behind which light has another colour."""
        return tuple(each for each in (self, *self.holes) if each.passes and each.tint != NO_TINT)

    def in_band(self, band: int) -> "Blocker":
        """As it stands in the way of one band."""
        holes = tuple(hole.in_band(band) for hole in self.holes)
        return replace(self, passes=min(self.passes * self.tint[band], 1.0), holes=holes, tint=NO_TINT)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Blockers(Sequence[Blocker]):
    """Blockers laid out side by side, each with its holes right behind it, for scenes that ask by the thousand.

    Shapes, with K rectangles: frames (K, 3, 3) normal and two sides of each; offsets (K, 3): their products with its
    centre; half_m (K, 2); passes and is_glass (K,); first_hole and end_hole (N,) with N blockers: where the holes of
    each lie, the blocker itself standing just before; end_group (G,): the blockers of each group end there; balls
    (G, 4): middle and squared radius of what holds a group, 0 where it is one blocker.
    """

    each: tuple[Blocker, ...]
    frames: Array
    offsets: Array
    half_m: Array
    passes: Array
    is_glass: np.ndarray
    first_hole: np.ndarray
    end_hole: np.ndarray
    end_group: np.ndarray
    balls: Array

    @classmethod
    def of(cls, blockers: Sequence[Blocker]) -> "Blockers":
        """Laid out once."""
        if isinstance(blockers, Blockers):
            return blockers
        rows = [row for blocker in blockers for row in (blocker, *blocker.holes)]
        panels = [row.panel for row in rows]
        frames = np.array([(panel.normal, panel.side_x, panel.side_y) for panel in panels]).reshape(-1, 3, 3)
        centres = np.array([panel.centre_m for panel in panels]).reshape(-1, 3)
        ends = np.cumsum([1 + len(blocker.holes) for blocker in blockers], dtype=np.int64)
        end_group, balls = _groups(blockers)
        return cls(
            each=tuple(blockers),
            frames=frames,
            offsets=np.einsum("kfc,kc->kf", frames, centres),
            half_m=np.array([(panel.width_m, panel.height_m) for panel in panels]).reshape(-1, 2) / 2.0,
            passes=np.array([row.passes for row in rows], dtype=float),
            is_glass=np.array([row.is_glass for row in rows], dtype=bool),
            first_hole=ends - np.array([len(blocker.holes) for blocker in blockers], dtype=np.int64),
            end_hole=ends,
            end_group=end_group,
            balls=balls,
        )

    def __len__(self) -> int:
        return len(self.each)

    def __getitem__(self, at):  # type: ignore[no-untyped-def]
        return self.each[at]

    def shares(self, starts_m: Array, ends_m: Array, *, are_paired: bool = False) -> Array:
        """What arrives, of rays from each start (A, 3) to each end (B, 3), as (A, B); or of A rays given one by one,
        as (A, 1).
        """
        ends, groups = (np.ascontiguousarray(starts_m), np.ascontiguousarray(ends_m)), (self.end_group, self.balls)
        kinds = (self.half_m, self.passes, self.is_glass, SLANT_SHARES, self.first_hole, self.end_hole)
        return np.asarray(shares_of_rays(*ends, self.frames, self.offsets, *groups, *kinds, are_paired))


def _groups(blockers: Sequence[Blocker]) -> tuple[np.ndarray, Array]:
    """Neighbours that a small ball holds: where each group ends, and its ball."""
    panels = [each.panel for each in blockers]
    reach = np.array([abs(each.width_m * each.side_x) + abs(each.height_m * each.side_y) for each in panels]) / 2.0
    centres = np.array([each.centre_m for each in panels])
    ends: list[int] = []
    balls: list[Array] = []
    low = high = np.zeros(3)
    for at, blocker in enumerate(blockers):
        own = centres[at] - reach[at], centres[at] + reach[at]
        low, high = np.minimum(low, own[0]), np.maximum(high, own[1])
        radius2 = np.square(high - low).sum() / 4.0
        if ends and radius2 <= _GROUP_M**2 and not blocker.holes and not blockers[at - 1].holes:
            ends[-1], balls[-1] = at + 1, np.append((low + high) / 2.0, radius2)
        else:
            low, high = own
            ends.append(at + 1)
            balls.append(np.zeros(4))
    return np.array(ends, dtype=np.int64), np.array(balls).reshape(-1, 4)


def passing(starts_m: Array, ends_m: Array, blockers: Sequence[Blocker]) -> Array:
    """Share of each ray that arrives. Shapes: starts_m (A, 3), ends_m (B, 3); gives (A, B)."""
    if not len(blockers):
        return np.ones((len(starts_m), len(ends_m)))
    return Blockers.of(blockers).shares(starts_m, ends_m)


def passing_each(starts_m: Array, ends_m: Array, blockers: Sequence[Blocker]) -> Array:
    """Share of each ray that arrives, of rays given one by one. Shapes: both (..., 3); gives (...)."""
    if not len(blockers):
        return np.ones(starts_m.shape[:-1])
    starts, ends = (np.reshape(each, (-1, 3)) for each in (starts_m, ends_m))
    return Blockers.of(blockers).shares(starts, ends, are_paired=True).reshape(starts_m.shape[:-1])


def crosses(starts_m: Array, ends_m: Array, panel: Panel) -> np.ndarray:
    """Whether the line from each start to each end goes through the rectangle. Shape (A, B)."""
    return np.asarray(passing(starts_m, ends_m, (Blocker(panel=panel, passes=0.0),)) == 0.0)
