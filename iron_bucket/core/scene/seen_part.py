"""The part of a glowing face that is seen past flags and frames, or in a mirror, exactly: its outline is cut by the
shadows of what stands before it.
"""

import numpy as np
from numba import njit

from iron_bucket.core.arrays import Array
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.photometry.contour import above_horizon, figure_form_factor
from iron_bucket.core.scene.blocking import Blocker, Blockers

#: Room for the parts of one face, and for the corners of each; what needs more is looked at piece by piece.
_MOST_PARTS, _MOST_CORNERS = 64, 200
_FOUND_TOO_MANY = -1.0


def seen_form_factor(
    outline_m: Array, position_m: Array, normal: Array, blockers: Blockers, *, is_dome: bool = False
) -> float | None:
    """Form factor of a convex face as far as it is seen, parts behind a cloth by what goes straight through it.

    None where so much stands in the way that its parts are too many. Shapes: outline_m (N, 3) counter-clockwise from
    where it is seen; position_m and normal (3,).
    Source: T = product of (1 + (passes - 1) [in the shadow]), multiplied out; a shadow from a point is convex.
    """
    found = _seen(outline_m, position_m, normal, is_dome, *_laid(blockers))
    return None if found == _FOUND_TOO_MANY else float(found)


def through_window_form_factor(
    outline_m: Array, position_m: Array, normal: Array, window: Panel, *, is_dome: bool = False
) -> float:
    """Form factor of the part of a face that is seen through a rectangle, and of nothing beside it."""
    laid = _laid(Blockers.of((Blocker(panel=window, passes=0.0),)))
    return float(_through(outline_m, position_m, normal, is_dome, *laid))


def _laid(blockers: Blockers) -> tuple[Array, Array, Array, Array, np.ndarray, np.ndarray]:
    return (blockers.frames, blockers.offsets, blockers.half_m, blockers.passes, blockers.first_hole, blockers.end_hole)


@njit(cache=True, error_model="numpy")
def _cut(figure, count, heights, kept):  # type: ignore[no-untyped-def]
    """The part of a figure where the heights are above 0. The heights of its corners stand for a plane."""
    return above_horizon(figure, heights, count, kept)


@njit(cache=True, error_model="numpy")
def _shadowed(figure, count, position, frame, offset, half_m, shadow, spare):  # type: ignore[no-untyped-def]
    """The part of a figure that a rectangle hides from a place: beyond its plane and within the four planes through the
    place and its edges.
    """
    own = np.empty_like(position)
    for axis in range(3):
        own[axis] = frame[axis, 0] * position[0] + frame[axis, 1] * position[1] + frame[axis, 2] * position[2]
        own[axis] -= offset[axis]
    if own[0] == 0.0:
        return 0
    side = 1.0 if own[0] > 0.0 else -1.0
    spare[:count] = figure[:count]
    heights = np.empty(_MOST_CORNERS)
    for plane in range(5):
        for corner in range(count):
            across = np.empty_like(position)
            for axis in range(3):
                across[axis] = -offset[axis]
                for part in range(3):
                    across[axis] += frame[axis, part] * spare[corner, part]
            if plane == 0:
                heights[corner] = -across[0] * side
            else:
                axis = 1 if plane < 3 else 2
                turn = 1.0 if plane % 2 else -1.0
                past = turn * (own[0] * across[axis] - own[axis] * across[0])
                heights[corner] = side * (half_m[axis - 1] * (own[0] - across[0]) + past)
        count = _cut(spare, count, heights, shadow)
        if count < 3 or count > _MOST_CORNERS - 6:
            return 0
        spare[:count] = shadow[:count]
    return count


@njit(cache=True, error_model="numpy")
def _form_factor(figure, count, position, normal, is_dome, rays, cut):  # type: ignore[no-untyped-def]
    """Of one figure from one place."""
    heights = np.empty(_MOST_CORNERS)
    for corner in range(count):
        heights[corner] = 0.0
        for axis in range(3):
            rays[corner, axis] = figure[corner, axis] - position[axis]
            heights[corner] += rays[corner, axis] * normal[axis]
    return figure_form_factor(rays, heights, count, normal, is_dome, cut)


@njit(
    "float64(float64[:,::1], float64[::1], float64[::1], boolean, float64[:,:,::1], float64[:,::1], float64[:,::1],"
    "float64[::1], int64[::1], int64[::1])",
    cache=True,
    error_model="numpy",
)
def _seen(outline, position, normal, is_dome, frames, offsets, half_m, passes, first_hole, end_hole):  # type: ignore[no-untyped-def]
    """Parts with their weights: each blocker adds to every part its shadow on it, weighed with what it takes away."""
    figures, counts = np.empty((_MOST_PARTS, _MOST_CORNERS, 3)), np.zeros(_MOST_PARTS, dtype=np.int64)
    weights = np.zeros(_MOST_PARTS)
    shadow, spare = np.empty((_MOST_CORNERS, 3)), np.empty((_MOST_CORNERS, 3))
    figures[0, : len(outline)] = outline
    counts[0], weights[0], parts = len(outline), 1.0, 1
    for blocker in range(len(first_hole)):
        own = first_hole[blocker] - 1
        for part in range(parts):
            if not weights[part]:
                continue
            if parts + 2 + end_hole[blocker] - first_hole[blocker] > _MOST_PARTS:
                return _FOUND_TOO_MANY
            for row in range(own, end_hole[blocker]):
                change = passes[row] - (1.0 if row == own else passes[own])
                count = _shadowed(
                    figures[part], counts[part], position, frames[row], offsets[row], half_m[row], shadow, spare
                )
                if not count:
                    if row == own:
                        break
                    continue
                figures[parts, :count] = shadow[:count]
                counts[parts], weights[parts] = count, weights[part] * change
                parts += 1
    total = 0.0
    for part in range(parts):
        if weights[part]:
            total += weights[part] * _form_factor(figures[part], counts[part], position, normal, is_dome, shadow, spare)
    return max(total, 0.0)


@njit(
    "float64(float64[:,::1], float64[::1], float64[::1], boolean, float64[:,:,::1], float64[:,::1], float64[:,::1],"
    "float64[::1], int64[::1], int64[::1])",
    cache=True,
    error_model="numpy",
)
def _through(outline, position, normal, is_dome, frames, offsets, half_m, passes, first_hole, end_hole):  # type: ignore[no-untyped-def]
    """The part in the shadow of the first rectangle alone."""
    shadow, spare = np.empty((_MOST_CORNERS, 3)), np.empty((_MOST_CORNERS, 3))
    count = _shadowed(outline, len(outline), position, frames[0], offsets[0], half_m[0], shadow, spare)
    if not count:
        return 0.0
    figure = shadow.copy()
    return _form_factor(figure, count, position, normal, is_dome, shadow, spare)
