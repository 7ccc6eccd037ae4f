"""A pass with its kit and the time that the kit is out: from the first stand of its rig to the last of its strike."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from functools import cached_property

from iron_bucket.core.bucket.need import Need, Sort, by_sort
from iron_bucket.core.bucket.pass_kit import PassKit
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.power.job.shooting_day import JobPass, shooting_days

#: Minutes are counted from here: any time before the first film does.
_BEGIN = datetime(1900, 1, 1)


@dataclass(frozen=True, kw_only=True, eq=False)
class KitPass:
    """``chain``: the number of the first pass that it varies: a piece of the same id is the same there. ``start_min``
    to ``end_min``: while its kit is out, in minutes that run on over all days; ``lit_h``: its lamps burn so long.
    """

    setup_id: int
    chain: int
    name: str
    place_name: str
    day: date
    start_min: int
    end_min: int
    lit_h: float
    kits: tuple[PassKit, ...]

    @cached_property
    def by_sort(self) -> dict[Sort, tuple[Need, ...]]:
        """Of each sort all that need it, the one that draws most first."""
        return by_sort(each for kit in self.kits for each in kit.needs)

    @property
    def starts(self) -> datetime:
        """By the clock of its place."""
        return clock(self.start_min)


def clock(minute: int) -> datetime:
    """What it says at a minute of all days."""
    return _BEGIN + timedelta(minutes=minute)


def kit_passes(
    passes: Sequence[JobPass],
    kits: Mapping[int, tuple[PassKit, ...]],
    power: JobPower,
    together: Iterable[tuple[int, int]],
) -> tuple[KitPass, ...]:
    """In the order of the days. ``together``: numbers of two passes, of which the first stays up until the other is
    struck.
    """
    found: list[KitPass] = []
    for day in shooting_days(passes, power):
        begins = int((day.begins - _BEGIN).total_seconds() // 60)
        found += (
            KitPass(
                setup_id=each.of.setup_id,
                chain=each.of.chain,
                name=f"{each.of.setup.name}, {each.of.setup.width.value}",
                place_name=each.of.place_name,
                day=day.day,
                start_min=begins + each.rig_min,
                end_min=begins + max(each.end_min, each.rig_min + 1),
                lit_h=(each.strike_min - each.lit_min) / 60.0,
                kits=kits.get(each.of.setup_id, ()),
            )
            for each in day.passes
        )
    return _joined(found, together)


def _joined(passes: list[KitPass], together: Iterable[tuple[int, int]]) -> tuple[KitPass, ...]:
    """The earlier of two stays up until the later is struck."""
    by_number = {each.setup_id: each for each in passes}
    for one, other in together:
        if one not in by_number or other not in by_number:
            continue
        first, last = sorted((by_number[one], by_number[other]), key=lambda each: each.start_min)
        by_number[first.setup_id] = replace(first, end_min=max(first.end_min, last.end_min))
    return tuple(by_number.values())
