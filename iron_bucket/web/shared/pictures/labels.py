"""Names on a picture, placed clear of each other, of what is drawn and of the sheet's edge, with a line where far."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from iron_bucket.core.arrays import Array

#: How far from its sign a name is tried, in pixels, and in how many directions.
_REACHES_PX = (0.0, 8.0, 18.0, 32.0, 50.0, 72.0, 100.0)
_DIRECTIONS = 16
#: A name that stands farther off than this has a line to its sign.
_BESIDE_PX = 10.0
#: So much is kept free between names.
_APART_PX = 2.0
#: What a place costs that is not free, and a line through another name.
_NEVER, _CROSSES = 1e6, 400.0
#: A line counts as boxes, one after another.
_LINE_STEP_PX = 7.0


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
    found: dict[str, PlacedLabel] = {}
    boxes, own = np.asarray(taken, dtype=float).reshape(-1, 4), np.empty((0, 4))
    for label in sorted(labels, key=lambda each: -each.width):
        near = boxes[_within(label, boxes)]
        lowest, reach_px, middle, end = np.inf, 0.0, np.zeros(2), np.zeros(2)
        for reach in _REACHES_PX:
            cost, middles, ends = _tried(label, reach, near, own, width, height)
            at = int(np.argmin(cost))  # of equals the first, which is the most wanted
            if cost[at] < lowest:
                lowest, reach_px, middle, end = float(cost[at]), reach, middles[at], ends[at]
            if lowest <= 0.0:
                break
        half = np.array([label.width, label.height]) / 2.0
        own = np.concatenate([own, np.concatenate([middle - half, middle + half])[None]])
        found[label.key] = PlacedLabel(
            dx=float(middle[0] - label.x),
            dy=float(middle[1] - label.y),
            leader=(float(end[0] - label.x), float(end[1] - label.y)) if reach_px > _BESIDE_PX else None,
            is_clear=lowest < _NEVER,
        )
    return found


def _within(label: Label, boxes: Array) -> np.ndarray:
    """Which boxes a name could meet at all. Shape (N,)."""
    reach = _REACHES_PX[-1] + label.clear + _APART_PX + np.array([label.width, label.height])
    low, high = np.array([label.x, label.y]) - reach, np.array([label.x, label.y]) + reach
    is_across = (boxes[:, 0] < high[0]) & (boxes[:, 2] > low[0])
    return np.asarray(is_across & (boxes[:, 1] < high[1]) & (boxes[:, 3] > low[1]))


def _tried(
    label: Label, reach_px: float, boxes: Array, own: Array, width: float, height: float
) -> tuple[Array, Array, Array]:
    """What each direction costs so far off, the middles of the boxes, and where lines to them would end; a box that
    meets another or leaves the sheet is never clear. Shapes (K,), (K, 2), (K, 2).
    """
    half = np.array([label.width, label.height]) / 2.0
    middles = _candidates(label, reach_px, half)
    each_box = np.concatenate([middles - half, middles + half], axis=1)
    meets = _overlap(each_box, boxes).sum(axis=1) + _overlap(each_box, own).sum(axis=1)
    outside = _outside(each_box, width, height)
    ends = _leader_ends(label, middles, half)
    cost = (meets + outside > 0.0) * _NEVER + meets + 10.0 * outside
    if reach_px > _BESIDE_PX:
        cost = cost + _CROSSES * _crossed(np.array([label.x, label.y]), ends, own)
    return np.asarray(cost), middles, ends


def _candidates(label: Label, reach_px: float, half: Array) -> Array:
    """Middles of a label's box, the most wanted first. Shape (K, 2)."""
    order = np.arange(_DIRECTIONS)
    turns = np.radians(label.towards_deg + 360.0 / _DIRECTIONS * ((order + 1) // 2) * np.where(order % 2, 1.0, -1.0))
    ways = np.stack([np.cos(turns), np.sin(turns)], axis=1)
    return np.array([label.x, label.y]) + (label.clear + reach_px) * ways + half * np.clip(ways * 1.42, -1.0, 1.0)


def _overlap(boxes: Array, others: Array) -> Array:
    """Areas that boxes share with others. Shapes (K, 4), (N, 4) to (K, N)."""
    low = np.maximum(boxes[:, None, :2] - _APART_PX, others[None, :, :2])
    high = np.minimum(boxes[:, None, 2:] + _APART_PX, others[None, :, 2:])
    size = np.maximum(high - low, 0.0)
    return np.asarray(size[..., 0] * size[..., 1])


def _outside(boxes: Array, width: float, height: float) -> Array:
    """How far boxes reach over the sheet's edge. Shape (K,)."""
    over = np.maximum(-boxes[:, :2], 0.0) + np.maximum(boxes[:, 2:] - np.array([width, height]), 0.0)
    return np.asarray(over.sum(axis=1))


def _leader_ends(label: Label, middles: Array, half: Array) -> Array:
    """The places of boxes that are nearest to the sign. Shape (K, 2)."""
    return np.asarray(np.clip(np.array([label.x, label.y]), middles - half, middles + half))


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
