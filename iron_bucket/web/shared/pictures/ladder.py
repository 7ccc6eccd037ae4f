"""The stop ladder as places on paper: exposure in the middle, clip and floor as shaded ends, every mark hung on it."""

from collections.abc import Callable
from dataclasses import dataclass

from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluate.ladder import Ladder, Rung, RungKind

#: Stops shown beyond clip and floor.
_BEYOND = 1.5
_LABEL_APART = 27.0


@dataclass(frozen=True, slots=True, kw_only=True)
class HungMark:
    """One rung: its height on the scale, where its words stand, and on which side.

    ``target_y`` None without a target.
    """

    mark_id: str
    name: str
    level: str
    stops: str
    y: float
    label_y: float
    is_left: bool
    is_missed: bool
    miss: str
    target_y: float | None
    half_tolerance: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """A whole stop on the scale."""

    y: float
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class LadderPicture:
    """``clip_y`` and ``floor_y``: where the shaded ends begin; ``middle_y``: the exposure."""

    width: float
    height: float
    axis_x: float
    clip_y: float
    floor_y: float
    middle_y: float
    wanted: str
    steps: tuple[Step, ...]
    marks: tuple[HungMark, ...]
    description: str


def ladder_picture(ladder: Ladder, units: UnitSystem, *, width: float, height: float) -> LadderPicture:
    """Faces hang on the left, surfaces and windows on the right."""
    top, span = ladder.above + _BEYOND, ladder.above + ladder.below + 2 * _BEYOND

    def place(stops: float) -> float:
        return round(min(max((top - stops) / span, 0.0), 1.0) * height, 1)

    hung: list[HungMark] = []
    for is_left in (True, False):
        rungs = [each for each in ladder.rungs if (each.kind is RungKind.FACE) == is_left]
        rungs.sort(key=lambda each: -each.stops)
        label_ys = _apart([place(each.stops) for each in rungs], height)
        hung += [
            _hung(each, place, label_y, units, is_left, span, height)
            for each, label_y in zip(rungs, label_ys, strict=True)
        ]
    words = "; ".join(
        f"{each.name} {display.stops(each.stops)}"
        + (f", target missed by {display.stops(each.miss_stops or 0.0)}" if each.is_missed else "")
        for each in ladder.rungs
    )
    return LadderPicture(
        width=width,
        height=height,
        axis_x=width / 2.0,
        clip_y=place(ladder.above),
        floor_y=place(-ladder.below),
        middle_y=place(0.0),
        wanted=str(display.illuminance(ladder.wanted_lx, units)),
        steps=tuple(
            Step(y=place(stop), text=f"{stop:+d}".replace("-", "\u2212") if stop else "0")
            for stop in range(-int(ladder.below), int(ladder.above) + 1)
        ),
        marks=tuple(hung),
        description=(
            f"Stop ladder, exposure at {display.illuminance(ladder.wanted_lx, units)}, clip {ladder.above:g} stops"
            f" above, floor {ladder.below:g} below. {words}."
        ),
    )


def _hung(
    rung: Rung,
    place: Callable[[float], float],
    label_y: float,
    units: UnitSystem,
    is_left: bool,
    span: float,
    height: float,
) -> HungMark:
    miss = ""
    if rung.is_missed and rung.miss_stops is not None:
        miss = f"{abs(rung.miss_stops):.1f} {'over' if rung.miss_stops > 0 else 'under'}"
    return HungMark(
        mark_id=rung.mark_id,
        name=rung.name,
        level="" if rung.illuminance_lx is None else str(display.illuminance(rung.illuminance_lx, units)),
        stops=display.stops(rung.stops).value,
        y=place(rung.stops),
        label_y=label_y,
        is_left=is_left,
        is_missed=rung.is_missed,
        miss=miss,
        target_y=None if rung.target is None else place(rung.target.stops),
        half_tolerance=0.0 if rung.target is None else round(rung.target.tolerance / span * height, 1),
    )


def _apart(ys: list[float], height: float) -> list[float]:
    """Heights pushed apart so that words do not run into each other, top to bottom, then back up from the foot."""
    placed: list[float] = []
    for y in ys:
        placed.append(max(y, placed[-1] + _LABEL_APART) if placed else max(y, 14.0))
    limit = height - 8.0
    for at in range(len(placed) - 1, -1, -1):
        placed[at] = round(min(placed[at], limit), 1)
        limit = placed[at] - _LABEL_APART
    return placed
