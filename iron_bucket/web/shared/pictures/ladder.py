"""The stop ladder as a step wedge: each stop in the tone the camera gives it, every mark hung on it by a hairline."""

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from iron_bucket.core.exposure.tone import tone
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluate.ladder import Ladder, Rung

#: Stops shown beyond clip and floor.
_BEYOND = 1.0
#: From one mark's words to the next, and so much more for a line about its target.
_LINE_PX, _TARGET_PX = 18.0, 14.0
_NAME_PX = 7.0
#: Where the wedge stands on a page, and on a card.
WIDE, SMALL = (54.0, 100.0), (14.0, 40.0)
_HATCH_PX = 6.0


@dataclass(frozen=True, slots=True, kw_only=True)
class HungMark:
    """One rung: its height on the wedge, and where its words stand. ``about``: of its target, empty without one.

    ``target_y`` None without a target.
    """

    mark_id: str
    name: str
    level: str
    stops: str
    y: float
    label_y: float
    is_missed: bool
    about: str
    target_y: float | None
    half_tolerance: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """A stop on the wedge: its upper and lower edge, its tone as a colour, and its number half way."""

    top: float
    bottom: float
    colour: str
    y: float
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class LadderPicture:
    """The wedge between ``left`` and ``right``. ``clip_y`` and ``floor_y``: where the hatched ends begin;
    ``middle_y``: the exposure, of ``wanted`` level.
    """

    width: float
    height: float
    left: float
    right: float
    clip_y: float
    floor_y: float
    middle_y: float
    wanted: str
    steps: tuple[Step, ...]
    marks: tuple[HungMark, ...]
    description: str

    @property
    def hatch(self) -> str:
        """Slanted lines over what the camera does not hold."""
        return _hatch(self, 0.0, self.clip_y) + _hatch(self, self.floor_y, self.height)

    @property
    def most_letters(self) -> int:
        """Of a name, before its level."""
        return int((self.width - 250.0) / _NAME_PX)


def ladder_picture(
    ladder: Ladder, units: UnitSystem, *, width: float, height: float, wedge: tuple[float, float] = WIDE
) -> LadderPicture:
    """Every mark on the right of the wedge, the brightest at the top. ``wedge``: its left and right edge."""
    top, span = ladder.above + _BEYOND, ladder.above + ladder.below + 2 * _BEYOND

    def place(stops: float) -> float:
        return round(min(max((top - stops) / span, 0.0), 1.0) * height, 1)

    rungs = sorted(ladder.rungs, key=lambda each: -each.stops)
    rooms = [_LINE_PX + (_TARGET_PX if each.target else 0.0) for each in rungs]
    label_ys = _apart([place(each.stops) for each in rungs], rooms, height)
    words = "; ".join(
        f"{each.name} {display.stops(each.stops)}" + (f", {_about(each)}" if each.is_missed else "")
        for each in ladder.rungs
    )
    return LadderPicture(
        width=width,
        height=height,
        left=wedge[0],
        right=wedge[1],
        clip_y=place(ladder.above),
        floor_y=place(-ladder.below),
        middle_y=place(0.0),
        wanted=str(display.illuminance(ladder.wanted_lx, units)),
        steps=tuple(_steps(ladder, place)),
        marks=tuple(
            _hung(each, place, label_y, units, span, height) for each, label_y in zip(rungs, label_ys, strict=True)
        ),
        description=(
            f"Stop ladder, exposure at {display.illuminance(ladder.wanted_lx, units)}, clip {ladder.above:g} stops"
            f" above, floor {ladder.below:g} below. {words}."
        ),
    )


def _hatch(picture: LadderPicture, top: float, bottom: float) -> str:
    """Lines that rise to the right by as much as they go aside, cut off at the box's edges."""
    lines, start = "", picture.left - (bottom - top)
    while start < picture.right:
        x1, x2 = max(start, picture.left), min(start + bottom - top, picture.right)
        if x2 > x1:
            lines += f"M{x1:.1f} {bottom - (x1 - start):.1f}L{x2:.1f} {bottom - (x2 - start):.1f}"
        start += _HATCH_PX
    return lines


def _steps(ladder: Ladder, place: Callable[[float], float]) -> Iterator[Step]:
    for stop in range(-math.floor(ladder.below), math.floor(ladder.above) + 1):
        code = round(255.0 * tone(stop, above=ladder.above, below=ladder.below))
        yield Step(
            top=place(min(stop + 0.5, ladder.above)),
            bottom=place(max(stop - 0.5, -ladder.below)),
            colour=f"#{code:02x}{code:02x}{code:02x}",
            y=place(stop),
            text=f"{stop:+d}".replace("-", "\u2212") if stop else "0",
        )


def _about(rung: Rung) -> str:
    """How a rung stands to its target, in words."""
    if rung.target is None or rung.miss_stops is None:
        return ""
    if rung.is_missed:
        return f"{abs(rung.miss_stops):.1f} {'over' if rung.miss_stops > 0 else 'under'} its target"
    return f"target {display.stops(rung.target.stops).value} met"


def _hung(
    rung: Rung, place: Callable[[float], float], label_y: float, units: UnitSystem, span: float, height: float
) -> HungMark:
    return HungMark(
        mark_id=rung.mark_id,
        name=rung.name,
        level="" if rung.illuminance_lx is None else str(display.illuminance(rung.illuminance_lx, units)),
        stops=display.stops(rung.stops).value,
        y=place(rung.stops),
        label_y=label_y,
        is_missed=rung.is_missed,
        about=_about(rung),
        target_y=None if rung.target is None else place(rung.target.stops),
        half_tolerance=0.0 if rung.target is None else round(rung.target.tolerance / span * height, 1),
    )


def _apart(ys: list[float], rooms: list[float], height: float) -> list[float]:
    """Heights of first lines, pushed apart so that words do not run into each other: downwards, then back up from the
    foot; where there is not enough height for all, evenly.
    """
    if sum(rooms) > height - 12.0:
        rooms = [room * (height - 12.0) / sum(rooms) for room in rooms]
    placed: list[float] = []
    for y, before in zip(ys, [12.0, *rooms], strict=False):
        placed.append(max(y, placed[-1] + before) if placed else max(y, before))
    limit = height - 4.0 + _LINE_PX
    for at in range(len(placed) - 1, -1, -1):
        placed[at] = round(min(placed[at], limit - max(rooms[at], _LINE_PX if limit > height else 0.0)), 1)
        limit = placed[at]
    return placed
