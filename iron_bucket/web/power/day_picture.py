"""Burn strips: over the hours of a day what is rigged and shot, which lamp burns on batteries until when, and how full
each battery is. Everything is drawn once for a wide screen and once for a phone.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import timedelta
from itertools import groupby

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.power.burn_day import Happening
from iron_bucket.core.power.job.shooting_day import ShootingDay, TimedPass
from iron_bucket.desk.power.days import DayView

WIDTHS = {"wide": 880.0, "phone": 340.0}
#: Hours are numbered so far apart at least, and batteries drawn in so many steps at most.
_HOUR_PX, _STEPS = 46.0, 220
UNIT_HIGH_PX = 15.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Span:
    """From ``x`` on, ``width`` wide; ``words``: what it is."""

    x: float
    width: float
    words: str
    kind: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnHour:
    """A line of the clock, and its number."""

    x: float
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class LampStrip:
    """A lamp through the day: spans that it is ``lit`` or ``dark``, and where batteries are swapped."""

    name: str
    words: str
    spans: tuple[Span, ...]
    swaps: tuple[float, ...]
    dark_at: str


@dataclass(frozen=True, slots=True, kw_only=True)
class UnitStrip:
    """A battery through the day: ``path`` of what is in it, spans on lamps and in a bay."""

    name: str
    path: str
    spans: tuple[Span, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class DayPicture:
    """``units`` by the name of their kind."""

    width: float
    hours: tuple[DrawnHour, ...]
    passes: tuple[tuple[Span, ...], ...]
    lamps: tuple[LampStrip, ...]
    units: tuple[tuple[str, tuple[UnitStrip, ...]], ...]


def day_picture(shown: DayView, width: float) -> DayPicture:
    """Drawn from what was simulated."""
    day = shown.day
    scale = width / max(day.end_min, 1)
    return DayPicture(
        width=width,
        hours=tuple(_hours(day, scale)),
        passes=tuple(_pass_spans(each, scale) for each in day.passes),
        lamps=tuple(_lamps(shown, scale)),
        units=tuple(_units(shown, scale)),
    )


def _hours(day: ShootingDay, scale: float) -> Iterator[DrawnHour]:
    step = next((hours for hours in (1, 2, 3, 6) if hours * 60 * scale >= _HOUR_PX), 12)
    first = day.begins.replace(minute=0, second=0)
    for hour in range(0, day.end_min // 60 + 2):
        when = first + timedelta(hours=hour)
        minute = (when - day.begins).total_seconds() / 60.0
        if 0.0 <= minute <= day.end_min and when.hour % step == 0:
            yield DrawnHour(x=round(minute * scale, 1), words=f"{when.hour}")


def _pass_spans(each: TimedPass, scale: float) -> tuple[Span, ...]:
    name = f"{each.of.setup.name}, {each.of.setup.width.value}"
    edges = [("rig", each.rig_min, each.shoot_min), ("shoot", each.shoot_min, each.strike_min)]
    edges.append(("strike", each.strike_min, each.end_min))
    return tuple(
        Span(x=round(start * scale, 1), width=round((end - start) * scale, 1), words=f"{kind}: {name}", kind=kind)
        for kind, start, end in edges
        if end > start
    )


def _runs(row: np.ndarray) -> Iterator[tuple[int, int, int]]:
    """Stretches of equal figures: from, to, figure."""
    at = 0
    for figure, run in groupby(row.tolist()):
        length = sum(1 for _ in run)
        yield at, at + length, int(figure)
        at += length


def _lamps(shown: DayView, scale: float) -> Iterator[LampStrip]:
    burnt, dark = shown.burnt, shown.outcome.dark_min
    for at, told in enumerate(shown.hours.lamps):
        state = burnt.is_lit[:, at] * 1 + burnt.is_dark[:, at] * 2
        spans = [
            Span(
                x=round(start * scale, 1),
                width=round((end - start) * scale, 1),
                words="lit" if figure == 1 else "dark",
                kind="lit" if figure == 1 else "dark",
            )
            for start, end, figure in _runs(state)
            if figure
        ]
        swaps = tuple(
            round(event.minute * scale, 1)
            for event in shown.events
            if event.lamp_id == told.lamp_id and event.what is Happening.SWAP and event.taken
        )
        dark_at = f"{shown.day.clock(dark[told.lamp_id]):%H:%M}" if told.lamp_id in dark else ""
        lamp = shown.hours.day.lamps[at]
        words = f"{lamp.plates} × {told.kind.name}, {max(lamp.watts):.0f} W"
        yield LampStrip(name=told.name, words=words, spans=tuple(spans), swaps=swaps, dark_at=dark_at)


def _units(shown: DayView, scale: float) -> Iterator[tuple[str, tuple[UnitStrip, ...]]]:
    first = 0  # units are numbered kind after kind
    for kind in shown.hours.day.kinds:
        numbers = range(first, first + kind.count)
        first += kind.count
        strips = tuple(_unit(shown, unit, kind.capacities_wh[unit - numbers[0]], scale) for unit in numbers)
        name = shown.hours.kinds[kind.kind_id].name
        if shown.hours.is_built_in(kind.kind_id):
            lamp = next(each for each in shown.hours.day.lamps if each.kind_id == kind.kind_id)
            name = f"{name} of {shown.lamp_name(lamp.lamp_id)}"
        yield name, strips


def _unit(shown: DayView, unit: int, capacity_wh: float, scale: float) -> UnitStrip:
    burnt = shown.burnt
    share = np.concatenate([[1.0], burnt.energy_wh[:, unit] / capacity_wh])
    steps = np.unique(np.linspace(0, len(share) - 1, _STEPS).astype(int))
    points = [(round(float(step) * scale, 1), _y(share[step])) for step in steps]
    path = f"M0 {UNIT_HIGH_PX}" + "".join(f"L{x} {y}" for x, y in points) + f"V{UNIT_HIGH_PX}Z"
    names = [each.name for each in shown.hours.lamps]
    spans = tuple(
        Span(
            x=round(start * scale, 1),
            width=round((end - start) * scale, 1),
            words=f"on {names[lamp]}, {_clock(shown, start)} to {_clock(shown, end)}",
        )
        for start, end, lamp in _runs(burnt.lamp_of[:, unit])
        if lamp >= 0
    )
    rises = np.diff(np.concatenate([burnt.energy_wh[:1, unit], burnt.energy_wh[:, unit]])) > 0.0
    charged = tuple(
        Span(
            x=round(start * scale, 1),
            width=round((end - start) * scale, 1),
            words=f"charges, {_clock(shown, start)} to {_clock(shown, end)}",
            kind="charge",
        )
        for start, end, is_rising in _runs(rises)
        if is_rising
    )
    return UnitStrip(name=shown.unit_name(unit), path=path, spans=(*spans, *charged))


def _y(share: Array) -> float:
    return round(UNIT_HIGH_PX * (1.0 - float(share)), 1)


def _clock(shown: DayView, minute: int) -> str:
    return f"{shown.day.clock(minute):%H:%M}"
