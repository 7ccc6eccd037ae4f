"""The kit of a whole job: what its passes need at most at one time, what nobody may forget, and what was put in by
hand, as one list; every derived line says why it is there.
"""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import NamedTuple

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bucket.availability import with_lent
from iron_bucket.core.bucket.bucket_plan import Borrowed
from iron_bucket.core.bucket.covered import covered, sort_of
from iron_bucket.core.bucket.entry import LONGEST_PURPOSE, Entry
from iron_bucket.core.bucket.job_needs import job_needs
from iron_bucket.core.bucket.kit_pass import KitPass
from iron_bucket.core.bucket.need import Need, Sort, by_sort, entries_of, quantity_of
from iron_bucket.core.bucket.peak import Peak, peaks_of
from iron_bucket.core.bucket.why import Why
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.power.job.kit import JobPower


@dataclass(frozen=True, slots=True, kw_only=True)
class KitLine:
    """One sort of thing. ``by_hand``: put in by somebody; ``derived``: what passes and rules need; ``beyond``: of that,
    what by_hand does not serve. ``peak`` None where no pass needs it.
    """

    sort: Sort
    kind: str
    item: Item
    by_hand: int
    derived: int
    beyond: int
    whys: tuple[Why, ...]
    peak: Peak | None = None

    @property
    def quantity(self) -> int:
        """To bring."""
        return self.by_hand + self.beyond

    @property
    def has_outgrown(self) -> bool:
        """Whether set-ups need more than somebody put in for them."""
        return self.by_hand > 0 and self.beyond > 0

    def weight_of(self, quantity: int) -> float:
        """Kilograms of so many of them; of heads with driver and cable."""
        return self.item.total_kg * self.area_m2 * quantity

    @property
    def area_m2(self) -> float:
        """Of a cloth; 1 of everything that does not go by area."""
        return self.sort[1]


@dataclass(frozen=True, kw_only=True)
class JobKit:
    """``by_hand``: entries as they were put in; ``derived``: those beyond them, with numbers below 0. ``left_out``:
    what cannot be brought, in words. ``battery_sets``: of each kind what is by hand or on plates, before any reckoning
    of hours.
    """

    by_hand: tuple[Entry, ...] = ()
    derived: tuple[Entry, ...] = ()
    lines: tuple[KitLine, ...] = ()
    passes: tuple[KitPass, ...] = ()
    left_out: tuple[str, ...] = ()
    battery_sets: Mapping[str, int] = field(default_factory=dict)
    away: Mapping[str, int] = field(default_factory=dict)

    @property
    def entries(self) -> tuple[Entry, ...]:
        """All of it: those by hand first."""
        return (*self.by_hand, *self.derived)

    @cached_property
    def by_sort(self) -> dict[Sort, KitLine]:
        """The lines by what they are of."""
        return {line.sort: line for line in self.lines}


def job_kit(
    passes: Sequence[KitPass],
    by_hand: Sequence[Entry],
    power: JobPower,
    gear: Gear,
    rules: HouseRules,
    trouble: Sequence[str] = (),
    borrowed: Sequence[Borrowed] = (),
) -> JobKit:
    """``trouble``: what could not be read before, in words."""
    peaks = peaks_of(passes)
    job = job_needs(passes, peaks, power, gear, rules)
    more, floors = by_sort(job.needs), by_sort(job.floors)
    told = {sort: _Told(peaks.get(sort), more.get(sort, ()), floors.get(sort, ())) for sort in (*peaks, *more, *floors)}
    derived = {sort: each.derived for sort, each in told.items()}
    serves = covered(by_hand, derived)
    beyond = {sort: max(count - serves[sort], 0) for sort, count in derived.items()}
    entries = [entry for sort, count in beyond.items() for entry in told[sort].beyond(count)]
    placed = dict.fromkeys(words for each in passes for kit in each.kits for words in kit.left_out)
    return JobKit(
        by_hand=tuple(by_hand),
        derived=tuple(replace(entry, entry_id=-1 - at) for at, entry in enumerate(entries)),
        lines=_lines(by_hand, told, beyond),
        passes=tuple(passes),
        left_out=(*trouble, *placed, *job.left_out),
        battery_sets=_battery_sets(by_hand, told, serves),
        away=with_lent(gear.away, borrowed),
    )


class _Told(NamedTuple):
    """What asks for one sort of thing: passes, the job, and what there has to be at least."""

    peak: Peak | None = None
    more: tuple[Need, ...] = ()
    floors: tuple[Need, ...] = ()

    @property
    def needs(self) -> tuple[Need, ...]:
        """Unit by unit, then what is at least."""
        return (*(self.peak.heaviest if self.peak else ()), *self.more, *self.floors)

    @property
    def derived(self) -> int:
        """How many there have to be."""
        count = (self.peak.quantity if self.peak else 0) + quantity_of(self.more)
        return max(count, quantity_of(self.floors))

    def beyond(self, count: int) -> list[Entry]:
        """So many entries of them, those that draw least: what is by hand stands in for the heaviest."""
        whole = entries_of((*(self.peak.heaviest if self.peak else ()), *self.more))
        if sum(entry.quantity for entry in whole) != self.derived:
            whole = [replace(self.needs[0].entry, quantity=self.derived)]
        skip, found = self.derived - count, []
        for entry in whole:
            left, skip = max(entry.quantity - skip, 0), max(skip - entry.quantity, 0)
            if left:
                found.append(replace(entry, quantity=left, purpose=self._purpose()))
        return found

    def _purpose(self) -> str:
        names = dict.fromkeys(each.name.rpartition(",")[0] for each, _ in (self.peak.everywhere if self.peak else ()))
        words = [f"placed in {', '.join(names)}"] if names else []
        words += dict.fromkeys(need.figure for need in (*self.more, *self.floors))
        return "; ".join(words)[:LONGEST_PURPOSE]

    def whys(self) -> tuple[Why, ...]:
        """Each once."""
        of_passes = self.peak.everywhere if self.peak else ()
        found = [Why(setup=each.name, rule=need.rule, figure=need.figure) for each, need in of_passes]
        found += [Why(setup="", rule=need.rule, figure=need.figure) for need in (*self.more, *self.floors)]
        return tuple(dict.fromkeys(found))


def _lines(by_hand: Sequence[Entry], told: Mapping[Sort, _Told], beyond: Mapping[Sort, int]) -> tuple[KitLine, ...]:
    """What is on the bench now before what went into the bucket once."""
    hand: dict[Sort, list[Entry]] = {}
    for entry in by_hand:
        hand.setdefault(sort_of(entry), []).append(entry)
    found = []
    for sort in dict.fromkeys((*hand, *told)):
        each, own = told.get(sort, _Told()), hand.get(sort, [])
        example = each.needs[0].entry if each.needs else own[0]
        found.append(
            KitLine(
                sort=sort,
                kind=example.kind,
                item=example.item,
                by_hand=sum(entry.quantity for entry in own),
                derived=each.derived,
                beyond=beyond.get(sort, 0),
                whys=each.whys(),
                peak=each.peak,
            )
        )
    return tuple(found)


def _battery_sets(by_hand: Sequence[Entry], told: Mapping[Sort, _Told], serves: Mapping[Sort, int]) -> dict[str, int]:
    found: Counter[str] = Counter()
    for entry in by_hand:
        found[entry.item.slug] += entry.quantity if isinstance(entry.item, BatteryKind) else 0
    for sort, each in told.items():
        if each.peak and each.needs[0].entry.kind == "batteries":
            found[sort[0]] += max(each.peak.quantity - serves[sort], 0)
    return +found
