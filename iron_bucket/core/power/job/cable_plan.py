"""Leads of one pass from outlets to loads: where they lie, which of the stock they are, and what they lose.

Figures only: local codes and licensed people decide.
"""

import math
from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from itertools import pairwise

from iron_bucket.core.bench.cable import Cable
from iron_bucket.core.colour.tungsten import cct_share, flux_share
from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.places.lead_way import LeadWay, LeadWays, Point, cross
from iron_bucket.core.places.place import Place, Socket
from iron_bucket.core.power.job.load_board import CircuitBar, LoadBoard
from iron_bucket.core.power.job.pass_loads import PassLoad
from iron_bucket.core.power.lead_choice import HOUSE_PLUG, Laid, LeadChoice, StockLead, ampacity_a, lead_for
from iron_bucket.core.power.load import DrawCurve
from iron_bucket.core.quantities.units import UnitSystem

#: So many of a kind can be hired where ours do not reach.
_MOST_HIRED = 6


@dataclass(frozen=True, slots=True, kw_only=True)
class LeadRun:
    """One load's lead. ``length_m``: on the floor and up the stand; ``choice`` None where no stock does, and ``why``;
    ``amps`` at the outlet; ``walks``: names of those whose walk it crosses; ``pieces``: by the slugs of the bench.
    """

    load: PassLoad
    outlet: Socket
    bar: CircuitBar
    way: LeadWay
    amps: float
    choice: LeadChoice | None
    why: str = ""
    walks: tuple[str, ...] = ()
    pieces: Counter[str] = field(default_factory=Counter)

    @property
    def length_m(self) -> float:
        """That has to be covered."""
        return self.way.length_m + self.load.z_m

    @property
    def lost_v(self) -> float:
        """On the lead and in the house's own wiring as it was measured."""
        return (self.choice.run.drop_v if self.choice else 0.0) + self.bar.sag_v

    @property
    def volts(self) -> float:
        """At the lamp."""
        return self.bar.circuit.voltage_v - self.lost_v

    @property
    def is_filament(self) -> bool:
        """Whether lost volts cost light and colour."""
        return self.load.head is not None and self.load.head.draw.curve is DrawCurve.FILAMENT

    @property
    def volts_share(self) -> float:
        """Of the circuit's volts, what a lamp gets."""
        return max(self.volts, 0.0) / self.bar.circuit.voltage_v

    @property
    def lost_stops(self) -> float:
        """Light that a filament loses by it; nothing of an electronic supply's."""
        return -math.log2(float(flux_share(self.volts_share))) if self.is_filament and self.volts_share else 0.0

    @property
    def warmer_share(self) -> float:
        """What is left of a filament's colour temperature; all of an electronic supply's."""
        return float(cct_share(self.volts_share)) if self.is_filament else 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class CablePlan:
    """``at_outlets``: adapters and multiways, by the names of the outlets; ``short``: what the stock does not hold, in
    words.
    """

    runs: tuple[LeadRun, ...]
    at_outlets: Mapping[str, Counter[str]]
    short: tuple[str, ...]

    @property
    def pieces(self) -> Counter[str]:
        """How many of each thing of the bench, by slug."""
        return sum((*(run.pieces for run in self.runs), *self.at_outlets.values()), Counter[str]())


def cable_plan(
    board: LoadBoard,
    place: Place,
    ways: LeadWays,
    cables: tuple[Cable, ...],
    *,
    is_straight: bool = False,
    laid: Laid = Laid.FREE,
    walks: Mapping[str, tuple[Point, ...]] | None = None,
    units: UnitSystem = UnitSystem.METRIC,
) -> CablePlan:
    """The longest run chooses first; ours before hired ones. ``walks``: where people walk, by their names."""
    taken: Counter[str] = Counter()
    asked = [
        (load, outlet, bar)
        for bar in board.bars
        for load in bar.loads
        for outlet in place.sockets
        if outlet.socket_id == load.feed
    ]
    lying = [
        (*row, ways.way((row[1].x_m, row[1].y_m), (row[0].x_m, row[0].y_m), is_straight=is_straight)) for row in asked
    ]
    lying.sort(key=lambda row: -row[3].length_m - row[0].z_m)
    runs, short = [], []
    for load, outlet, bar, way in lying:
        stocks = _stocks(cables, taken)
        choice, why = _chosen(load, bar, way.length_m + load.z_m, stocks, laid, units)
        pieces = _counted(choice, cables)
        taken += pieces
        met = tuple(name for name, walk in (walks or {}).items() if _crosses(way, walk))
        run = LeadRun(
            load=load,
            outlet=outlet,
            bar=bar,
            way=way,
            amps=bar.amps_of(load),
            choice=choice,
            why=why,
            walks=met,
            pieces=pieces,
        )
        runs.append(run)
        short += [f"{load.name}: {why}"] if choice is None else []
    at_outlets: dict[str, Counter[str]] = defaultdict(Counter)
    for name, more, words in _at_outlets(runs, cables):
        at_outlets[name] += more
        short += [words] if words else []
    return CablePlan(runs=tuple(sorted(runs, key=lambda run: run.load.name)), at_outlets=at_outlets, short=tuple(short))


def _leads(cables: tuple[Cable, ...]) -> list[Cable]:
    return [
        each for each in cables if each.plug == each.outlet == HOUSE_PLUG and each.outlets == 1 and not each.is_retired
    ]


#: Ours that are left, and the same with what can be hired beside them.
_Stocks = tuple[tuple[StockLead, ...], tuple[StockLead, ...]]


def _stocks(cables: tuple[Cable, ...], taken: Counter[str]) -> _Stocks:
    counts = [(each, each.owned - taken[each.slug]) for each in _leads(cables)]
    hired = [(each, left if each.day_price is None else max(left, _MOST_HIRED)) for each, left in counts]
    ours, both = (tuple(_stock(each, count) for each, count in some if count > 0) for some in (counts, hired))
    return ours, both


def _chosen(
    load: PassLoad, bar: CircuitBar, way_m: float, stocks: _Stocks, laid: Laid, units: UnitSystem
) -> tuple[LeadChoice | None, str]:
    why = ""
    for stock in stocks:
        try:
            return lead_for(way_m, bar.amps_of(load), bar.circuit.voltage_v, stock, laid, units), ""
        except NoAnswer as none:
            why = str(none)
    return None, why


def _stock(cable: Cable, count: int) -> StockLead:
    return StockLead(length_m=cable.length_m, area_mm2=cable.area_mm2, count=count)


def _counted(choice: LeadChoice | None, cables: tuple[Cable, ...]) -> Counter[str]:
    found: Counter[str] = Counter()
    for length_m in choice.lengths_m if choice else ():
        same = (
            each for each in _leads(cables) if choice and (each.length_m, each.area_mm2) == (length_m, choice.area_mm2)
        )
        found[next(same).slug] += 1
    return found


def _crosses(way: LeadWay, walk: tuple[Point, ...]) -> bool:
    return any(cross(stretch, step) for stretch in pairwise(way.points) for step in pairwise(walk))


def _at_outlets(runs: list[LeadRun], cables: tuple[Cable, ...]) -> Iterator[tuple[str, Counter[str], str]]:
    """Adapters and multiways by the names of the outlets; where none does, why."""
    by_outlet: dict[str, list[LeadRun]] = defaultdict(list)
    for run in runs:
        by_outlet[run.outlet.socket_id].append(run)
    for several in by_outlet.values():
        outlet, free = several[0].outlet, 1
        if outlet.outlet != HOUSE_PLUG:
            fits = (each for each in cables if (each.plug, each.outlet) == (outlet.outlet, HOUSE_PLUG))
            able = (each for each in fits if not each.is_retired)
            adapter = min(able, key=lambda each: (not each.is_owned, each.weight_kg), default=None)
            if adapter is None:
                yield (
                    outlet.name,
                    Counter(),
                    f"{outlet.name}: no adapter from {outlet.outlet} to a house plug is on the bench",
                )
                continue
            free = adapter.outlets
            yield outlet.name, Counter({adapter.slug: 1}), ""
        if len(several) > free:
            yield outlet.name, *_multiways(several, len(several) - free, cables)


def _multiways(runs: list[LeadRun], missing: int, cables: tuple[Cable, ...]) -> tuple[Counter[str], str]:
    """Each takes one outlet and gives several; ours and the smallest that does first."""
    outlet, amps = runs[0].outlet, sum(run.amps for run in runs)
    able = [each for each in cables if each.is_multiway and each.plug == HOUSE_PLUG and not each.is_retired]
    strong = [each for each in able if ampacity_a(each.area_mm2) >= amps]
    if not strong:
        why = f"none on the bench bears {amps:.1f} A" if able else "none is on the bench"
        return Counter(), f"{outlet.name}: {len(runs)} loads need a multiway, and {why}"
    best = min(strong, key=lambda each: (not each.is_owned, -(-missing // (each.outlets - 1)), each.weight_kg))
    return Counter({best.slug: -(-missing // (best.outlets - 1))}), ""
