"""The days of a job as their pages show them: passes in order over the sun's hours, with the light that each has."""

from collections.abc import Hashable
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from functools import cached_property, partial
from zoneinfo import ZoneInfo

import numpy as np
from sqlalchemy.orm import Session

from iron_bucket.core.cautions.rules import Caution
from iron_bucket.core.daylight.sun_day import SunDay, sun_day
from iron_bucket.core.days.between import Batteries, Running, Wait, wait_between
from iron_bucket.core.days.day_plan import DayPlan
from iron_bucket.core.days.holding import Condition, Holding, holding_of, with_condition
from iron_bucket.core.days.hours_of_light import hours_of_light, times_of_day
from iron_bucket.core.days.order import Day, DayOrder, Shot
from iron_bucket.core.days.ordering import DaySchool, Ordered, of_school, ordered
from iron_bucket.core.days.running import batteries_of, running
from iron_bucket.core.days.weather import Forecast, WorstWeather
from iron_bucket.core.days.weather_cautions import weather_cautions
from iron_bucket.core.power.job.shooting_day import DAY_BEGINS_H, JobPass, ShootingDay, TimedPass
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluation import Evaluation
from iron_bucket.core.setups.plan.setup import Width
from iron_bucket.core.setups.sheet.moves import moves
from iron_bucket.desk.bounded_cache import BoundedCache
from iron_bucket.desk.days.thrown_sun import board_aims
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.power.view import PowerView, power_view
from iron_bucket.desk.setups.kept import kept_evaluation, kept_standing
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.store.history import Around, Scope, ScopeKind, around

_HOLDINGS: BoundedCache[Hashable, Holding] = BoundedCache(600)
_ORDERS: BoundedCache[Hashable, Ordered] = BoundedCache(200)
_SCHOOLS: BoundedCache[Hashable, DayOrder] = BoundedCache(400)
_PIECES: BoundedCache[Hashable, int] = BoundedCache(20_000)
#: Light is looked at from here on, for so long, in the clock of the place.
FIRST_H, HOURS = 5, 22


def days_scope(job_id: int) -> Scope:
    """Within what changes of a job's days are undone."""
    return Scope(ScopeKind.DAYS, job_id)


@dataclass(eq=False, kw_only=True)
class DaysView:
    """``power`` holds the job with its passes in their places."""

    power: PowerView
    steps: Around

    @property
    def plan(self) -> DayPlan:
        """What was said of its days."""
        return self.power.contents.days

    @property
    def days(self) -> tuple[date, ...]:
        """On which something is shot, in order."""
        return tuple(day.day for day in self.power.days)

    def day(self, day: date | None) -> "OneDay | None":
        """One of them, the first where none is named; None in a job without passes, or where nothing is shot then."""
        found = next((each for each in self.power.days if day is None or each.day == day), None)
        return OneDay(view=self, shooting=found) if found else None

    def day_with(self, setup_id: int) -> "OneDay":
        """The day on which a pass is shot. Raises: NotFound."""
        found = next((day for day in map(self.day, self.days) if day and setup_id in day.names()), None)
        if found is None:
            raise NotFound("there is no such pass in this job now")
        return found


@dataclass(eq=False, kw_only=True)
class OneDay:
    """``shooting``: its passes as they stand, each at its own hour."""

    view: DaysView
    shooting: ShootingDay

    @property
    def day(self) -> date:
        """Its date."""
        return self.shooting.day

    @property
    def midnight(self) -> datetime:
        """That its minutes are counted from, by the clock of the place."""
        return datetime.combine(self.day, time())

    def clock(self, minute: int) -> str:
        """What the clock says at a minute from midnight."""
        return f"{self.midnight + timedelta(minutes=minute):%H:%M}"

    def minute(self, when: datetime) -> int:
        """From midnight."""
        return round((when - self.midnight).total_seconds() / 60.0)

    @cached_property
    def passes(self) -> tuple[TimedPass, ...]:
        """In the order in which they are shot."""
        return tuple(sorted(self.shooting.passes, key=lambda each: (each.shoot_min, each.of.setup_id)))

    def shoot_at(self, each: TimedPass) -> datetime:
        """When its shoot begins, by the clock of its place."""
        return self.shooting.clock(each.shoot_min)

    @cached_property
    def suns(self) -> dict[int, SunDay]:
        """The sun's hours at each place, by its number."""
        found = {}
        for each in self.passes:
            place = self.view.power.surroundings(each.of).place
            found[each.of.place_id] = sun_day(
                self.day, latitude_deg=place.latitude_deg, longitude_deg=place.longitude_deg
            )
        return found

    def local(self, each: TimedPass, when: datetime) -> datetime:
        """A time of UTC by the clock of a pass's place."""
        zone = ZoneInfo(self.view.power.surroundings(each.of).place.time_zone)
        return when.astimezone(zone).replace(tzinfo=None)

    @cached_property
    def holdings(self) -> dict[int, Holding]:
        """By the numbers of the passes: when the light of each holds, and where sound is recorded, when it can be."""
        return {each.of.setup_id: self._with_sound(each.of, self._holding(each.of)) for each in self.passes}

    def _holding(self, each: JobPass) -> Holding:
        around_it, gear, rules = self.view.power.surroundings(each), self.view.power.gear, self.view.power.rules
        turn_deg, forecast = self.view.plan.turn_deg, self.forecast(each)
        key = (each.setup, around_it, gear, rules, turn_deg, forecast)
        return _HOLDINGS.get_or_make(key, lambda: _held(self.evaluation(each), turn_deg, forecast))

    def _with_sound(self, each: JobPass, holding: Holding) -> Holding:
        spans = self.view.plan.sound_min(self.day)
        if not spans or not self.view.plan.of_pass(each.setup_id).has_sound:
            return holding
        minutes = [self.minute(when) for when in holding.times]
        holds = np.array([any(begins <= minute < ends for begins, ends in spans) for minute in minutes])
        told = ", ".join(f"{self.clock(begins)} to {self.clock(ends)}" for begins, ends in spans)
        return with_condition(
            holding, Condition(name="sound", holds=holds, miss=lambda _: f"sound can be recorded from {told}")
        )

    def forecast(self, each: JobPass) -> Forecast | None:
        """The weather that was told of its place for this day."""
        return self.view.plan.forecast(each.place_id, self.day)

    @property
    def forecasts(self) -> tuple[Forecast, ...]:
        """Of every place of the day, as far as anything was told."""
        told = (self.forecast(each.of) for each in self.passes)
        return tuple(dict.fromkeys(each for each in told if each is not None))

    def weather(self, each: TimedPass) -> WorstWeather | None:
        """The worst of it from its rig to its strike."""
        forecast, clock = self.forecast(each.of), self.shooting.clock
        return forecast.within(clock(each.rig_min), clock(each.end_min)) if forecast else None

    def weather_words(self, forecast: Forecast, units: UnitSystem) -> str:
        """The worst of what was told from the first rig there to the last strike, in words."""
        there = [each for each in self.passes if each.of.place_id == forecast.place_id]
        begins, ends = min(each.rig_min for each in there), max(each.end_min for each in there)
        worst = forecast.within(self.shooting.clock(begins), self.shooting.clock(ends))
        if worst is None:
            return "beyond the hours that were told."
        cloud = f"{display.share(worst.least_cloud)} to {display.share(worst.most_cloud)} of the sky covered"
        rain = display.rain(worst.rain_mm_h, units) if worst.is_wet else "dry"
        gusts, cold = display.wind(worst.gust_m_s, units), display.temperature(worst.temperature_c, units)
        return f"{cloud}, gusts of {gusts}, {rain}, down to {cold}."

    def weather_cautions(self, each: TimedPass) -> tuple[Caution, ...]:
        """What it does to what stands in the open."""
        worst, power = self.weather(each), self.view.power
        if worst is None:
            return ()
        return weather_cautions(self.evaluation(each.of).lit, worst, power.gear, power.rules.units)

    def evaluation(self, each: JobPass) -> Evaluation:
        """Of a pass as it stands."""
        power = self.view.power
        row = next(row for row in power.contents.setups if row.id == each.setup_id)
        return kept_evaluation(row.document, power.surroundings(each), power.gear, power.rules)

    @cached_property
    def to_order(self) -> Day:
        """What an order is made of. Passes of one place that stand in another's way are carried by their difference."""
        plan, power = self.view.plan, self.view.power
        shots = tuple(self._shot(each) for each in self.passes)
        count = len(shots)
        pieces, gaps = np.zeros((count + 1, count)), np.zeros((count + 1, count), dtype=np.int64)
        for to, after in enumerate(self.passes):
            for at, before in enumerate((*self.passes, None)):
                pieces[at, to] = _carried(before.of if before else None, after.of, power)
                wait = self.wait(before.of.setup_id, after.of.setup_id) if before and before is not after else None
                gaps[at, to] = wait.minutes if wait else 0
        earliest = min(
            (shot.pinned_min or self.minute(each.of.setup.when)) - shot.rig_min
            for shot, each in zip(shots, self.passes, strict=True)
        )
        return Day(shots=shots, pieces=pieces, gaps=gaps, rules=plan.rules(self.day, max(earliest, 0)))

    def wait(self, before_id: int, after_id: int) -> Wait | None:
        """What has to be waited for from the cut of one pass to the shoot of another, by their numbers."""
        return wait_between(self._running[before_id], self._running[after_id], self.view.plan.move_min, self._batteries)

    @cached_property
    def _running(self) -> dict[int, Running]:
        loads = self.view.power.loads
        return {
            each.of.setup_id: running(each, self.evaluation(each.of).lit.built.lights, loads[each.of.setup_id].loads)
            for each in self.passes
        }

    @cached_property
    def _batteries(self) -> dict[str, Batteries]:
        power = self.view.power
        return batteries_of(power.stock, power.power.chargers, power.gear)

    def _shot(self, each: TimedPass) -> Shot:
        said, holding, lasts = self.view.plan.of_pass(each.of.setup_id), self.holdings[each.of.setup_id], each.time
        warm = max(
            (
                light.fixture.head.warm_up_min
                for light in self.evaluation(each.of).lit.built.lights
                if light.fixture and light.level > 0.0
            ),
            default=0.0,
        )
        spans = tuple((self.minute(a), self.minute(b)) for a, b in holding.spans)
        return Shot(
            shot_id=each.of.setup_id,
            place_id=each.of.place_id,
            rig_min=max(lasts.rig_min, round(warm)),
            shoot_min=lasts.shoot_min,
            strike_min=lasts.strike_min,
            width=list(Width).index(each.of.setup.width),
            held=None if holding.is_free else spans,
            pinned_min=self.minute(each.of.setup.when) if said.is_pinned else None,
            is_hero=said.is_hero,
            overlap_min=lasts.overlap_min,
        )

    @cached_property
    def as_it_is(self) -> DayOrder:
        """The order of now, each pass at its own hour, at what it costs."""
        now = {each.of.setup_id: self.minute(self.shoot_at(each)) for each in self.passes}
        laid = self.to_order.with_pins(now).laid(range(len(self.passes)))
        fixed = {setup_id for setup_id in now if self.view.plan.of_pass(setup_id).is_pinned}
        return laid.late_for(fixed, self.to_order.rules.weights)

    def aims(self, each: TimedPass) -> tuple[tuple[str, tuple[datetime, ...]], ...]:
        """By the names of its boards, when each is aimed anew while it is shot, so that it goes on throwing the sun."""
        clock, power = self.shooting.clock, self.view.power
        start, end = clock(each.shoot_min), clock(each.strike_min)
        return board_aims(each.of.setup, power.surroundings(each.of), start, end, power.gear, power.rules)

    def held_up(self, each: TimedPass) -> tuple[datetime, str] | None:
        """Until when what the pass before leaves hot or empty keeps it from being shot, and what; None where it is
        ready.
        """
        at = self.passes.index(each)
        before = self.passes[at - 1] if at else None
        wait = self.wait(before.of.setup_id, each.of.setup_id) if before else None
        if before is None or wait is None or before.strike_min + wait.minutes <= each.shoot_min:
            return None
        return self.shooting.clock(before.strike_min + wait.minutes), wait.why

    @cached_property
    def best(self) -> Ordered:
        """The cheapest that is found."""
        return _ORDERS.get_or_make(self._order_key, lambda: ordered(self.to_order))

    @cached_property
    def schools(self) -> dict[DaySchool, DayOrder]:
        """As each would have it."""
        return {school: self._of_school(school) for school in DaySchool}

    def _of_school(self, school: DaySchool) -> DayOrder:
        return _SCHOOLS.get_or_make((school, self._order_key), lambda: of_school(self.to_order, school))

    @property
    def _order_key(self) -> Hashable:
        """All that an order depends on."""
        day = self.to_order
        gaps = b"" if day.gaps is None else day.gaps.tobytes()
        return day.shots, day.rules, day.pieces.tobytes(), gaps

    def missed_min(self, each: TimedPass) -> float:
        """Minutes of its shoot in which its light does not hold."""
        start = self.shoot_at(each)
        return self.holdings[each.of.setup_id].missed_min(start, start + timedelta(minutes=each.time.shoot_min))

    def fails_at(self, each: TimedPass) -> tuple[datetime, str] | None:
        """When its light first fails during its shoot, and what does; None where it holds all through."""
        holding, start = self.holdings[each.of.setup_id], self.shoot_at(each)
        if holding.is_free or not self.missed_min(each):
            return None
        until = holding.until(start)
        when = start if until is None else until
        return when, "; ".join(holding.misses(holding.at(when))) or "beyond the hours that are looked at"

    def names(self) -> dict[int, str]:
        """Of the passes, by number."""
        return {each.of.setup_id: f"{each.of.setup.name}, {each.of.setup.width.value}" for each in self.passes}


def _held(evaluation: Evaluation, turn_deg: float, forecast: Forecast | None) -> Holding:
    setup = evaluation.setup
    day = (setup.when - timedelta(hours=DAY_BEGINS_H)).date()
    times = times_of_day(datetime.combine(day, time(FIRST_H)), HOURS)
    sky_at = partial(forecast.sky, usual=setup.weather) if forecast else None
    hours = hours_of_light(evaluation.lit, evaluation.gear, times, kept_standing(evaluation.lit.built), sky_at)
    return holding_of(hours, evaluation.ladder, evaluation.rules.receptor, turn_deg)


def _carried(before: JobPass | None, after: JobPass, power: PowerView) -> int:
    """Pieces that move: by the move sheet in one place, all of both from one place to another."""
    if before is after:
        return 0
    whole = [len((*each.setup.lamps, *each.setup.frames, *each.setup.flags)) for each in (before, after) if each]
    if before is None or before.place_id != after.place_id:
        return sum(whole)
    key = (before.setup, after.setup, power.gear)
    return _PIECES.get_or_make(key, lambda: len(moves(before.setup, after.setup, power.gear, power.rules.units)))


@one_transaction
def open_days(session: Session, person_id: int, job_id: int) -> DaysView:
    """Raises: NotFound, also for somebody else's job."""
    return days_view(session, person_id, job_id)


def days_view(session: Session, person_id: int, job_id: int) -> DaysView:
    """The same within an open transaction."""
    power = power_view(session, person_id, job_id)
    return DaysView(power=power, steps=around(session, days_scope(job_id)))
