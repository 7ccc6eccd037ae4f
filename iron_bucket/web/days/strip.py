"""A day over the sun's hours: how high it stands, what of the day is dark, and each pass with the light that it has."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta

from iron_bucket.core.days.weather import DRIZZLE_MM_H
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.job.shooting_day import TimedPass
from iron_bucket.core.quantities import display
from iron_bucket.desk.days.view import FIRST_H, HOURS, OneDay

#: Drawn once for a wide screen and once for a phone.
WIDTHS = {"wide": 880.0, "phone": 340.0}
SKY_HIGH, ROW_HIGH, WEATHER_HIGH = 66.0, 22.0, 18.0
_WINDS = ("N", "NE", "E", "SE", "S", "SW", "W", "NW")
#: Hours are numbered so far apart at least.
_HOUR_PX = 34.0
#: A name of a pass stands in so much.
_LABEL_PX = 220.0
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
class WeatherCell:
    """An hour as it was told: ``high`` by the cloud; ``words``: all of it."""

    x: float
    width: float
    high: float
    is_wet: bool
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PassRow:
    """A pass: bands in which its ``light`` holds, its ``work``, and what of its shoot is ``missed``. ``label_x``: where
    its name stands, to the left of the work or to the right (``is_after``).
    """

    setup_id: int
    words: str
    label_x: float
    is_after: bool
    light: tuple[Band, ...]
    work: tuple[Band, ...]
    missed: tuple[Band, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class DayStrip:
    """``sky``: night, twilight, golden hours, day; ``curve``: of the sun's height; ``compass``: where it stands then;
    ``ticks``: hours; ``weather``: as it was told where the crew is.
    """

    width: float
    sky: tuple[Band, ...]
    curve: str
    compass: tuple[tuple[float, str], ...]
    weather: tuple[WeatherCell, ...]
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
        compass=tuple(_compass(paper, around)),
        weather=tuple(_weather(paper)),
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


def _compass(paper: _Paper, around: Surroundings) -> Iterator[tuple[float, str]]:
    """Where the sun passes the eight winds, by true north."""
    one, before_deg = paper.one, None
    for step in range(HOURS * 12 + 1):
        when = one.midnight + timedelta(hours=FIRST_H, minutes=5 * step)
        sun = around.sun(when)
        off_deg = (sun.azimuth_deg + 22.5) % 45.0 - 22.5
        is_passed = before_deg is not None and before_deg * off_deg <= 0.0 and abs(off_deg - before_deg) < 22.5
        if is_passed and sun.altitude_deg > 0.0:
            yield paper.x(when), _WINDS[round(sun.azimuth_deg / 45.0) % 8]
        before_deg = off_deg


def _weather(paper: _Paper) -> Iterator[WeatherCell]:
    """Of the place of the pass that is rigged, shot or struck in that hour, else of the one before."""
    one, units = paper.one, paper.one.view.power.rules.units
    for hour in range(FIRST_H, FIRST_H + HOURS):
        start = one.midnight + timedelta(hours=hour)
        begun = [each for each in one.passes if one.shooting.clock(each.rig_min) < start + timedelta(hours=1)]
        forecast = one.forecast((begun or one.passes[:1])[-1].of)
        told = forecast.at(start) if forecast else None
        if told is None:
            continue
        rain = display.rain(told.rain_mm_h, units) if told.rain_mm_h else "dry"
        cloud, gusts = display.share(told.cloud_share), display.wind(told.gust_m_s, units)
        cold = display.temperature(told.temperature_c, units)
        yield WeatherCell(
            x=paper.x(start),
            width=round(paper.width / HOURS - 1.0, 1),
            high=round(told.cloud_share * (WEATHER_HIGH - 4.0), 1),
            is_wet=told.rain_mm_h >= DRIZZLE_MM_H,
            words=f"{start:%H:%M}: {cloud} cloud, gusts of {gusts}, {rain}, {cold}",
        )


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
    light = () if holding.is_free else tuple(paper.band(a, b, "light holds", "light") for a, b in holding.spans)
    work = tuple(paper.band(clock(a), clock(b), kind, kind) for kind, a, b in edges if b > a)
    words = f"{each.of.setup.name}, {each.of.setup.width.value}"
    ends, begins = max((band.x + band.width for band in work), default=0.0), min((band.x for band in work), default=0.0)
    is_after = paper.width - ends >= _LABEL_PX
    return PassRow(
        setup_id=each.of.setup_id,
        words=words,
        label_x=round(ends + 5.0 if is_after else begins - 5.0, 1),
        is_after=is_after,
        light=light,
        work=work,
        missed=missed,
    )
