"""The kernel that follows rays past rectangles, by the million."""

import numpy as np
from numba import njit

#: A ray that begins or ends on a panel does not cross it: this share of its length is not looked at on either end.
_ENDS = 1e-9
#: Both ends so near a panel's plane, by the product of their distances from it, that the ray lies in it.
_IN_PLANE_M2 = 1e-18


@njit(cache=True, error_model="numpy")
def _meets(before, behind, side_x, end_x, side_y, end_y, half_x, half_y):  # type: ignore[no-untyped-def]
    """Whether a line crosses a rectangle, by its two ends in the rectangle's own frame."""
    # Most panels of a set are in nobody's way: both ends on one side, or in the plane but for rounding.
    if before * behind > -_IN_PLANE_M2:
        return False
    share = before / (before - behind)
    return (
        _ENDS < share < 1.0 - _ENDS
        and abs(side_x + share * (end_x - side_x)) <= half_x
        and abs(side_y + share * (end_y - side_y)) <= half_y
    )


@njit(cache=True, error_model="numpy")
def _is_past(away2, along, length2):  # type: ignore[no-untyped-def]
    """Whether a ray passes a ball by: its start's squared distance from the ball's middle less the squared radius, the
    product of the ray and the way to that middle, and the ray's squared length.
    """
    nearest = min(max(along, 0.0), length2)
    return away2 * length2 > nearest * (2.0 * along - nearest)


@njit(cache=True, error_model="numpy")
def _cosine(off, x, y):  # type: ignore[no-untyped-def]
    """Of a ray to the normal of a panel, by its parts along that and along the sides."""
    return abs(off) / np.sqrt(off * off + x * x + y * y)


#: The types of what the kernel takes.
_RAYS_AND_RECTANGLES = (
    "float64[:,::1], float64[:,::1], float64[:,:,::1], float64[:,:,::1], int64[::1], float64[:,::1], float64[:,::1],"
    "float64[::1], boolean[::1], float64[::1], int64[::1], int64[::1]"
)


# Compiled where it is read, not where it is first called: the server's threads have too little stack for a compiler.
@njit(f"float64[:,::1]({_RAYS_AND_RECTANGLES}, boolean)", cache=True, error_model="numpy")
def shares_of_rays(  # type: ignore[no-untyped-def]
    starts_m, ends_m, starts, ends, end_group, balls, half_m, passes, is_glass, slants, first_hole, end_hole, is_paired
):
    """What is left of every ray. Shape (A, B); of rays given one by one (A, 1).

    Written out in one piece: kernels that hand arrays on are twenty times as slow.
    """
    shares = np.ones((len(starts_m), 1 if is_paired else len(ends_m)))
    for start in range(len(starts_m)):
        first = 0
        for group in range(len(end_group)):
            is_one = end_group[group] - first == 1
            ball_x, ball_y = balls[group, 0] - starts_m[start, 0], balls[group, 1] - starts_m[start, 1]
            ball_z = balls[group, 2] - starts_m[start, 2]
            away2 = ball_x * ball_x + ball_y * ball_y + ball_z * ball_z - balls[group, 3]
            for column in range(shares.shape[1]):
                end = start if is_paired else column
                share = shares[start, column]
                if not share:
                    continue
                if not is_one:  # past the ball that holds the group?
                    x, y = ends_m[end, 0] - starts_m[start, 0], ends_m[end, 1] - starts_m[start, 1]
                    z = ends_m[end, 2] - starts_m[start, 2]
                    if _is_past(away2, x * ball_x + y * ball_y + z * ball_z, x * x + y * y + z * z):
                        continue
                for blocker in range(first, end_group[group]):
                    met = -1
                    for row in range(first_hole[blocker] - 1, end_hole[blocker]):
                        if _meets(
                            starts[row, 0, start],
                            ends[row, 0, end],
                            starts[row, 1, start],
                            ends[row, 1, end],
                            starts[row, 2, start],
                            ends[row, 2, end],
                            half_m[row, 0],
                            half_m[row, 1],
                        ):
                            met = row
                        elif met < 0:  # beside the blocker itself
                            break
                    if met < 0:
                        continue
                    share *= passes[met]
                    if is_glass[met]:
                        x, y = starts[met, 1, start] - ends[met, 1, end], starts[met, 2, start] - ends[met, 2, end]
                        cosine = _cosine(starts[met, 0, start] - ends[met, 0, end], x, y)
                        share *= slants[int(cosine * (len(slants) - 1))]
                shares[start, column] = share
            first = end_group[group]
    return shares
