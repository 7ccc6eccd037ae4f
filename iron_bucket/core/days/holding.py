"""From when to when a pass holds what is wanted of it, and what ends it first."""

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

import numpy as np

from iron_bucket.core.arrays import Array, runs
from iron_bucket.core.colour.gel_stacks import DUV_A_MIRED
from iron_bucket.core.colour.white import mired_and_duv, uv_from_xyz
from iron_bucket.core.days.hours_of_light import HoursOfLight
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.places.bearing import turn_between
from iron_bucket.core.quantities.rounding import at_most
from iron_bucket.core.setups.evaluate.ladder import DEEPEST_STOPS, Ladder, RungKind
from iron_bucket.core.setups.evaluate.lit_scene import DARK_LX, LitScene
from iron_bucket.core.setups.plan.look import luminance_stops, surface_stops
from iron_bucket.core.setups.plan.setup import ColourTarget, Target

#: Typical: a key that has turned farther does not cut with the one before. Source: docs/craft.md, section 4.
USUAL_TURN_DEG = 20.0
#: The sun is looked after where it gives so much of a mark's light when the pass is planned.
_COUNTS = 0.2


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Condition:
    """One thing that has to hold: at which times it does, shape (T,), and how a miss is told, by the time's place."""

    name: str
    holds: np.ndarray
    miss: Callable[[int], str]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Holding:
    """Of one pass over ``times``: ``holds`` (T,) says when all conditions do."""

    times: tuple[datetime, ...]
    conditions: tuple[Condition, ...]
    holds: np.ndarray

    @property
    def is_free(self) -> bool:
        """Whether nothing is asked of its light."""
        return not self.conditions

    @property
    def spans(self) -> tuple[tuple[datetime, datetime], ...]:
        """From when to when it holds, one pair after another."""
        return self._runs(self.holds)

    def missed_spans(self, start: datetime, end: datetime) -> tuple[tuple[datetime, datetime], ...]:
        """The same of where it does not, within a span."""
        inside = np.array([start <= each < end for each in self.times])
        return self._runs(~self.holds & inside)

    def _runs(self, chosen: np.ndarray) -> tuple[tuple[datetime, datetime], ...]:
        return tuple((self.times[a], self.times[b] + self.step) for a, b in runs(chosen))

    @property
    def step(self) -> timedelta:
        """From one time to the next, that each stands for."""
        return self.times[1] - self.times[0]

    def at(self, when: datetime) -> int:
        """The place of the last time that is no later."""
        later = next((at for at, each in enumerate(self.times) if each > when), len(self.times))
        return max(later - 1, 0)

    def until(self, when: datetime) -> datetime | None:
        """Until when it holds without a break from then on; None where it does not hold then."""
        start = self.at(when)
        if not self.holds[start]:
            return None
        broken = np.flatnonzero(~self.holds[start:])
        return self.times[start + int(broken[0])] if len(broken) else self.times[-1] + self.step

    def left_min(self, when: datetime) -> float:
        """Minutes of light that are left then."""
        until = self.until(when)
        return 0.0 if until is None else max((until - when).total_seconds() / 60.0, 0.0)

    def ends(self, when: datetime) -> str:
        """What ends it first from then on, with its figure; empty where it lasts."""
        until = self.until(when)
        place = self.at(when) if until is None else (until - self.times[0]) // self.step
        return "; ".join(self.misses(place)) if place < len(self.times) else ""

    def misses(self, place: int) -> tuple[str, ...]:
        """What does not hold at one time."""
        return tuple(each.miss(place) for each in self.conditions if not each.holds[place])

    def missed_min(self, start: datetime, end: datetime) -> float:
        """Minutes of a span in which it does not hold; beyond the times that were looked at nothing holds."""
        whole = max((end - start).total_seconds() / 60.0, 0.0)
        held = sum(max((min(end, b) - max(start, a)).total_seconds() / 60.0, 0.0) for a, b in self.spans)
        return 0.0 if self.is_free else max(whole - held, 0.0)


def with_condition(holding: Holding, condition: Condition) -> Holding:
    """One more thing that has to hold."""
    return replace(holding, conditions=(*holding.conditions, condition), holds=holding.holds & condition.holds)


def holding_of(hours: HoursOfLight, ladder: Ladder, receptor: Receptor, turn_deg: float = USUAL_TURN_DEG) -> Holding:
    """Levels and colours that have a target, windows and surfaces in the picture under the clip; where the sun counts
    when the pass is planned, its direction and where it falls, and where it does not, that it stays away.
    """
    conditions = (
        *_levels(hours, ladder, receptor),
        *_windows(hours, ladder, receptor),
        *_colours(hours),
        *_sun(hours, turn_deg),
    )
    holds = np.ones(len(hours.times), dtype=bool)
    for each in conditions:
        holds &= each.holds
    return Holding(times=hours.times, conditions=conditions, holds=holds)


def _levels(hours: HoursOfLight, ladder: Ladder, receptor: Receptor) -> Iterator[Condition]:
    lit = hours.lit
    wanted_lx = lit.built.setup.look.wanted_lx(receptor)
    for rung in ladder.rungs:
        place = _places(lit, hours.lux, rung.mark_id)
        if place is None:  # of a window the luminance counts
            continue
        level = np.take_along_axis(hours.lux, place[:, None], axis=1)[:, 0]
        stops = _stops(lit, int(place[0]), level, wanted_lx)
        if rung.target is not None:
            yield _level(rung.name, stops, rung.target)
        elif rung.kind is RungKind.SURFACE:
            yield _clip(rung.name, stops, ladder.above)


def _places(lit: LitScene, lux: Array, mark_id: str) -> np.ndarray | None:
    """The mark's column at every time: of a key or shadow side the cheek that is that just then. Shape (T,)."""
    person, _, side = mark_id.rpartition(".")
    left, right = (lit.built.mark_index(f"{person}.{each}") for each in ("left", "right"))
    if side in ("key", "shadow") and left is not None and right is not None:
        is_left = lux[:, left] >= lux[:, right]
        return np.where(is_left == (side == "key"), left, right)
    place = lit.built.mark_index(mark_id)
    return None if place is None else np.full(len(lux), place)


def _stops(lit: LitScene, place: int, level_lx: Array, wanted_lx: float) -> Array:
    reflectance = lit.built.marks[place].reflectance
    if reflectance is not None:
        return np.array([max(surface_stops(reflectance, each, wanted_lx), DEEPEST_STOPS) for each in level_lx.tolist()])
    return np.asarray(np.maximum(np.log2(np.maximum(level_lx, DARK_LX) / wanted_lx), DEEPEST_STOPS))


def _level(name: str, stops: Array, target: Target) -> Condition:
    off = stops - target.stops
    return Condition(
        name=f"level of {name}",
        holds=at_most(np.abs(off), target.tolerance),
        miss=lambda at: f"{name} is {abs(off[at]):.1f} stops {'over' if off[at] > 0 else 'under'} what is wanted",
    )


def _clip(name: str, stops: Array, above: float) -> Condition:
    return Condition(
        name=f"{name} under the clip",
        holds=at_most(stops, above),
        miss=lambda at: f"{name} clips, {stops[at] - above:.1f} stops over the top",
    )


def _windows(hours: HoursOfLight, ladder: Ladder, receptor: Receptor) -> Iterator[Condition]:
    wanted_lx = hours.lit.built.setup.look.wanted_lx(receptor)
    for rung in ladder.rungs:
        if rung.mark_id not in hours.windows_cd_m2:
            continue
        seen = hours.windows_cd_m2[rung.mark_id].tolist()
        stops = np.array([luminance_stops(each, wanted_lx) for each in seen])
        yield _clip(rung.name, stops, ladder.above) if rung.target is None else _level(rung.name, stops, rung.target)


def _colours(hours: HoursOfLight) -> Iterator[Condition]:
    lit = hours.lit
    for target in lit.built.setup.colour_targets:
        place = _places(lit, hours.lux, target.mark)
        if place is not None:
            xyz = np.take_along_axis(hours.xyz, place[:, None, None], axis=1)[:, 0]
            yield _colour(lit, target, xyz)


def _colour(lit: LitScene, target: ColourTarget, xyz: Array) -> Condition:
    white = lit.built.setup.look.white
    mired, duv = mired_and_duv(uv_from_xyz(np.maximum(xyz, DARK_LX)))
    off = np.hypot(mired - white.mired - target.mired, (duv - white.duv - target.duv) / DUV_A_MIRED)
    off = np.where(np.isnan(off) | (xyz[:, 1] <= DARK_LX), math.inf, off)
    name = target.mark
    return Condition(
        name=f"colour of {name}",
        holds=at_most(off, target.tolerance),
        miss=lambda at: (
            f"the colour of {name} is {off[at]:.0f} mired off" if math.isfinite(off[at]) else f"{name} has no colour"
        ),
    )


def _sun(hours: HoursOfLight, turn_deg: float) -> Iterator[Condition]:
    lit, planned = hours.lit, _planned(hours)
    counts = hours.sun_lx > _COUNTS * np.maximum(hours.lux, DARK_LX)
    asked = {each.mark.partition(".")[0] for each in lit.built.setup.targets}
    asked_at = [at for at, mark in enumerate(lit.built.marks) if mark.piece_id in asked]
    watched = [at for at in asked_at if counts[planned, at]]
    for at in asked_at:
        if at not in watched and counts[:, at].any():
            name = lit.built.marks[at].name
            yield Condition(
                name=f"no sun on {name}",
                holds=~counts[:, at],
                miss=lambda _, name=name: f"the sun falls on {name}",  # type: ignore[misc]
            )
    if not watched:
        return
    azimuths = np.array([sun.azimuth_deg for sun in hours.suns])
    turned = np.array([turn_between(azimuths[planned], each) for each in azimuths.tolist()])
    yield Condition(
        name="direction of the sun",
        holds=np.abs(turned) <= turn_deg,
        miss=lambda at: f"the sun has turned {abs(turned[at]):.0f}°, over {turn_deg:.0f}°",
    )
    for at in watched:
        name = lit.built.marks[at].name
        yield Condition(
            name=f"sun on {name}",
            holds=hours.is_sunlit[:, at],
            miss=lambda _, name=name: f"the sun is off {name}",  # type: ignore[misc]
        )


def _planned(hours: HoursOfLight) -> int:
    """The time that the set-up is planned for."""
    when = hours.lit.built.setup.when
    return int(np.argmin([abs((each - when).total_seconds()) for each in hours.times]))
