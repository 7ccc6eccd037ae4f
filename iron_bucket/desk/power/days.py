"""A day on batteries as its page shows it: how it burns, and what would make it last."""

from collections.abc import Hashable
from dataclasses import dataclass
from datetime import date
from functools import cached_property, partial

from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.battery_day import BatteryDay
from iron_bucket.core.power.burn_day import BurntDay, Event
from iron_bucket.core.power.job.battery_advice import Loads, Saving, charging_places, enough_of_each, savings
from iron_bucket.core.power.job.battery_hours import BatteryHours, Outcome, battery_hours
from iron_bucket.core.power.job.shooting_day import JobPass, ShootingDay
from iron_bucket.desk.bounded_cache import BoundedCache
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.power.view import PowerView

#: A day is simulated once for every page that asks for it; looking for the least takes some dozens of days.
_BURNT: BoundedCache[BatteryDay, BurntDay] = BoundedCache(40)
_ENOUGH: BoundedCache[BatteryDay, dict[str, int] | None] = BoundedCache(100)
_CHARGED: BoundedCache[Hashable, dict[int, int | None]] = BoundedCache(100)
_SAVED: BoundedCache[Hashable, tuple[Saving, ...]] = BoundedCache(100)


@dataclass(kw_only=True, eq=False)
class DayView:
    """``day`` with its ``hours`` on batteries; what follows is computed when it is first asked for."""

    view: PowerView
    day: ShootingDay
    hours: BatteryHours

    @cached_property
    def burnt(self) -> BurntDay:
        """Minute by minute."""
        return _BURNT.get_or_make(self.hours.day, self.hours.burnt)

    @property
    def outcome(self) -> Outcome:
        """When each lamp goes dark."""
        return Outcome.of(self.burnt)

    @property
    def is_cold_as_told(self) -> bool:
        """Whether its batteries are as cold as the weather was told to be."""
        told = [told_celsius(self.view, self.day, place_id) for place_id in self.view.contents.places]
        return self.hours.temperature_c in [each for each in told if each is not None]

    @cached_property
    def enough(self) -> dict[str, int] | None:
        """The least of each kind that lasts the day."""
        return _ENOUGH.get_or_make(self.hours.day, lambda: enough_of_each(self.hours))

    @property
    def is_short(self) -> bool:
        """Whether more batteries than there are would help."""
        counts = {each.kind_id: each.count for each in self.hours.day.kinds}
        return self.enough is not None and any(counts[kind] < count for kind, count in self.enough.items())

    @cached_property
    def savings(self) -> tuple[Saving, ...]:
        """What one stop less, or another head, saves."""
        loads, gear = self.view.fed_loads(), self.view.gear
        build, chains = partial(_hours, self.view, self.day), {each.setup_id: each.chain for each in self.view.passes}
        # What is said of lamps names them, and hangs on their colour.
        passes = tuple((each.setup_id, each.chain, each.place_name, each.setup) for each in self.view.passes)
        key = (self.hours.day, gear, passes, self.view.power)
        return _SAVED.get_or_make(key, lambda: tuple(savings(loads, chains, build, gear)))

    @cached_property
    def charging(self) -> dict[int, int | None]:
        """By place, when it goes dark with all chargers there; nothing where the job has none, or nothing goes dark."""
        if not self.hours.day.chargers or self.outcome.first_min is None:
            return {}
        where = tuple(each.of.place_id for each in self.day.passes), tuple(each.place_id for each in self.day.phases)
        return _CHARGED.get_or_make((self.hours.day, where), lambda: charging_places(self.hours, self.day))

    @property
    def events(self) -> tuple[Event, ...]:
        """Swaps and what goes dark, in their order."""
        return self.burnt.events

    def unit_name(self, unit: int) -> str:
        """By its number among its kind."""
        kind = int(self.burnt.unit_kind[unit])
        first = int((self.burnt.unit_kind < kind).sum())
        return f"no. {unit - first + 1}"

    def lamp_name(self, lamp_id: str) -> str:
        """As it is called in its set-up."""
        return next(each.name for each in self.hours.lamps if each.lamp_id == lamp_id)


def _hours(view: PowerView, day: ShootingDay, loads: Loads) -> BatteryHours:
    celsius = {place_id: _celsius(view, day, place_id) for place_id in view.contents.places}
    return battery_hours(day, loads, view.power, view.gear, view.stock, celsius)


def _celsius(view: PowerView, day: ShootingDay, place_id: int) -> float | None:
    """As cold as it was told to get; else as the place is said to get."""
    told = told_celsius(view, day, place_id)
    return view.contents.places[place_id].place.temperature_c if told is None else told


def told_celsius(view: PowerView, day: ShootingDay, place_id: int) -> float | None:
    """How cold the weather was told to be while lamps on batteries are out there; None where it was not, or none is."""
    around, forecast = view.contents.places[place_id], view.contents.days.forecast(place_id, day.day)
    told = [
        forecast.within(day.clock(each.rig_min), day.clock(each.end_min))
        for each in day.passes
        if forecast and each.of.place_id == place_id and _burns_outside(view, each.of, around)
    ]
    return min((each.temperature_c for each in told if each is not None), default=None)


def _burns_outside(view: PowerView, each: JobPass, around: Surroundings) -> bool:
    loads = view.loads[each.setup_id].loads
    return any(load.is_on_battery and around.room_at(load.x_m, load.y_m) is None for load in loads)


def day_view(view: PowerView, day: date | None, setup_id: int | None = None) -> DayView | None:
    """A day of the job: the one that is named, else that of a pass, else the first; None in a job without passes.

    Raises: NotFound for a day without a pass.
    """
    if not view.days:
        return None
    found: ShootingDay | None = view.days[0]
    if day is not None:
        found = next((each for each in view.days if each.day == day), None)
    elif setup_id is not None:
        view.pass_of(setup_id)
        found = view.day_of(setup_id)
    if found is None:
        raise NotFound("nothing is shot on that day")
    return DayView(view=view, day=found, hours=_hours(view, found, view.fed_loads()))


def enough_changes(shown: DayView) -> list[dict[str, object]]:
    """Changes to the job's batteries that bring the least that lasts the day, keeping those that are there.

    Raises: NoAnswer where no number lasts.
    """
    if shown.enough is None:
        raise NoAnswer("No number of batteries lasts this day: a lamp asks more than its batteries may give at all.")
    power = shown.view.power
    changes: list[dict[str, object]] = []
    for kind_id, count in shown.enough.items():
        rows = [row for row in power.batteries if row.kind == kind_id]
        missing = count - sum(row.count for row in rows)
        if rows and missing > 0:
            to = {"count": rows[0].count + missing}
            changes.append({"operation": "set", "where": "batteries", "piece_id": rows[0].piece_id, "to": to})
        elif not rows:
            piece = {"piece_id": f"stock-{kind_id}", "kind": kind_id, "name": "", "count": count}
            changes.append({"operation": "add", "where": "batteries", "to": piece})
    return changes
