"""Names on a picture, placed clear of each other, of what is drawn and of the sheet's edge, with a line where far."""

from collections.abc import Hashable, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.desk.bounded_cache import BoundedCache

#: How far from its sign a name is tried, in pixels, and in how many directions.
_REACHES_PX = (0.0, 8.0, 18.0, 32.0, 50.0, 72.0, 100.0)
_DIRECTIONS = 16
_REACH_OF_EACH = np.repeat(_REACHES_PX, _DIRECTIONS)
#: A name that stands farther off than this has a line to its sign.
_BESIDE_PX = 10.0
#: So much is kept free between names.
_APART_PX = 2.0
#: The sheet in cells so wide.
_CELL_PX = 2.0
#: A line counts as boxes, one after another.
_LINE_STEP_PX = 7.0


#: A dimmer moves no name.
_PLACED: BoundedCache[Hashable, dict[str, "PlacedLabel"]] = BoundedCache(500)


@dataclass(frozen=True, slots=True, kw_only=True)
class Label:
    """A name of some pixels for a sign of radius ``clear`` about (x, y); ``towards_deg``: where it is wanted, 0 to the
    right, 90 below.
    """

    key: str
    x: float
    y: float
    width: float
    height: float
    clear: float
    towards_deg: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class PlacedLabel:
    """Its middle from the sign's middle; ``leader``: where a line from the sign ends, None where none is needed.

    ``is_clear``: nothing else is in its place.
    """

    dx: float
    dy: float
    leader: tuple[float, float] | None
    is_clear: bool


def placed_labels(labels: Sequence[Label], taken: Array, width: float, height: float) -> dict[str, PlacedLabel]:
    """Places for all, by key; the widest chooses first. ``taken``: boxes (left, top, right, bottom), shape (N, 4)."""
    key = (tuple(labels), np.asarray(taken, dtype=float).tobytes(), width, height)
    return _PLACED.get_or_make(key, lambda: _placed(labels, taken, width, height))


def _placed(labels: Sequence[Label], taken: Array, width: float, height: float) -> dict[str, PlacedLabel]:
    if not labels:
        return {}
    order = sorted(labels, key=lambda each: -each.width)
    boxes, own = np.asarray(taken, dtype=float).reshape(-1, 4), np.empty((0, 4))
    halves = np.array([(each.width, each.height) for each in order]) / 2.0
    middles = _candidates(order, halves)
    places = np.concatenate([middles - halves[:, None], middles + halves[:, None]], axis=2)
    meets = _meets(places, boxes, width, height)
    outside = _outside(places, width, height)
    found: dict[str, PlacedLabel] = {}
    for each, label in enumerate(order):
        is_free = ~(meets[each] | (outside[each] > 0.0) | _overlap(places[each], own).any(axis=1))
        if is_free.any():
            at = _least_crossed(label, middles[each], halves[each], is_free, own)
        else:
            shared = _overlap(places[each], np.concatenate([boxes, own])).sum(axis=1)
            at = int(np.argmin(shared + 10.0 * outside[each]))
        middle, sign = middles[each, at], np.array([label.x, label.y])
        own = np.concatenate([own, places[each, at][None]])
        end = np.clip(sign, middle - halves[each], middle + halves[each]) - sign
        found[label.key] = PlacedLabel(
            dx=float(middle[0] - label.x),
            dy=float(middle[1] - label.y),
            leader=(float(end[0]), float(end[1])) if _REACH_OF_EACH[at] > _BESIDE_PX else None,
            is_clear=bool(is_free[at]),
        )
    return found


def _candidates(labels: Sequence[Label], halves: Array) -> Array:
    """Middles of each label's box, ring by ring, on each ring the most wanted first. Shape (N, K, 2)."""
    order = np.arange(_DIRECTIONS)
    turns = 360.0 / _DIRECTIONS * ((order + 1) // 2) * np.where(order % 2, 1.0, -1.0)
    wanted = np.array([each.towards_deg for each in labels])
    angles = np.radians(wanted[:, None] + np.tile(turns, len(_REACHES_PX)))
    ways = np.stack([np.cos(angles), np.sin(angles)], axis=2)
    far = np.array([each.clear for each in labels])[:, None] + _REACH_OF_EACH
    signs = np.array([(each.x, each.y) for each in labels])[:, None]
    return np.asarray(signs + far[..., None] * ways + halves[:, None] * np.clip(ways * 1.42, -1.0, 1.0))


def _least_crossed(label: Label, middles: Array, half: Array, is_free: np.ndarray, own: Array) -> int:
    """The first free place whose line runs through fewest other names."""
    free = np.flatnonzero(is_free)
    if _REACH_OF_EACH[free[0]] <= _BESIDE_PX:  # no line at all
        return int(free[0])
    sign = np.array([label.x, label.y])
    ends = np.clip(sign, middles[free] - half, middles[free] + half)
    return int(free[np.argmin(_crossed(sign, ends, own))])


def _meets(places: Array, taken: Array, width: float, height: float) -> np.ndarray:
    """Which places share a cell of the sheet with any of the boxes, by a summed-area table of what is taken.

    Shapes (..., 4), (N, 4) to (...). Rounding to cells is within what is kept free between names.
    """
    across, down = int(width / _CELL_PX) + 2, int(height / _CELL_PX) + 2

    def cells(boxes: Array) -> list[np.ndarray]:
        whole = np.rint(boxes / _CELL_PX).astype(np.int64)
        return [whole[..., side].clip(0, most) for side, most in enumerate((across, down) * 2)]

    corners = np.zeros((down + 1, across + 1), dtype=np.int32)
    left, top, right, bottom = cells(taken + np.array([-_APART_PX, -_APART_PX, _APART_PX, _APART_PX]))
    for rows, columns, sign in ((top, left, 1), (top, right, -1), (bottom, left, -1), (bottom, right, 1)):
        np.add.at(corners, (rows, columns), sign)
    is_taken = corners.cumsum(axis=0).cumsum(axis=1)[:-1, :-1] > 0
    area = np.pad(is_taken.cumsum(axis=0).cumsum(axis=1), ((1, 0), (1, 0)))
    left, top, right, bottom = cells(places)
    return np.asarray(area[bottom, right] - area[top, right] - area[bottom, left] + area[top, left] > 0)


def _overlap(boxes: Array, others: Array) -> Array:
    """Areas that boxes share with others. Shapes (K, 4), (N, 4) to (K, N)."""
    low = np.maximum(boxes[:, None, :2] - _APART_PX, others[None, :, :2])
    high = np.minimum(boxes[:, None, 2:] + _APART_PX, others[None, :, 2:])
    size = np.maximum(high - low, 0.0)
    return np.asarray(size[..., 0] * size[..., 1])


def _outside(boxes: Array, width: float, height: float) -> Array:
    """How far boxes reach over the sheet's edge. Shapes (..., 4) to (...)."""
    over = np.maximum(-boxes[..., :2], 0.0) + np.maximum(boxes[..., 2:] - np.array([width, height]), 0.0)
    return np.asarray(over.sum(axis=-1))


def _crossed(start: Array, ends: Array, others: Array) -> Array:
    """How many boxes each line from a sign runs through. Shape (K,)."""
    along = start + np.linspace(0.2, 0.95, 6)[:, None, None] * (ends - start)
    inside = (along[:, :, None] > others[:, :2]).all(axis=3) & (along[:, :, None] < others[:, 2:]).all(axis=3)
    return np.asarray(inside.any(axis=0).sum(axis=1))


def boxes_along(points: Array, half: float) -> Array:
    """A line as small boxes, one after another. Shapes (N, 2) to (K, 4)."""
    found = []
    for start, end in pairwise(points):
        count = max(int(np.ceil(np.linalg.norm(end - start) / _LINE_STEP_PX)), 1)
        middles = start + np.linspace(0.0, 1.0, count + 1)[:, None] * (end - start)
        found.append(np.concatenate([middles - half, middles + half], axis=1))
    return np.concatenate(found) if found else np.empty((0, 4))
