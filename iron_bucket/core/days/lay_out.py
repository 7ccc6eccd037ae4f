"""A day laid out shot by shot, and what it costs: compiled, because orders are tried by the ten thousand."""

import numpy as np
from numba import njit

#: What is told of each shot, by its place in the order.
RIG, SHOOT, STRIKE, END, MISSED, WAITED, LATE, MOVED, IS_MOVE, BREAK, HELD_UP = range(11)
_TOLD = 11
#: Of a shot that is not pinned.
NONE = -1
#: Later than any day: when a day without a curfew has to end, and light that nobody asks for.
NEVER = 10**9
_SHOTS = "int64[:,::1], int64[:,:,::1], float64[:,::1], int64[:,::1], int64[::1], float64[::1]"


@njit("int64(int64, int64, int64[:,::1])", cache=True, error_model="numpy")
def missed_min(start, minutes, held):  # type: ignore[no-untyped-def]
    """Minutes of a shoot without its light."""
    missed = minutes
    for at in range(len(held)):
        missed -= max(min(start + minutes, held[at, 1]) - max(start, held[at, 0]), 0)
    return missed


@njit("int64(int64, int64, int64[:,::1])", cache=True, error_model="numpy")
def best_start(earliest, minutes, held):  # type: ignore[no-untyped-def]
    """The first start from then on that misses least: now, as a span begins, or so that the shoot ends with it."""
    best, least = earliest, missed_min(earliest, minutes, held)
    for at in range(len(held)):
        for start in (held[at, 0], held[at, 1] - minutes):
            if start > earliest:
                missed = missed_min(start, minutes, held)
                if missed < least or (missed == least and start < best):
                    best, least = start, missed
    return best


@njit(f"int64[:,::1](int64[::1], {_SHOTS})", cache=True, error_model="numpy")
def lay_out(order, shots, held, pieces, gaps, rules, weights):  # type: ignore[no-untyped-def]
    """Each shot waits for its light where waiting counts less than the light it gains. Shapes: order (N,); shots (N, 6)
    place, rig, shoot, strike, pin, and what of its rig is done while the one before is shot; held (N, S, 2); pieces
    and gaps, minutes from the cut of one to the shoot of the next at least, (N + 1, N); rules begin, end, curfew, move,
    turn round, break after, break; weights overtime, missed, waited, late, move, piece. Gives (N, 11), as named above.
    """
    told = np.zeros((len(order), _TOLD), dtype=np.int64)
    now, rested, before = rules[0], rules[0], len(shots)
    for row in range(len(order)):
        at = order[row]
        rig, shoot, strike, pin = shots[at, 1], shots[at, 2], shots[at, 3], shots[at, 4]
        if row:
            told[row, IS_MOVE] = shots[before, 0] != shots[at, 0]
            now += rules[3] if told[row, IS_MOVE] else rules[4]
            if now + rig + shoot - rested > rules[5]:
                told[row, BREAK] = rules[6]
                now += rules[6]
                rested = now
        earliest = now + rig
        if row:
            cut = told[row - 1, STRIKE]
            earliest = max(earliest - shots[at, 5], cut)
            told[row, HELD_UP] = max(cut + gaps[before, at] - earliest, 0)
            earliest += told[row, HELD_UP]
        start = earliest
        if pin >= 0:
            start = max(earliest, pin)
            told[row, LATE] = start - pin
            told[row, WAITED] = start - earliest
        else:
            later = best_start(earliest, shoot, held[at])
            gained = missed_min(earliest, shoot, held[at]) - missed_min(later, shoot, held[at])
            if gained * weights[1] > (later - earliest) * weights[2]:
                start = later
            told[row, WAITED] = start - earliest
        told[row, RIG], told[row, SHOOT], told[row, STRIKE] = start - rig, start, start + shoot
        told[row, END] = start + shoot + strike
        told[row, MISSED] = missed_min(start, shoot, held[at])
        told[row, LATE] += min(max(start + shoot - rules[2], 0), shoot)
        told[row, MOVED] = pieces[before, at]
        now, before = told[row, END], at
    return told


@njit("float64(int64[:,::1], int64, float64[::1])", cache=True, error_model="numpy")
def weighed(told, ends, weights):  # type: ignore[no-untyped-def]
    """What it costs."""
    total, last = 0.0, ends
    for row in range(len(told)):
        last = max(last, told[row, END])
        total += told[row, MISSED] * weights[1] + told[row, WAITED] * weights[2] + told[row, LATE] * weights[3]
        total += told[row, IS_MOVE] * weights[4] + told[row, MOVED] * weights[5]
    return total + (last - ends) * weights[0]


@njit("void(int64[::1], int64, int64, int64, int64[::1])", cache=True, error_model="numpy")
def _moved(order, at, length, to, tried):  # type: ignore[no-untyped-def]
    """So many shots from one place to another, counted without them."""
    rest = np.concatenate((order[:at], order[at + length :]))
    tried[:to], tried[to : to + length] = rest[:to], order[at : at + length]
    tried[to + length :] = rest[to:]


@njit(f"Tuple((float64, int64[::1]))(int64[::1], {_SHOTS})", cache=True, error_model="numpy")
def best_nearby(order, shots, held, pieces, gaps, rules, weights):  # type: ignore[no-untyped-def]
    """The cheapest of all orders with one shot, or two that follow one another, somewhere else, or with two that have
    changed places.
    """
    count = len(order)
    best, least, tried = order.copy(), np.inf, order.copy()
    for length in (1, 2, 0):  # 0: two change places
        places = count + 1 - max(length, 1)
        for at in range(places):
            for to in range(places):
                if length:
                    _moved(order, at, length, to, tried)
                else:
                    tried[:] = order
                    tried[at], tried[to] = order[to], order[at]
                cost = weighed(lay_out(tried, shots, held, pieces, gaps, rules, weights), rules[1], weights)
                if cost < least:
                    least = cost
                    best = tried.copy()
    return least, best


def spans_of(held: list[tuple[tuple[int, int], ...] | None]) -> np.ndarray:
    """Spans side by side, as many for each; what asks for no light has it always. Shape (N, S, 2)."""
    most = max((len(each) for each in held if each), default=1)
    found = np.zeros((len(held), most, 2), dtype=np.int64)
    for row, each in enumerate(held):
        for at, span in enumerate(((-NEVER, NEVER),) if each is None else each):
            found[row, at] = span
    return found
