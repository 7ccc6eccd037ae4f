"""The problem of a whole job: the work of every lamp in every pass, what could do it, and what of all that stays as it
is.
"""

import math
from collections import Counter
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import BUILT_IN, Head
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bucket.availability import ready
from iron_bucket.core.bucket.best.candidates import FIELDS, FreeLamp, free_lamps, lux_of, others_for
from iron_bucket.core.bucket.best.problem import Choice, Figures, PassLight, Problem, Seat
from iron_bucket.core.bucket.entry import Entry
from iron_bucket.core.bucket.hire import hire_price
from iron_bucket.core.bucket.job_kit import JobKit
from iron_bucket.core.bucket.kit_pass import KitPass
from iron_bucket.core.bucket.load.piece import packed_size_m
from iron_bucket.core.bucket.need import Sort, quantity_of
from iron_bucket.core.bucket.pass_kit import pass_kit
from iron_bucket.core.bucket.peak import out_together
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.selection.packing import PackedBench
from iron_bucket.core.setups.evaluate.ladder import RungKind, ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.plan.setup import TYPICAL_TOLERANCE_STOPS, PlacedLamp
from iron_bucket.core.setups.scene.fixture import Fixture, fixture_of
from iron_bucket.core.setups.suggest.set_levels import wanted_lx

#: A lamp that gives this share of a target's light serves it; any other keeps its own light where it gives most.
_SERVES = 0.25
#: Below this a lamp gives nothing to speak of.
_DIM_LX = 1e-3
#: What a dimmer's steps may cost.
_DIAL_STOPS = 0.02
#: A case is filled to about this share; without cases on the bench one holds so much.
_FILLED, _TYPICAL_CASE_M3 = 0.7, 0.12
#: A list of the bench, and what of it.
_Thing = tuple[str, Item]
#: Told of passes: how many are done, of how many.
Progress = Callable[[int, int], None]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SeatOf:
    """Which lamp of which pass a seat is for; ``fields`` of each of its choices, today's first."""

    setup_id: int
    placed: PlacedLamp
    fields: tuple[dict[str, Any], ...]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class JobProblem:
    """``problem``, its seats told; ``target_names``: of the marks of each pass that have a target."""

    problem: Problem
    seats: tuple[SeatOf, ...]
    target_names: Mapping[int, Mapping[int, str]] = field(default_factory=dict)


def job_problem(
    scenes: Mapping[int, LitScene],
    kit: JobKit,
    bench: PackedBench,
    gear: Gear,
    rules: HouseRules,
    days: int,
    progress: Progress = lambda done, of: None,
    head: str = "",
) -> JobProblem:
    """``scenes`` by the numbers of the passes of ``kit``; those without one stay as they are. ``bench``: heads with
    what goes on them. ``days`` that hired things are paid for. ``head``: with seats for the lamps of that one alone.
    """
    maker = _Maker(scenes, kit, bench, gear, rules, days, head)
    for done, each in enumerate(kit.passes):
        progress(done, len(kit.passes))
        if each.setup_id in scenes:
            maker.take(each, scenes[each.setup_id])
        else:
            maker.stay(each)
    return maker.made()


class _Maker:
    def __init__(
        self,
        scenes: Mapping[int, LitScene],
        kit: JobKit,
        bench: PackedBench,
        gear: Gear,
        rules: HouseRules,
        days: int,
        head: str,
    ) -> None:
        self.scenes, self.kit, self.bench, self.gear, self.rules, self.days = scenes, kit, bench, gear, rules, days
        self.head = head
        self.others: dict[str, tuple[dict[str, Any], ...]] = {}
        self.seats: list[tuple[Seat, SeatOf]] = []
        self.lights: list[PassLight] = []
        self.fixed: dict[int, Counter[Sort]] = {}
        self.names: dict[int, dict[int, str]] = {}
        self.case_m3 = _case_m3(gear)
        self.things: dict[Sort, _Thing] = {}

    def stay(self, each: KitPass) -> None:
        """A pass that nothing is chosen in."""
        self.fixed[each.setup_id] = Counter({sort: quantity_of(needs) for sort, needs in each.by_sort.items()})
        self.things |= {sort: _thing(needs[0].entry) for sort, needs in each.by_sort.items()}

    def take(self, each: KitPass, lit: LitScene) -> None:
        """A pass with what could stand in it."""
        self.stay(each)
        stands = [stand for stand in free_lamps(lit) if self._is_asked(stand.placed)]
        light, names = _light_of(each.setup_id, lit, stands, self.rules)
        self.lights.append(light)
        self.names[each.setup_id] = names
        asked = [(stand, self._fields(each, lit, stand)) for stand in stands]
        lamps = [replace(stand.placed, **fields) for stand, several in asked for fields in several]
        lux = lux_of(lit, lamps, self.gear, self.rules)
        begin = 0
        for stand, several in asked:
            rows = lux[begin : begin + len(several)]
            rows[0] = lit.response.whole_lx[stand.at]  # to the last digit: what holds today has to hold here
            begin += len(several)
            self._seat(each, lit, stand, several, rows)

    def _is_asked(self, placed: PlacedLamp) -> bool:
        return not placed.is_practical and self.head in ("", self._fixture(placed).head.slug)

    def _fixture(self, placed: PlacedLamp) -> Fixture:
        return fixture_of(placed, self.gear, self.rules.scrim_school)

    def _fields(self, each: KitPass, lit: LitScene, stand: FreeLamp) -> tuple[dict[str, Any], ...]:
        """Today's, then others: the same ones in all passes of a chain that have the same lamp there."""
        today = {name: getattr(stand.placed, name) for name in FIELDS}
        group = self._group(each, stand)
        if group not in self.others:
            other = others_for(lit, stand, self.bench, self.gear, self.rules)
            self.others[group] = tuple(fields for fields in other if self._can_stand(stand, fields))
        return (today, *self.others[group])

    def _group(self, each: KitPass, stand: FreeLamp) -> str:
        return f"{each.chain} {[getattr(stand.placed, name) for name in ('piece_id', *FIELDS)]}"

    def _can_stand(self, stand: FreeLamp, fields: dict[str, Any]) -> bool:
        try:
            self._fixture(replace(stand.placed, **fields))
        except BadValue:
            return False
        return True

    def _seat(
        self, each: KitPass, lit: LitScene, stand: FreeLamp, several: tuple[dict[str, Any], ...], lux: Array
    ) -> None:
        own_lx = lit.by_light_lx[stand.at]
        keeps = None if _serves(lit, own_lx, self.names[each.setup_id]) else stand.mark
        choices = [
            self._choice(each, lit, stand, replace(stand.placed, **fields), rows, keeps)
            for fields, rows in zip(several, lux, strict=True)
        ]
        pieces = choices[0].pieces
        self.fixed[each.setup_id] -= Counter(pieces)
        seat = Seat(
            pass_id=each.setup_id,
            chain=each.chain,
            holder=stand.placed.piece_id,
            choices=tuple(choices),
            level=lit.built.lights[stand.at].level,
            group=self._group(each, stand),
            name=f"{stand.placed.name} in {each.name}",
        )
        self.seats.append((seat, SeatOf(setup_id=each.setup_id, placed=stand.placed, fields=several)))

    def _choice(
        self, each: KitPass, lit: LitScene, stand: FreeLamp, placed: PlacedLamp, lux: Array, keeps: int | None
    ) -> Choice:
        fixture, own_lx = self._fixture(placed), float(lit.by_light_lx[stand.at, stand.mark])
        head, most = fixture.head, fixture.level_limit
        lowest, highest = min(max(fixture.lowest_level, 1e-4), most), most
        same = own_lx / max(float(lux[stand.mark]), _DIM_LX)  # at which it gives as much as today's
        if keeps is not None:
            lowest = max(lowest, same * 2.0**-TYPICAL_TOLERANCE_STOPS)
            highest = min(highest, same * 2.0**TYPICAL_TOLERANCE_STOPS)
        kind = self.gear.find(BatteryKind, placed.feed)
        idle, span = _mains_va(head, lowest, highest) if kind is None else (0.0, 0.0)
        pieces = self._pieces(lit, placed)
        if kind is not None and kind.mount != BUILT_IN:
            watt_hours = float(head.draw.watts(min(max(same, lowest), most))) * each.lit_h
            needed, sort = math.ceil(watt_hours / kind.supply(1).energy_wh), (kind.slug, 1.0)
            pieces[sort] = max(pieces[sort], needed)
        return Choice(
            name=head.name,
            head=head.slug,
            pieces=pieces,
            lowest=lowest,
            highest=highest,
            idle_va=idle,
            span_va=span,
            lux=lux,
            technology=head.technology.value,
            is_on_battery=kind is not None,
            one_kg=head.total_kg,
        )

    def _pieces(self, lit: LitScene, placed: PlacedLamp) -> Counter[Sort]:
        """The lamp with all that hangs on it and holds it."""
        alone = replace(lit.built.setup, lamps=(placed,), frames=(), flags=(), films=(), people=(), positions=())
        kit = pass_kit(alone, self.gear, self.rules, lit.built.surroundings)
        found: Counter[Sort] = Counter()
        for sort, needs in kit.by_sort.items():
            own = [need for need in needs if need.holder == placed.piece_id]
            if own:
                self.things[sort] = _thing(own[0].entry)
                found[sort] = quantity_of(own)
        return found

    def made(self) -> JobProblem:
        """All of it."""
        anyway: Counter[Sort] = Counter()
        for line in self.kit.lines:
            if line.by_hand:
                self.things.setdefault(line.sort, (line.kind, line.item))
                anyway[line.sort] += line.by_hand
        figures = {sort: self._figures(sort) for sort in self.things}
        kept, told = [], []
        able = self._able(figures)
        for (seat, of), at in zip(self.seats, able, strict=True):
            kept.append(replace(seat, choices=tuple(seat.choices[place] for place in at)))
            told.append(replace(of, fields=tuple(of.fields[place] for place in at)))
        problem = Problem(
            seats=tuple(kept),
            lights=tuple(self.lights),
            times=_times(self.kit.passes),
            figures=figures,
            fixed={number: +counts for number, counts in self.fixed.items()},
            anyway=anyway,
            voltage_v=self.rules.voltage_v,
        )
        return JobProblem(problem=problem, seats=tuple(told), target_names=self.names)

    def _able(self, figures: Mapping[Sort, Figures]) -> Iterator[list[int]]:
        """Of each seat the places of choices that can do it, in every pass of their group; today's is always one."""
        able: dict[str, set[int]] = {}
        for seat, _ in self.seats:
            here = {
                at
                for at, choice in enumerate(seat.choices)
                if at == 0
                or (choice.lowest <= choice.highest and all(_is_there(figures[sort]) for sort in choice.pieces))
            }
            able[seat.group] = able.get(seat.group, here) & here
        return (sorted(able[seat.group]) for seat, _ in self.seats)

    def _figures(self, sort: Sort) -> Figures:
        (kind, item), area_m2 = self.things[sort], sort[1]
        price = hire_price(item, self.days)
        weight_kg = item.total_kg * area_m2
        size, _ = packed_size_m(item, kind, weight_kg)
        return Figures(
            weight_kg=weight_kg,
            price=(price or 0.0) * area_m2,
            case_share=math.prod(size) / self.case_m3,
            ready=ready(item, area_m2, self.kit.away),
            for_hire=0.0 if price is None else math.inf if item.hire_stock is None else item.hire_stock,
        )


def _thing(entry: Entry) -> _Thing:
    return entry.kind, entry.item


def _case_m3(gear: Gear) -> float:
    """What a case of the bench takes, on the mean."""
    volumes = [math.prod(case.inner_m) for case in gear.cases if not case.is_retired and not case.is_cart]
    return _FILLED * sum(volumes) / len(volumes) if volumes else _TYPICAL_CASE_M3


def _is_there(figures: Figures) -> bool:
    return figures.for_hire + figures.ready > 0


def _mains_va(head: Head, lowest: float, highest: float) -> tuple[float, float]:
    """At no output and more at full: a line through both ends of what is wanted of it."""
    low, high = (float(head.draw.va_from_w(head.draw.watts(level))) for level in (lowest, highest))
    span = (high - low) / (highest - lowest) if highest - lowest > 1e-6 else 0.0
    return low - span * lowest, span


def _serves(lit: LitScene, own_lx: Array, targets: Mapping[int, str]) -> bool:
    """Whether a lamp gives much of the light of any target."""
    return any(own_lx[mark] >= _SERVES * lit.total_lx[mark] for mark in targets)


def _light_of(
    setup_id: int, lit: LitScene, stands: Sequence[FreeLamp], rules: HouseRules
) -> tuple[PassLight, dict[int, str]]:
    """Targets that hold, hold; those that are missed are missed by no more. With the names of their marks."""
    total = lit.total_lx
    own = sum((lit.by_light_lx[stand.at] for stand in stands), np.zeros_like(total))
    low, high, names = np.zeros_like(total), np.full_like(total, np.inf), {}
    for rung in ladder_of(lit, rules.receptor).rungs:
        place = lit.place_of(rung.mark_id)
        if rung.target is None or rung.kind is RungKind.WINDOW or place is None:
            continue
        wanted = wanted_lx(lit, rung, rung.target, rules.receptor)
        inside = 2.0 ** max(rung.target.tolerance - _DIAL_STOPS, 0.0)
        low[place] = min(wanted / inside, total[place])
        high[place] = max(wanted * inside, total[place])
        names[place] = rung.name
    return PassLight(pass_id=setup_id, base_lx=total - own, low_lx=low, high_lx=high), names


def _times(passes: Sequence[KitPass]) -> tuple[tuple[int, ...], ...]:
    """What is out together, each set that no other holds."""
    sets = [frozenset(each.setup_id for each in together) for together in out_together(passes)]
    largest = [some for some in dict.fromkeys(sets) if not any(some < other for other in sets)]
    return tuple(tuple(sorted(some)) for some in largest)
