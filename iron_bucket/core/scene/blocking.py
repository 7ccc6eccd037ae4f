"""What is left of a ray after everything that stands in its way."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numba import njit

from iron_bucket.core.arrays import Array
from iron_bucket.core.daylight.glass import SLANT_SHARES
from iron_bucket.core.modifiers.two_stage import Panel

#: A ray that begins or ends on a panel does not cross it: this share of its length is not looked at on either end.
_ENDS = 1e-9
#: Both ends so near a panel's plane, by the product of their distances from it, that the ray lies in it.
_IN_PLANE_M2 = 1e-18


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Blocker:
    """A rectangle and the share of a ray that goes on behind it; what meets one of the ``holes`` in it goes on with
    the hole's share. ``is_glass``: panes, which pass the less the more slantwise a ray comes.
    """

    panel: Panel
    passes: float
    holes: tuple["Blocker", ...] = ()
    is_glass: bool = False


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Blockers(Sequence[Blocker]):
    """Blockers laid out side by side, each with its holes right behind it, for scenes that ask by the thousand.

    Shapes, with K rectangles: frames (K, 3, 3) normal and two sides of each; offsets (K, 3): their products with its
    centre; half_m (K, 2); passes and is_glass (K,); first_hole
    and end_hole (N,) with N blockers: where the holes of each lie, the blocker itself standing just before.
    """

    each: tuple[Blocker, ...]
    frames: Array
    offsets: Array
    half_m: Array
    passes: Array
    is_glass: np.ndarray
    first_hole: np.ndarray
    end_hole: np.ndarray

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
        return cls(
            each=tuple(blockers),
            frames=frames,
            offsets=np.einsum("kfc,kc->kf", frames, centres),
            half_m=np.array([(panel.width_m, panel.height_m) for panel in panels]).reshape(-1, 2) / 2.0,
            passes=np.array([row.passes for row in rows], dtype=float),
            is_glass=np.array([row.is_glass for row in rows], dtype=bool),
            first_hole=ends - np.array([len(blocker.holes) for blocker in blockers], dtype=np.int64),
            end_hole=ends,
        )

    def __len__(self) -> int:
        return len(self.each)

    def __getitem__(self, at):  # type: ignore[no-untyped-def]
        return self.each[at]

    def within(self, points_m: Array) -> Array:
        """Points in the frame of every rectangle: off its plane, along its sides. Shapes (P, 3) to (P, K, 3)."""
        turned = points_m @ self.frames.reshape(-1, 3).T - self.offsets.ravel()
        return np.asarray(turned.reshape(len(points_m), len(self.passes), 3))

    @property
    def _rectangles(self) -> tuple[Array, Array, np.ndarray, Array, np.ndarray, np.ndarray]:
        return self.half_m, self.passes, self.is_glass, SLANT_SHARES, self.first_hole, self.end_hole

    def shares_each(self, starts: Array, ends: Array) -> Array:
        """The same of rays given one by one. Shapes (A, K, 3) twice; gives (A,)."""
        return np.asarray(_shares_each(starts, ends, *self._rectangles))

    def shares(self, starts: Array, ends: Array) -> Array:
        """What arrives, of rays whose starts and ends are in the frames already.

        Shapes (A, K, 3), (B, K, 3) to (A, B).
        """
        return np.asarray(_shares(starts, ends, *self._rectangles))


def passing(starts_m: Array, ends_m: Array, blockers: Sequence[Blocker]) -> Array:
    """Share of each ray that arrives. Shapes: starts_m (A, 3), ends_m (B, 3); gives (A, B)."""
    if not len(blockers):
        return np.ones((len(starts_m), len(ends_m)))
    laid = Blockers.of(blockers)
    return laid.shares(laid.within(starts_m), laid.within(ends_m))


def passing_each(starts_m: Array, ends_m: Array, blockers: Sequence[Blocker]) -> Array:
    """Share of each ray that arrives, of rays given one by one. Shapes: both (..., 3); gives (...)."""
    if not len(blockers):
        return np.ones(starts_m.shape[:-1])
    laid = Blockers.of(blockers)
    starts, ends = (laid.within(np.ascontiguousarray(each).reshape(-1, 3)) for each in (starts_m, ends_m))
    return laid.shares_each(starts, ends).reshape(starts_m.shape[:-1])


def crosses(starts_m: Array, ends_m: Array, panel: Panel) -> np.ndarray:
    """Whether the line from each start to each end goes through the rectangle. Shape (A, B)."""
    return np.asarray(passing(starts_m, ends_m, (Blocker(panel=panel, passes=0.0),)) == 0.0)


@njit("boolean(float64[::1], float64[::1], float64[::1])", cache=True, error_model="numpy", inline="always")
def _meets(start, end, half_m):  # type: ignore[no-untyped-def]
    """Whether a line crosses a rectangle, both its ends in the rectangle's own frame."""
    before, behind = start[0], end[0]
    # Most panels of a set are in nobody's way: both ends on one side, or in the plane but for rounding.
    if before * behind > -_IN_PLANE_M2:
        return False
    share = before / (before - behind)
    return (
        _ENDS < share < 1.0 - _ENDS
        and abs(start[1] + share * (end[1] - start[1])) <= half_m[0]
        and abs(start[2] + share * (end[2] - start[2])) <= half_m[1]
    )


#: The types of what the kernels take.
_RAYS_AND_RECTANGLES = (
    "float64[:,:,::1], float64[:,:,::1], float64[:,::1], float64[::1], boolean[::1], float64[::1], int64[::1],"
    "int64[::1]"
)


@njit(cache=True, error_model="numpy", inline="always")
def _share(start, end, half_m, passes, is_glass, slant_shares, first_hole, end_hole):  # type: ignore[no-untyped-def]
    """What is left of one ray, its ends in the frames of all rectangles."""
    share = 1.0
    for blocker in range(len(first_hole)):
        own = first_hole[blocker] - 1
        if not _meets(start[own], end[own], half_m[own]):
            continue
        met = own
        for hole in range(first_hole[blocker], end_hole[blocker]):
            if _meets(start[hole], end[hole], half_m[hole]):
                met = hole
        share *= passes[met]
        if not share:
            break
        if is_glass[met]:
            far = 0.0
            for axis in range(3):
                far += (start[met, axis] - end[met, axis]) ** 2
            cosine = abs(start[met, 0] - end[met, 0]) / np.sqrt(far)
            share *= slant_shares[int(cosine * (len(slant_shares) - 1) + 0.5)]
    return share


# Compiled where it is read, not where it is first called: the server's threads have too little stack for a compiler.
@njit(f"float64[:,::1]({_RAYS_AND_RECTANGLES})", cache=True, error_model="numpy")
def _shares(starts, ends, half_m, passes, is_glass, slant_shares, first_hole, end_hole):  # type: ignore[no-untyped-def]
    """What is left of every ray. Shape (A, B)."""
    shares = np.empty((len(starts), len(ends)))
    for start in range(len(starts)):
        for end in range(len(ends)):
            shares[start, end] = _share(
                starts[start], ends[end], half_m, passes, is_glass, slant_shares, first_hole, end_hole
            )
    return shares


@njit(f"float64[::1]({_RAYS_AND_RECTANGLES})", cache=True, error_model="numpy")
def _shares_each(starts, ends, half_m, passes, is_glass, slant_shares, first_hole, end_hole):  # type: ignore[no-untyped-def]
    """What is left of rays given one by one. Shape (A,)."""
    shares = np.empty(len(starts))
    for ray in range(len(starts)):
        shares[ray] = _share(starts[ray], ends[ray], half_m, passes, is_glass, slant_shares, first_hole, end_hole)
    return shares
