"""The power of a job as its pages show it: passes with what hangs where, and the days on it."""

from collections.abc import Hashable
from dataclasses import dataclass
from functools import cached_property

from sqlalchemy.orm import Session

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.cautions.rules import Caution
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.job.battery_hours import Stock, stock_of
from iron_bucket.core.power.job.burning_bars import CircuitKey
from iron_bucket.core.power.job.cable_plan import CablePlan
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.power.job.load_board import CircuitBar, LoadBoard, load_board
from iron_bucket.core.power.job.outlets import FedPlace, fed_place
from iron_bucket.core.power.job.pass_leads import leads_of
from iron_bucket.core.power.job.pass_loads import PassLoad, PassLoads, pass_loads
from iron_bucket.core.power.job.power_cautions import power_cautions
from iron_bucket.core.power.job.shooting_day import JobPass, ShootingDay, shooting_days
from iron_bucket.core.power.job.ways_out import WayOut, ways_in, ways_out
from iron_bucket.core.power.job.worst_minute import WorstMinute, worst_minutes
from iron_bucket.desk.bounded_cache import BoundedCache
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.job_contents import JobContents, job_contents
from iron_bucket.desk.jobs import JobView, require_job, rules_from, view_of
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.store.history import NO_STEPS, Around, Scope, ScopeKind, around

_LOADS: BoundedCache[Hashable, PassLoads] = BoundedCache(1000)


def power_scope(job_id: int) -> Scope:
    """Within what changes of a job's power are undone."""
    return Scope(ScopeKind.POWER, job_id)


@dataclass(eq=False, kw_only=True)
class PowerView:
    """``passes`` in the job's order; ``surroundings`` of their places, with the job's outlets, by number; ``fed`` says
    which outlets those are. ``trouble``: what cannot be read, in words.
    """

    job: JobView
    contents: JobContents
    passes: tuple[JobPass, ...]
    fed: dict[int, FedPlace]
    steps: Around
    trouble: tuple[str, ...]

    @property
    def power(self) -> JobPower:
        """What the job brings."""
        return self.contents.power

    @property
    def gear(self) -> Gear:
        """The bench."""
        return self.contents.gear

    @property
    def rules(self) -> HouseRules:
        """The job's."""
        return self.job.rules

    def pass_of(self, setup_id: int | None) -> JobPass | None:
        """One of them, the first where none is named; None in a job without any. Raises: NotFound for a wrong one."""
        if setup_id is None:
            return self.passes[0] if self.passes else None
        found = next((each for each in self.passes if each.setup_id == setup_id), None)
        if found is None:
            raise NotFound("there is no such pass in this job now")
        return found

    def surroundings(self, each: JobPass) -> Surroundings:
        """Of a pass."""
        return self.contents.places[each.place_id]

    @cached_property
    def stock(self) -> dict[str, Stock]:
        """Batteries that the job has: as it says, else what the bucket holds."""
        return stock_of(self.power, self.contents.kit(self.rules).battery_sets)

    @cached_property
    def loads(self) -> dict[int, PassLoads]:
        """By the numbers of the passes."""
        return {each.setup_id: self._loads(each) for each in self.passes}

    def _loads(self, each: JobPass) -> PassLoads:
        school, gear, power = self.rules.scrim_school, self.gear, self.power
        key = (each.setup, each.setup_id, each.place_id, power, gear, school)
        return _LOADS.get_or_make(
            key, lambda: pass_loads(each.setup, each.setup_id, each.place_id, power, gear, school)
        )

    @cached_property
    def boards(self) -> dict[int, LoadBoard]:
        """By the numbers of the passes."""
        counts = {slug: each.count for slug, each in self.stock.items()}
        return {
            each.setup_id: load_board(
                self.fed[each.place_id], self.loads[each.setup_id].loads, self.gear, self.rules, counts
            )
            for each in self.passes
        }

    @cached_property
    def days(self) -> tuple[ShootingDay, ...]:
        """Of all passes."""
        return shooting_days(self.passes, self.power)

    def day_of(self, setup_id: int) -> ShootingDay:
        """That a pass is shot on."""
        return next(day for day in self.days if any(each.of.setup_id == setup_id for each in day.passes))

    def worst(self, day: ShootingDay) -> dict[CircuitKey, WorstMinute]:
        """Of every circuit of a day."""
        return worst_minutes(day, self.boards)

    def cautions(self, each: JobPass) -> tuple[Caution, ...]:
        """Of one pass."""
        board, legs = self.boards[each.setup_id], self.fed[each.place_id].legs
        return power_cautions(board, legs, self.surroundings(each), self.rules.units)

    def ways_out(self, each: JobPass, bar: CircuitBar) -> tuple[WayOut, ...]:
        """Of one circuit that has too much on it."""
        around = self.surroundings(each)
        board = self.boards[each.setup_id]
        return ways_out(bar, board, around.place, around.lead_ways, self.gear, self.rules.units)

    def ways_in(self, each: JobPass, load: PassLoad) -> tuple[WayOut, ...]:
        """Of a load that hangs nowhere."""
        around = self.surroundings(each)
        board = self.boards[each.setup_id]
        return ways_in(load, board, around.place, around.lead_ways, self.gear, self.rules.units)

    def leads(self, each: JobPass) -> CablePlan:
        """Of one pass."""
        around, units = self.surroundings(each), self.rules.units
        return leads_of(self.boards[each.setup_id], each.setup, around, self.power, self.gear, units)

    def fed_loads(self) -> dict[int, tuple[PassLoad, ...]]:
        """Loads by the numbers of the passes; what hangs on an outlet that is not there hangs nowhere."""
        return {setup_id: self.boards[setup_id].fed(each.loads) for setup_id, each in self.loads.items()}


@one_transaction
def open_power(session: Session, person_id: int, job_id: int) -> PowerView:
    """Raises: NotFound, also for somebody else's job."""
    return power_view(session, person_id, job_id)


def power_view(session: Session, person_id: int, job_id: int) -> PowerView:
    """The same within an open transaction."""
    row = require_job(session, person_id, job_id)
    contents = job_contents(session, [job_id])[job_id]
    job = view_of(row, contents.kit(rules_from(row.rules)))
    return power_of_contents(job, contents, around(session, power_scope(job_id)))


def power_of_contents(job: JobView, contents: JobContents, steps: Around = NO_STEPS) -> PowerView:
    """Of a job whose contents are at hand."""
    passes, trouble = [], list(contents.trouble)
    for each in contents.setups:
        try:
            if each.place_id in contents.places:
                passes.append(contents.pass_of(each))
        except BadValue as bad:
            trouble.append(f"{each.document.get('name', 'a set-up')}: {bad}")
    fed = {
        place_id: fed_place(contents.bare[place_id].place, place_id, contents.power)
        for place_id in {each.place_id for each in passes}
    }
    return PowerView(job=job, contents=contents, passes=tuple(passes), fed=fed, steps=steps, trouble=tuple(trouble))
