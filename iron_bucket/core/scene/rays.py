"""The kernel that follows rays past rectangles, by the million."""

import numpy as np
from numba import njit

#: A ray that begins or ends on a panel does not cross it: this share of its length is not looked at on either end.
_ENDS = 1e-9
#: Both ends so near a panel's plane, by the product of their distances from it, that the ray lies in it.
_IN_PLANE_M2 = 1e-18


#: The types of what the kernel takes.
_RAYS_AND_RECTANGLES = (
    "float64[:,::1], float64[:,::1], float64[:,:,::1], float64[:,::1], int64[::1], float64[:,::1], float64[:,::1],"
    "float64[::1], boolean[::1], float64[::1], int64[::1], int64[::1]"
)


# Compiled where it is read, not where it is first called: the server's threads have too little stack for a compiler.
@njit(f"float64[:,::1]({_RAYS_AND_RECTANGLES}, boolean)", cache=True, error_model="numpy")
def shares_of_rays(  # type: ignore[no-untyped-def]  # noqa: PLR0912
    starts_m,
    ends_m,
    frames,
    offsets,
    end_group,
    balls,
    half_m,
    passes,
    is_glass,
    slants,
    first_hole,
    end_hole,
    is_paired,
):
    """What is left of every ray. Shape (A, B); of rays given one by one (A, 1).

    A rectangle is met where the ray's ends lie on both sides of its plane, and the place between them within its
    sides, in the rectangle's own frame. Written out in one piece: kernels that hand arrays on are twenty times as slow.
    """
    columns = 1 if is_paired else len(ends_m)
    shares, may_meet = np.ones((len(starts_m), columns)), np.empty(columns, dtype=np.bool_)
    ends_x, ends_y, ends_z = ends_m[:, 0].copy(), ends_m[:, 1].copy(), ends_m[:, 2].copy()
    within = np.empty((len(half_m), 3))
    for start in range(len(starts_m)):
        start_x, start_y, start_z = starts_m[start, 0], starts_m[start, 1], starts_m[start, 2]
        shift = start if is_paired else 0
        for row in range(len(half_m)):
            for axis in range(3):
                along = frames[row, axis, 0] * start_x + frames[row, axis, 1] * start_y + frames[row, axis, 2] * start_z
                within[row, axis] = along - offsets[row, axis]
        first = 0
        for group in range(len(end_group)):
            # Most of what stands on a set is in nobody's way: told by short loops, which compilers make quick.
            if end_group[group] - first == 1:  # both ends on one side of its plane, or in that but for rounding
                row = first_hole[first] - 1
                way_x, way_y, way_z = frames[row, 0, 0], frames[row, 0, 1], frames[row, 0, 2]
                before, offset = within[row, 0], offsets[row, 0]
                for column in range(columns):
                    end = column + shift
                    behind = way_x * ends_x[end] + way_y * ends_y[end] + way_z * ends_z[end] - offset
                    may_meet[column] = before * behind <= -_IN_PLANE_M2
            else:  # past the ball that holds the group
                ball_x, ball_y, ball_z = balls[group, 0] - start_x, balls[group, 1] - start_y, balls[group, 2] - start_z
                away2 = ball_x * ball_x + ball_y * ball_y + ball_z * ball_z - balls[group, 3]
                for column in range(columns):
                    end = column + shift
                    x, y, z = ends_x[end] - start_x, ends_y[end] - start_y, ends_z[end] - start_z
                    length2 = x * x + y * y + z * z
                    along = x * ball_x + y * ball_y + z * ball_z
                    nearest = min(max(along, 0.0), length2)
                    may_meet[column] = away2 * length2 <= nearest * (2.0 * along - nearest)
            for column in range(columns):
                if not may_meet[column] or not shares[start, column]:
                    continue
                end = column + shift
                x, y, z = ends_x[end] - start_x, ends_y[end] - start_y, ends_z[end] - start_z
                for blocker in range(first, end_group[group]):
                    met, slant = -1, 1.0
                    for row in range(first_hole[blocker] - 1, end_hole[blocker]):
                        before = within[row, 0]
                        through = frames[row, 0, 0] * x + frames[row, 0, 1] * y + frames[row, 0, 2] * z
                        is_met = before * (before + through) <= -_IN_PLANE_M2
                        if is_met:
                            part = -before / through
                            aside = frames[row, 1, 0] * x + frames[row, 1, 1] * y + frames[row, 1, 2] * z
                            up = frames[row, 2, 0] * x + frames[row, 2, 1] * y + frames[row, 2, 2] * z
                            is_met = (
                                _ENDS < part < 1.0 - _ENDS
                                and abs(within[row, 1] + part * aside) <= half_m[row, 0]
                                and abs(within[row, 2] + part * up) <= half_m[row, 1]
                            )
                        if is_met:
                            met, slant = row, abs(through)
                        elif met < 0:  # beside the blocker itself
                            break
                    if met < 0:
                        continue
                    shares[start, column] *= passes[met]
                    if is_glass[met]:
                        cosine = slant / np.sqrt(x * x + y * y + z * z)
                        shares[start, column] *= slants[int(cosine * (len(slants) - 1))]
            first = end_group[group]
    return shares
