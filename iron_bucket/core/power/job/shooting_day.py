"""A day of passes one after the other: what is rigged, shot and struck when, and which lamps burn meanwhile."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from functools import cached_property
from itertools import pairwise

from iron_bucket.core.power.job.kit import JobPower, PassTime
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.core.typical import typical

#: A night's shoot belongs to the day it began on: a new day begins at this hour.
DAY_BEGINS_H = 5


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class JobPass:
    """A pass of the job; ``chain``: the number of the first pass that it varies, its own for a first one."""

    setup_id: int
    chain: int
    place_id: int
    place_name: str
    setup: Setup


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class TimedPass:
    """Minutes from the day's beginning: its rig begins, its lamps are lit for the first time, it is shot, it is struck,
    it is gone.
    """

    of: JobPass
    time: PassTime
    rig_min: int
    lit_min: int
    shoot_min: int
    strike_min: int
    end_min: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Burning:
    """A pass whose lamps burn in a phase; ``share`` of the time, standing by in the rest."""

    at: int
    share: float


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Phase:
    """Minutes ``start`` to ``end`` in which nothing changes: passes that burn by their places in the day; ``place_id``:
    where the crew is.
    """

    start_min: int
    end_min: int
    burning: tuple[Burning, ...]
    place_id: int

    @property
    def minutes(self) -> int:
        """How long."""
        return self.end_min - self.start_min


@dataclass(frozen=True, eq=False, kw_only=True)
class ShootingDay:
    """``begins``: when the first rig does, by the clock of its place."""

    day: date
    begins: datetime
    passes: tuple[TimedPass, ...]

    def clock(self, minute: int) -> datetime:
        """What it says at a minute of the day."""
        return self.begins + timedelta(minutes=minute)

    @property
    def end_min(self) -> int:
        """When the last pass is struck."""
        return max((each.end_min for each in self.passes), default=0)

    @cached_property
    def phases(self) -> tuple[Phase, ...]:
        """One after the other, from the beginning to the end."""
        edges = {0, self.end_min}
        for each in self.passes:
            edges |= {each.lit_min, each.shoot_min, each.strike_min, each.rig_min}
        marks = sorted(edges)
        return tuple(self._phase(start, end) for start, end in pairwise(marks))

    def _phase(self, start: int, end: int) -> Phase:
        burning = tuple(
            Burning(at=at, share=each.time.lit_share if start >= each.shoot_min else 1.0)
            for at, each in enumerate(self.passes)
            if each.lit_min <= start < each.strike_min
        )
        here = [each for each in self.passes if each.rig_min <= start] or list(self.passes[:1])
        return Phase(start_min=start, end_min=end, burning=burning, place_id=here[-1].of.place_id)


def usual_time(setup_id: int, *, is_first: bool) -> PassTime:
    """What a pass takes that nobody has timed, typical."""
    table = typical("power")["first_pass_min" if is_first else "next_pass_min"]
    minutes = {f"{name}_min": int(value) for name, value in table.items()}
    return PassTime(piece_id=f"pass-{setup_id}", setup_id=setup_id, **minutes)


def time_of(each: JobPass, power: JobPower) -> PassTime:
    """As it was set, else typical for such a crew."""
    return power.time_of(each.setup_id) or power.paced(usual_time_of(each))


def usual_time_of(each: JobPass) -> PassTime:
    """What it takes typically."""
    return usual_time(each.setup_id, is_first=each.chain == each.setup_id)


def day_of(setup: Setup) -> date:
    """The day that a pass is shot on."""
    return (setup.when - timedelta(hours=DAY_BEGINS_H)).date()


def shooting_days(passes: Sequence[JobPass], power: JobPower) -> tuple[ShootingDay, ...]:
    """The days of a job, each with its passes by their hours."""
    days = sorted({day_of(each.setup) for each in passes})
    by_hour = sorted(passes, key=lambda each: each.setup.when)
    return tuple(_timed(day, [each for each in by_hour if day_of(each.setup) == day], power) for day in days)


def _timed(day: date, passes: list[JobPass], power: JobPower) -> ShootingDay:
    """No pass is shot before its own hour: the light of the place is planned for it."""
    begins = passes[0].setup.when - timedelta(minutes=time_of(passes[0], power).rig_min)
    found: list[TimedPass] = []
    for each in passes:
        time = time_of(each, power)
        wished = round((each.setup.when - begins).total_seconds() / 60.0)
        free = found[-1].end_min if found else 0
        shoot = max(free - time.overlap_min + time.rig_min, wished, found[-1].strike_min if found else 0)
        rig = max(shoot - time.rig_min, 0)
        lit = shoot - round(time.rig_min * float(typical("power")["lit_while_rigging"]))
        strike = shoot + time.shoot_min
        end = strike + time.strike_min
        timed = TimedPass(of=each, time=time, rig_min=rig, lit_min=lit, shoot_min=shoot, strike_min=strike, end_min=end)
        found.append(timed)
    return ShootingDay(day=day, begins=begins, passes=tuple(found))
