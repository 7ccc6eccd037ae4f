"""Names on a picture, placed clear of each other, of what is drawn and of the sheet's edge, with a line where far."""

from collections.abc import Hashable, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.desk.bounded_cache import BoundedCache
from iron_bucket.web.shared.pictures.label_search import places_for

#: How far from its sign a name is tried, in pixels, and in how many directions.
_REACHES_PX = (0.0, 8.0, 18.0, 32.0, 50.0, 72.0, 100.0)
_DIRECTIONS = 16
_REACH_OF_EACH = np.repeat(_REACHES_PX, _DIRECTIONS)
#: So many of its places are beside the sign; a name that stands farther off has a line to it.
_BESIDE = 2 * _DIRECTIONS
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
    halves = np.array([(each.width, each.height) for each in order]) / 2.0
    signs = np.array([(each.x, each.y) for each in order])
    middles = _candidates(order, halves)
    places = np.concatenate([middles - halves[:, None], middles + halves[:, None]], axis=2)
    outside, boxes = _outside(places, width, height), np.ascontiguousarray(taken, dtype=float).reshape(-1, 4)
    chosen, is_clear = places_for(places, outside, boxes, signs, _BESIDE)
    middle = middles[np.arange(len(order)), chosen]
    ends = np.clip(signs, middle - halves, middle + halves) - signs
    return {
        label.key: PlacedLabel(
            dx=float(dx),
            dy=float(dy),
            leader=None if at < _BESIDE else (float(end[0]), float(end[1])),
            is_clear=bool(clear),
        )
        for label, (dx, dy), at, end, clear in zip(order, middle - signs, chosen, ends, is_clear, strict=True)
    }


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


def _outside(boxes: Array, width: float, height: float) -> Array:
    """How far boxes reach over the sheet's edge. Shapes (..., 4) to (...)."""
    over = np.maximum(-boxes[..., :2], 0.0) + np.maximum(boxes[..., 2:] - np.array([width, height]), 0.0)
    return np.asarray(over.sum(axis=-1))


def boxes_along(points: Array, half: float) -> Array:
    """A line as small boxes, one after another. Shapes (N, 2) to (K, 4)."""
    found = []
    for start, end in pairwise(points):
        count = max(int(np.ceil(np.linalg.norm(end - start) / _LINE_STEP_PX)), 1)
        middles = start + np.linspace(0.0, 1.0, count + 1)[:, None] * (end - start)
        found.append(np.concatenate([middles - half, middles + half], axis=1))
    return np.concatenate(found) if found else np.empty((0, 4))
