"""The kernel that finds names their places: tried by the thousand at every change of a plan."""

import numpy as np
from numba import njit

#: So much is kept free between names.
_APART_PX = 2.0
#: Where along a line to a name it is looked for other names.
_ALONG = np.linspace(0.2, 0.95, 6)
#: A place so far over the sheet's edge is as bad as one on so much of something else.
_PX2_A_PX_OUTSIDE = 10.0


# Compiled where it is read: the server's threads have too little stack for a compiler.
@njit(
    "Tuple((int64[::1], boolean[::1]))(float64[:,:,::1], float64[:,::1], float64[:,::1], float64[:,::1], int64)",
    cache=True,
    error_model="numpy",
)
def places_for(places, outside, taken, signs, beside):  # type: ignore[no-untyped-def]  # noqa: PLR0912
    """Which of its places each name has, and whether that is clear of everything. Shapes (N,), (N,).

    Shapes: places (N, K, 4) boxes, the likeliest first, of which the first ``beside`` need no line to the sign;
    outside (N, K); taken (M, 4); signs (N, 2). Of places that need a line, the one whose line crosses fewest names.
    """
    count, choices = outside.shape
    chosen, is_clear = np.zeros(count, dtype=np.int64), np.zeros(count, dtype=np.bool_)
    boxes = np.empty((len(taken) + count, 4))
    boxes[: len(taken)] = taken
    for name in range(count):
        standing = len(taken) + name
        least_crossed, least_shared = np.inf, np.inf
        for at in range(choices):
            if is_clear[name] and at >= beside and least_crossed == 0.0:
                break
            left, top = places[name, at, 0] - _APART_PX, places[name, at, 1] - _APART_PX
            right, bottom = places[name, at, 2] + _APART_PX, places[name, at, 3] + _APART_PX
            shared = _PX2_A_PX_OUTSIDE * outside[name, at]
            for box in range(standing):
                across = min(right, boxes[box, 2]) - max(left, boxes[box, 0])
                if across > 0.0:
                    down = min(bottom, boxes[box, 3]) - max(top, boxes[box, 1])
                    if down > 0.0:
                        shared += across * down
                        if is_clear[name]:  # a free one is at hand already
                            break
            if shared > 0.0:
                if not is_clear[name] and shared < least_shared:
                    least_shared, chosen[name] = shared, at
                continue
            if at < beside:
                chosen[name], is_clear[name] = at, True
                break
            end_x = min(max(signs[name, 0], places[name, at, 0]), places[name, at, 2])
            end_y = min(max(signs[name, 1], places[name, at, 1]), places[name, at, 3])
            crossed = 0.0
            for box in range(len(taken), standing):
                for share in _ALONG:
                    x = signs[name, 0] + share * (end_x - signs[name, 0])
                    y = signs[name, 1] + share * (end_y - signs[name, 1])
                    if boxes[box, 0] < x < boxes[box, 2] and boxes[box, 1] < y < boxes[box, 3]:
                        crossed += 1.0
                        break
            if not is_clear[name] or crossed < least_crossed:
                chosen[name], is_clear[name], least_crossed = at, True, crossed
        boxes[standing] = places[name, chosen[name]]
    return chosen, is_clear
