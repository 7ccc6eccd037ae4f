"""A day over the sun's hours: how high it stands, what of the day is dark, and each pass with the light that it has."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta

from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.job.shooting_day import TimedPass
from iron_bucket.desk.days.view import FIRST_H, HOURS, OneDay

#: Drawn once for a wide screen and once for a phone.
WIDTHS = {"wide": 880.0, "phone": 340.0}
SKY_HIGH, ROW_HIGH = 74.0, 26.0
#: Hours are numbered so far apart at least.
_HOUR_PX = 34.0
#: The curve of the sun is drawn up to this height.
_HIGHEST_DEG = 65.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Band:
    """From ``x`` on, ``width`` wide; ``words``: what it is."""

    x: float
    width: float
    words: str
    kind: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class PassRow:
    """A pass: bands in which its ``light`` holds, its ``work``, and what of its shoot is ``missed``."""

    setup_id: int
    words: str
    light: tuple[Band, ...]
    work: tuple[Band, ...]
    missed: tuple[Band, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class DayStrip:
    """``sky``: night, twilight, golden hours, day; ``curve``: of the sun's height; ``ticks``: hours."""

    width: float
    sky: tuple[Band, ...]
    curve: str
    noon_words: str
    ticks: tuple[tuple[float, str], ...]
    rows: tuple[PassRow, ...]
    description: str


def day_strip(one: OneDay, width: float) -> DayStrip:
    """Of the place of its first pass."""
    paper = _Paper(one=one, width=width)
    first = one.passes[0]
    around = one.view.power.surroundings(first.of)
    sky, sun = tuple(_sky(paper, first)), one.suns[first.of.place_id]
    apart = next(hours for hours in (1, 2, 3, 6) if hours * width / HOURS >= _HOUR_PX)
    noon = one.local(first, sun.noon)
    return DayStrip(
        width=width,
        sky=sky,
        curve=_curve(paper, around),
        noon_words=f"{sun.highest_deg:.0f}° at {noon:%H:%M}",
        ticks=tuple(
            (paper.x(one.midnight + timedelta(hours=hour)), f"{hour % 24}")
            for hour in range(FIRST_H + 1, FIRST_H + HOURS)
            if hour % apart == 0
        ),
        rows=tuple(_row(paper, each) for each in one.passes),
        description="; ".join(each.words for each in sky),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class _Paper:
    """A day on so wide a paper."""

    one: OneDay
    width: float

    def x(self, when: datetime) -> float:
        """Where a time lies."""
        hours = (when - self.one.midnight).total_seconds() / 3600.0 - FIRST_H
        return round(min(max(hours / HOURS, 0.0), 1.0) * self.width, 1)

    def band(self, start: datetime, end: datetime, words: str, kind: str) -> Band:
        """From one time to another."""
        return Band(
            x=self.x(start),
            width=round(self.x(end) - self.x(start), 1),
            words=f"{words} {start:%H:%M} to {end:%H:%M}",
            kind=kind,
        )


def _sky(paper: _Paper, each: TimedPass) -> Iterator[Band]:
    """Night before dawn and after dusk, both twilights, golden hours, and the day between them."""
    one = paper.one
    sun = one.suns[each.of.place_id]
    begins, ends = one.midnight + timedelta(hours=FIRST_H), one.midnight + timedelta(hours=FIRST_H + HOURS)
    local = {
        name: one.local(each, when) if (when := getattr(sun, name)) else None
        for name in ("civil_dawn", "sunrise", "golden_until", "golden_from", "sunset", "civil_dusk")
    }
    if sun.is_polar_night and local["civil_dawn"] is None:
        yield paper.band(begins, ends, "dark", "night")
        return
    dawn, dusk = local["civil_dawn"], local["civil_dusk"]
    rise, sets = local["sunrise"], local["sunset"]
    if dawn and dawn > begins:
        yield paper.band(begins, dawn, "dark", "night")
    if dawn and (rise or dusk):
        yield paper.band(dawn, rise or dusk or ends, "twilight", "twilight")
    if rise:
        yield paper.band(rise, local["golden_until"] or sets or ends, "golden", "golden")
    if rise and sets:
        yield paper.band(local["golden_until"] or rise, local["golden_from"] or sets, "day", "day")
    if sets and local["golden_from"]:
        yield paper.band(local["golden_from"], sets, "golden", "golden")
    if sets and dusk:
        yield paper.band(sets, dusk, "twilight", "twilight")
    if dusk:
        yield paper.band(dusk, ends, "dark", "night")


def _curve(paper: _Paper, around: Surroundings) -> str:
    points, one = [], paper.one
    for step in range(HOURS * 4 + 1):
        when = one.midnight + timedelta(hours=FIRST_H, minutes=15 * step)
        high = around.sun(when).altitude_deg
        if high >= -1.0:
            points.append(f"{paper.x(when)} {SKY_HIGH - max(high, 0.0) / _HIGHEST_DEG * (SKY_HIGH - 8.0):.1f}")
    return "M" + "L".join(points) if len(points) > 1 else ""


def _row(paper: _Paper, each: TimedPass) -> PassRow:
    one = paper.one
    holding = one.holdings[each.of.setup_id]
    clock = one.shooting.clock
    edges = (
        ("rig", each.rig_min, each.shoot_min),
        ("shoot", each.shoot_min, each.strike_min),
        ("strike", each.strike_min, each.end_min),
    )
    without = () if holding.is_free else holding.missed_spans(clock(each.shoot_min), clock(each.strike_min))
    missed = tuple(paper.band(a, b, "without its light", "missed") for a, b in without)
    return PassRow(
        setup_id=each.of.setup_id,
        words=f"{each.of.setup.name}, {each.of.setup.width.value}",
        light=() if holding.is_free else tuple(paper.band(a, b, "light holds", "light") for a, b in holding.spans),
        work=tuple(paper.band(clock(a), clock(b), kind, kind) for kind, a, b in edges if b > a),
        missed=missed,
    )
