"""The days of a job as their pages show them: passes in order over the sun's hours, with the light that each has."""

from collections.abc import Hashable
from dataclasses import dataclass, replace
from datetime import date, datetime, time, timedelta
from functools import cached_property
from zoneinfo import ZoneInfo

import numpy as np
from sqlalchemy.orm import Session

from iron_bucket.core.daylight.sun_day import SunDay, sun_day
from iron_bucket.core.days.day_plan import DayPlan
from iron_bucket.core.days.holding import Holding, holding_of
from iron_bucket.core.days.hours_of_light import hours_of_light, times_of_day
from iron_bucket.core.days.order import Day, DayOrder, Shot
from iron_bucket.core.days.ordering import DaySchool, Ordered, of_school, ordered
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.job.shooting_day import DAY_BEGINS_H, JobPass, ShootingDay, TimedPass
from iron_bucket.core.setups.evaluation import Evaluation
from iron_bucket.core.setups.plan.setup import Width
from iron_bucket.core.setups.sheet.moves import moves
from iron_bucket.desk.bounded_cache import BoundedCache
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.power.view import PowerView, power_view
from iron_bucket.desk.setups.kept import kept_evaluation
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.formats.record_json import read_record
from iron_bucket.store.days import DayPlanRow, day_plan_row
from iron_bucket.store.history import Around, Scope, ScopeKind, around

_HOLDINGS: BoundedCache[Hashable, Holding] = BoundedCache(600)
_PIECES: BoundedCache[Hashable, int] = BoundedCache(20_000)
#: Light is looked at from here on, for so long, in the clock of the place.
FIRST_H, HOURS = 5, 22


def days_scope(job_id: int) -> Scope:
    """Within what changes of a job's days are undone."""
    return Scope(ScopeKind.DAYS, job_id)


@dataclass(eq=False, kw_only=True)
class DaysView:
    """``power`` holds the job with its passes in their places; ``plan`` what was said of its days."""

    power: PowerView
    plan: DayPlan
    steps: Around

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
        """By the numbers of the passes: when the light of each holds."""
        return {each.of.setup_id: self._holding(each.of) for each in self.passes}

    def _holding(self, each: JobPass) -> Holding:
        around_it, gear, rules = self.view.power.surroundings(each), self.view.power.gear, self.view.power.rules
        turn_deg = self.view.plan.turn_deg
        key = (each.setup, around_it, gear, rules, turn_deg)
        return _HOLDINGS.get_or_make(key, lambda: _held(self.evaluation(each), around_it, turn_deg))

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
        pieces = np.zeros((count + 1, count))
        for to, after in enumerate(self.passes):
            for at, before in enumerate((*self.passes, None)):
                pieces[at, to] = _carried(before.of if before else None, after.of, power)
        earliest = min(
            (shot.pinned_min or self.minute(each.of.setup.when)) - shot.rig_min
            for shot, each in zip(shots, self.passes, strict=True)
        )
        return Day(shots=shots, pieces=pieces, rules=plan.rules(self.day, max(earliest, 0)))

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
        )

    @cached_property
    def as_it_is(self) -> DayOrder:
        """The order of now, each pass at its own hour, at what it costs."""
        now = {each.of.setup_id: self.minute(self.shoot_at(each)) for each in self.passes}
        laid = self.to_order.with_pins(now).laid(range(len(self.passes)))
        # Late is what is behind its fixed hour alone: everything else stands where it was put.
        late = sum(each.late_min for each in laid.placed if self.view.plan.of_pass(each.shot.shot_id).is_pinned)
        total = laid.cost.total - (laid.cost.late_min - late) * self.view.plan.late
        return replace(laid, cost=replace(laid.cost, late_min=late, total=total))

    @cached_property
    def best(self) -> Ordered:
        """The cheapest that is found."""
        return ordered(self.to_order)

    @cached_property
    def schools(self) -> dict[DaySchool, DayOrder]:
        """As each would have it."""
        return {school: of_school(self.to_order, school) for school in DaySchool}

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


def _held(evaluation: Evaluation, around_it: Surroundings, turn_deg: float) -> Holding:
    setup = evaluation.setup
    day = (setup.when - timedelta(hours=DAY_BEGINS_H)).date()
    times = times_of_day(datetime.combine(day, time(FIRST_H)), HOURS)
    hours = hours_of_light(evaluation.lit, evaluation.gear, times)
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
    plan = plan_of(day_plan_row(session, job_id))
    return DaysView(power=power, plan=plan, steps=around(session, days_scope(job_id)))


def plan_of(row: DayPlanRow | None) -> DayPlan:
    """What was said, else nothing."""
    return read_record(DayPlan, row.document) if row else DayPlan()
