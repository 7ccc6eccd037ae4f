"""What hangs where in one pass: each circuit, leg and kind of battery with its loads, its limits, and what gives first.

Figures only: local codes and licensed people decide.
"""

from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import BUILT_IN, POWER_STATION
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.place import HouseCircuit
from iron_bucket.core.power.apparent import a_from_va
from iron_bucket.core.power.battery import FULL_CAPACITY_FROM_C, Supply
from iron_bucket.core.power.circuit import EIGHTY_PERCENT, Circuit
from iron_bucket.core.power.job.kit import Generator
from iron_bucket.core.power.job.outlets import FedPlace, SourceLegs
from iron_bucket.core.power.job.pass_loads import PassLoad
from iron_bucket.core.power.phases import harmonic_a, imbalance_share, neutral_with_harmonics_a
from iron_bucket.core.power.trip import Trip, trip
from iron_bucket.core.quantities.rounding import at_most, whole_up


@dataclass(frozen=True, slots=True, kw_only=True)
class CircuitBar:
    """One circuit or leg. ``legs``: of the brought source that it is a leg of; ``sockets``: ids of its outlets."""

    circuit: HouseCircuit
    planned_share: float
    loads: tuple[PassLoad, ...]
    sockets: tuple[str, ...]
    legs: SourceLegs | None = None

    @property
    def name(self) -> str:
        """The circuit's."""
        return self.circuit.name

    @property
    def _planned(self) -> Circuit:
        house = self.circuit
        return Circuit(
            voltage_v=house.voltage_v, breaker_a=house.breaker_a, planned_share=self.planned_share, used_a=house.used_a
        )

    @property
    def as_used(self) -> Circuit:
        """With all that hangs on it, the house's and ours: what a light that is not there yet would find."""
        return replace(self._planned, used_a=self.amps)

    def amps_of(self, load: PassLoad) -> float:
        """One load at this circuit's volts."""
        return float(a_from_va(load.va, self.circuit.voltage_v))

    @property
    def ours_a(self) -> float:
        """All loads together, added arithmetically: never less than the phasor sum."""
        return sum(self.amps_of(load) for load in self.loads)

    @property
    def amps(self) -> float:
        """With what hangs on it already."""
        return self.circuit.used_a + self.ours_a

    @property
    def limit_a(self) -> float:
        """Under the job's own rule."""
        return self._planned.limit_a

    @property
    def eighty_a(self) -> float:
        """Under the school of four fifths."""
        return self.circuit.breaker_a * EIGHTY_PERCENT

    @property
    def spare_a(self) -> float:
        """Left under the job's rule; below 0 where too much hangs on it."""
        return self._planned.free_a - self.ours_a

    @property
    def fits(self) -> bool:
        """Whether the job's rule is kept."""
        return at_most(self.amps, self.limit_a)

    @property
    def opens(self) -> Trip | None:
        """When its breaker opens; None where it holds. A generator has none of that curve: None too."""
        return None if self.generator else trip(self.amps, self.circuit.breaker_a, self.circuit.curve)

    @property
    def generator(self) -> Generator | None:
        """That it is a leg of."""
        source = self.legs.source if self.legs else None
        return source if isinstance(source, Generator) else None

    @property
    def stalls(self) -> bool:
        """Whether it asks more of a generator than it gives even for a moment."""
        return self.generator is not None and not at_most(self.amps, self.generator.peak_a)

    @property
    def dark(self) -> tuple[str, ...]:
        """Loads that go with it, by name."""
        return tuple(load.name for load in self.loads if load.watts > 0.0)

    @property
    def start_a(self) -> float:
        """The most that is drawn for a moment, one load starting after the other while the rest burns."""
        jumps = [float(a_from_va(load.jump_va, self.circuit.voltage_v)) for load in self.loads]
        return self.amps + max(jumps, default=0.0)

    @property
    def start_opens(self) -> bool:
        """Whether that start opens the breaker at once, or is more than a generator gives for a moment."""
        if self.generator:
            return not at_most(self.start_a, self.generator.peak_a)
        at_start = trip(self.start_a, self.circuit.breaker_a, self.circuit.curve)
        return at_start is not None and at_start.is_instant

    @property
    def sag_v(self) -> float:
        """Volts that the house's own wiring loses under our load, by what was measured; 0 where nothing was."""
        return self.circuit.sag_under_v(self.ours_a)


@dataclass(frozen=True, slots=True, kw_only=True)
class BatteryBar:
    """One kind of battery with the lamps on it, or power stations of one kind with all that is plugged into them.
    ``count``: how many the job has.
    """

    kind: BatteryKind
    count: int
    loads: tuple[PassLoad, ...]

    @property
    def is_station(self) -> bool:
        """Whether loads share them, whatever those are."""
        return self.kind.mount == POWER_STATION

    @property
    def is_built_in(self) -> bool:
        """Whether they are cells of one lamp, which nobody takes out."""
        return self.kind.mount == BUILT_IN

    def plates_of(self, load: PassLoad) -> int:
        """How many of them one lamp takes, or outlets of a station; 0 where it takes none of that mount."""
        if load.head is None:
            return 1 if self.is_station else 0
        plate = load.head.plate_for(self.kind.mount)
        return plate.plates if plate else 0

    @property
    def plates(self) -> int:
        """That are taken at once; a lamp that is off takes none."""
        return sum(self.plates_of(load) for load in self.loads if load.watts > 0.0)

    @property
    def places(self) -> int | None:
        """How many there are to take; None of cells that are a lamp's own, and where nobody
        knows how many outlets a station has.
        """
        if self.is_built_in:
            return None
        return self.count * self.kind.ac_outlets or None if self.is_station else self.count

    @property
    def watts(self) -> float:
        """All loads on them together."""
        return sum(load.watts for load in self.loads)

    @property
    def most_w(self) -> float:
        """What those on lamps may give continuously, or the job's stations."""
        if self.is_station:
            return self._stations.most_w
        return sum(self.most_w_of(load) for load in self.loads)

    @property
    def _stations(self) -> Supply:
        """One where the job has none."""
        return self.kind.supply(max(self.count, 1))

    def most_w_of(self, load: PassLoad) -> float:
        """What the batteries on one lamp may give continuously, or one station."""
        plates = self.plates_of(load)
        return self.kind.supply(1 if self.is_station else plates).most_w if plates else 0.0

    def can_feed(self, load: PassLoad) -> bool:
        """Whether a load runs on them at its level and its watts, with nothing else on them."""
        plate = load.head.plate_for(self.kind.mount) if load.head else None
        is_within = load.lamp is None or plate is None or load.lamp.level <= plate.level_limit
        return self.plates_of(load) > 0 and is_within and load.watts <= self.most_w_of(load)

    def has_room_for(self, load: PassLoad) -> bool:
        """Whether enough of them are left for one load more, and for its start."""
        if self.places is not None and self.plates + max(self.plates_of(load), 1) > self.places:
            return False
        with_it = replace(self, loads=(*self.loads, load))
        starts = self.surge_w is None or with_it.start_w <= self.surge_w
        return not self.is_station or (self.count > 0 and at_most(with_it.watts, self.most_w) and starts)

    @property
    def missing(self) -> int:
        """How many more of them what hangs there takes at once; none of cells that are a lamp's own."""
        if self.is_built_in:
            return 0
        needed = whole_up(self.watts / self.kind.supply(1).most_w) if self.is_station else self.plates
        return max(needed - self.count, 0)

    @property
    def fits(self) -> bool:
        """Whether all of it runs at once."""
        return not self.refused and not self.missing

    def lasts_h(self, celsius: float | None) -> float | None:
        """Hours until the first of its lamps would go dark at these levels with one set of full batteries each, or all
        that the job's stations feed; None where none burns.
        """
        if self.is_station:
            burning = [(self._stations, self.watts)] if self.watts else []
        else:
            plates = [(self.plates_of(load), load.watts) for load in self.loads if load.watts > 0.0]
            burning = [(self.kind.supply(each), watts) for each, watts in plates if each]
        hours = [float(supply.in_the_cold(_known(celsius)).burn_time_h(watts)) for supply, watts in burning]
        return min(hours, default=None)

    @property
    def surge_w(self) -> float | None:
        """What stations bear for a moment; None of batteries, and where nobody knows."""
        surge_w = self.kind.peak_a * self.kind.nominal_v * self.count
        return surge_w or None if self.is_station else None

    @property
    def start_w(self) -> float:
        """Of a power station, the most that is drawn for a moment, one load starting after the other."""
        return self.watts + max((load.jump_va for load in self.loads), default=0.0)

    @property
    def limited(self) -> tuple[PassLoad, ...]:
        """Lamps that are set higher than their batteries let them give."""
        plates = ((load, load.head.plate_for(self.kind.mount)) for load in self.loads if load.head and load.watts > 0.0)
        return tuple(load for load, plate in plates if plate and load.lamp and load.lamp.level > plate.level_limit)

    @property
    def refused(self) -> tuple[PassLoad, ...]:
        """Lamps that ask more than theirs may give."""
        return tuple(load for load in self.loads if not at_most(load.watts, self.most_w_of(load)))


def _known(celsius: float | None) -> float:
    """Of a place whose temperature nobody noted."""
    return FULL_CAPACITY_FROM_C if celsius is None else celsius


@dataclass(frozen=True, slots=True, kw_only=True)
class Legs:
    """A source of several legs: amps of each, ours and others', and what its neutral carries. ``harmonics_a``: the
    part of it that electronic loads bring, typical.
    """

    of: SourceLegs
    amps: tuple[float, ...]
    neutral_a: float
    harmonics_a: float

    @property
    def imbalance_share(self) -> float:
        """How far the fullest leg lies above the mean, over the mean."""
        return imbalance_share(*self.amps)


@dataclass(frozen=True, slots=True, kw_only=True)
class LoadBoard:
    """``unfed``: what draws power and has no feed, or one that is not there."""

    bars: tuple[CircuitBar, ...]
    batteries: tuple[BatteryBar, ...]
    unfed: tuple[PassLoad, ...]
    legs: tuple[Legs, ...] = field(default=())

    @property
    def loads(self) -> tuple[PassLoad, ...]:
        """All of them, as the board has them."""
        on = [load for bar in self.bars for load in bar.loads]
        return (*on, *(load for bar in self.batteries for load in bar.loads), *self.unfed)

    @property
    def over(self) -> tuple[CircuitBar, ...]:
        """Circuits with more on them than the job plans."""
        return tuple(bar for bar in self.bars if not bar.fits)

    def bar_of(self, socket_id: str) -> CircuitBar | None:
        """The circuit of an outlet."""
        return next((bar for bar in self.bars if socket_id in bar.sockets), None)

    def fed(self, loads: Iterable[PassLoad]) -> tuple[PassLoad, ...]:
        """The same ones in their order, without feeds that are not there."""
        nowhere = {load.load_id for load in self.unfed}
        return tuple(replace(load, feed="") if load.load_id in nowhere else load for load in loads)


def load_board(
    fed: FedPlace, loads: Iterable[PassLoad], gear: Gear, rules: HouseRules, counts: Mapping[str, int]
) -> LoadBoard:
    """Every circuit of the place, and every kind of battery that the job has or a lamp hangs on. ``counts``: how many
    the job has of each kind of battery, by slug.
    """
    place, every = fed.place, tuple(loads)
    circuit_of = {each.socket_id: each.circuit for each in place.sockets}
    by_circuit, by_battery, unfed = defaultdict(list), defaultdict(list), []
    for load in every:
        battery = gear.find(BatteryKind, load.feed)
        if battery:
            by_battery[battery.slug].append(load)
        elif load.feed in circuit_of:
            by_circuit[circuit_of[load.feed]].append(load)
        else:
            unfed.append(load)
    legs = {name: each for each in fed.legs for name in each.circuits}
    bars = tuple(
        CircuitBar(
            circuit=circuit,
            planned_share=rules.planned_share,
            loads=tuple(by_circuit[circuit.name]),
            sockets=tuple(socket for socket, name in circuit_of.items() if name == circuit.name),
            legs=legs.get(circuit.name),
        )
        for circuit in place.circuits
    )
    return LoadBoard(
        bars=bars,
        batteries=tuple(
            BatteryBar(kind=kind, count=counts.get(kind.slug, 0), loads=tuple(by_battery[kind.slug]))
            for kind in gear.batteries
            if by_battery[kind.slug] or (counts.get(kind.slug) and _is_of_use(kind, every))
        ),
        unfed=tuple(unfed),
        legs=tuple(_legs(each, bars) for each in fed.legs if len(each.circuits) > 1),
    )


def _is_of_use(kind: BatteryKind, loads: tuple[PassLoad, ...]) -> bool:
    """Cells that are a lamp's own are, where there is such a lamp."""
    return kind.mount != BUILT_IN or any(load.head and load.head.plate_for(BUILT_IN) for load in loads)


def _legs(of: SourceLegs, bars: tuple[CircuitBar, ...]) -> Legs:
    own = [bar for bar in bars if bar.name in of.circuits]
    amps = tuple(bar.amps for bar in own)
    harmonics = tuple(sum(harmonic_a(bar.amps_of(load), load.harmonic) for load in bar.loads) for bar in own)
    return Legs(
        of=of,
        amps=amps,
        neutral_a=neutral_with_harmonics_a(amps, harmonics),
        harmonics_a=sum(harmonics) if len(own) == 3 else abs(harmonics[0] - harmonics[-1]),
    )
