"""The cases as they stand in a hold, seen from above its doors; and where they are laid out on a place's plan."""

import math
from dataclasses import dataclass

import numpy as np
from flask import g

from iron_bucket.core.bucket.load.hold import Hold, PlacedBox
from iron_bucket.core.bucket.load.layout import Layout
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.web.shared.pictures.plan import PlacePicture, paper_for, place_picture, place_points

_WIDE_PX = 760.0
_COS, _SIN = math.cos(math.radians(30.0)), math.sin(math.radians(30.0))


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnBox:
    """Three faces as paths, and where its number stands. ``number``: in the order of loading."""

    number: int
    name: str
    top: str
    side: str
    back: str
    x: float
    y: float
    has_batteries: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class HoldPicture:
    """``floor`` and ``walls`` as paths; boxes the farthest first."""

    view_box: str
    floor: str
    walls: str
    boxes: tuple[DrawnBox, ...]
    unit: float


def hold_picture(hold: Hold) -> HoldPicture:
    """The front of the hold lies to the upper left, its doors to the lower left."""
    length, width, height = hold.vehicle.inner_m
    corners = [_at(x, y, z) for x in (0.0, length) for y in (0.0, width) for z in (0.0, height)]
    left, top = min(x for x, _ in corners), min(y for _, y in corners)
    wide, high = max(x for x, _ in corners) - left, max(y for _, y in corners) - top
    ordered = sorted(enumerate(hold.placed, start=1), key=lambda pair: _depth(pair[1]))
    return HoldPicture(
        view_box=f"{left - 0.05:.3f} {top - 0.05:.3f} {wide + 0.1:.3f} {high + 0.1:.3f}",
        floor=_path([(0, 0, 0), (length, 0, 0), (length, width, 0), (0, width, 0)]),
        walls=_path([(0, 0, 0), (0, 0, height), (0, width, height), (0, width, 0)])
        + _path([(0, 0, 0), (0, 0, height), (length, 0, height), (length, 0, 0)]),
        boxes=tuple(_drawn(number, box) for number, box in ordered),
        unit=wide / _WIDE_PX,
    )


def _at(x_m: float, y_m: float, z_m: float) -> tuple[float, float]:
    return (y_m - x_m) * _COS, (x_m + y_m) * _SIN - z_m


def _depth(box: PlacedBox) -> float:
    """Nearer to who looks is more."""
    return box.x_m + box.length_m / 2 + box.y_m + box.width_m / 2 + (box.z_m + box.height_m / 2)


def _path(points: list[tuple[float, float, float]]) -> str:
    spots = (_at(*point) for point in points)
    return "M" + "L".join(f"{x:.3f} {y:.3f}" for x, y in spots) + "Z"


def _drawn(number: int, box: PlacedBox) -> DrawnBox:
    x0, y0, z0 = box.x_m, box.y_m, box.z_m
    x1, y1, z1 = x0 + box.length_m, y0 + box.width_m, z0 + box.height_m
    x, y = _at((x0 + x1) / 2, (y0 + y1) / 2, z1)
    return DrawnBox(
        number=number,
        name=f"{box.box.label}, {box.box.weight_kg:.1f} kg",
        top=_path([(x0, y0, z1), (x1, y0, z1), (x1, y1, z1), (x0, y1, z1)]),
        back=_path([(x1, y0, z0), (x1, y0, z1), (x1, y1, z1), (x1, y1, z0)]),
        side=_path([(x0, y1, z0), (x0, y1, z1), (x1, y1, z1), (x1, y1, z0)]),
        x=round(x, 3),
        y=round(y, 3),
        has_batteries=box.box.has_batteries,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class LaidPicture:
    """A place with its areas for kit, and the cases in them: x, y, width and height on paper, and their names."""

    place: PlacePicture
    areas: tuple[tuple[float, float, float, float, str, bool], ...]
    boxes: tuple[tuple[float, float, float, float, str, int], ...]


def laid_picture(around: Surroundings, layout: Layout) -> LaidPicture:
    """Areas that a camera sees are told apart."""
    areas = [*((area, False) for area in layout.areas), *((area, True) for area in layout.seen)]
    ends = [
        (area.x_m + dx * area.width_m, area.y_m + dy * area.depth_m)
        for area, _ in areas
        for dx in (0, 1)
        for dy in (0, 1)
    ]
    points = [place_points(around), *([np.array(ends)] if ends else [])]
    paper = paper_for(np.concatenate(points), shown_px=_WIDE_PX, most_px=420.0)

    def rectangle(x_m: float, y_m: float, width_m: float, depth_m: float) -> tuple[float, float, float, float]:
        left, low = paper.at(x_m, y_m)
        right, high = paper.at(x_m + width_m, y_m + depth_m)
        return left, high, right - left, low - high

    return LaidPicture(
        place=place_picture(around, paper, g.units, []),
        areas=tuple(
            (*rectangle(area.x_m, area.y_m, area.width_m, area.depth_m), area.name, is_seen) for area, is_seen in areas
        ),
        boxes=tuple(
            (*rectangle(each.x_m, each.y_m, each.width_m, each.depth_m), each.box.label, number)
            for number, each in enumerate(layout.laid, start=1)
        ),
    )
