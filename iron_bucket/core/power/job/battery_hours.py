"""A job's day on batteries: which lamps hang on which, what charges where, and how long it all lasts."""

from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import BUILT_IN, POWER_STATION
from iron_bucket.core.power.battery import FULL_CAPACITY_FROM_C
from iron_bucket.core.power.battery_day import BatteryDay, BatteryLamp, Charger, UnitKind
from iron_bucket.core.power.burn_day import BurntDay, Happening, burnt
from iron_bucket.core.power.job.burning_bars import through_the_day
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.power.job.pass_loads import PassLoad
from iron_bucket.core.power.job.shooting_day import ShootingDay
from iron_bucket.core.typical import typical


@dataclass(frozen=True, slots=True, kw_only=True)
class Stock:
    """How many batteries of one kind the job has, and the health of those that are not sound."""

    count: int
    healths: tuple[float, ...] = ()


def stock_of(power: JobPower, held: Mapping[str, int]) -> dict[str, Stock]:
    """By slug: as the job says, else as many as its bucket holds."""
    counts: dict[str, int] = defaultdict(int)
    healths: dict[str, list[float]] = defaultdict(list)
    for row in power.batteries:
        counts[row.kind] += row.count
        healths[row.kind] += [row.health] * row.count
    said = {
        slug: Stock(count=count, healths=tuple(sorted(healths[slug], reverse=True))) for slug, count in counts.items()
    }
    return {slug: Stock(count=count) for slug, count in held.items()} | said


@dataclass(frozen=True, slots=True, kw_only=True)
class LampOnBattery:
    """A lamp of the day: which, what it is called (with its set-up where two are called alike), its kind of battery."""

    lamp_id: str
    name: str
    kind: BatteryKind
    setup_name: str


@dataclass(frozen=True, kw_only=True, eq=False)
class BatteryHours:
    """``day`` as it is simulated; ``lamps`` and ``kinds`` (by the ids of the day) say what its ids stand for."""

    day: BatteryDay
    lamps: tuple[LampOnBattery, ...]
    kinds: dict[str, BatteryKind]
    temperature_c: float | None

    def burnt(self) -> BurntDay:
        """Minute by minute."""
        return burnt(self.day)

    def with_counts(self, counts: Mapping[str, int]) -> "BatteryHours":
        """With other numbers of batteries, by the ids of their kinds; of those not named as many as there are."""
        kinds = tuple(replace(each, count=counts.get(each.kind_id, each.count)) for each in self.day.kinds)
        return replace(self, day=replace(self.day, kinds=kinds))

    @property
    def bays(self) -> int:
        """In which somebody puts batteries, of chargers and of heads; power stations charge themselves."""
        return sum(each.bays for each in self.day.chargers if not each.charger_id.endswith(_OWN))

    def is_built_in(self, kind_id: str) -> bool:
        """Whether they are cells that nobody takes out."""
        return self.kinds[kind_id].mount == BUILT_IN


#: What the charger of a power station's own cells is called after it.
_OWN = ":own"
#: A lamp through the day: chain of its set-up, its id there, the slug of what feeds it.
_Key = tuple[int, str, str]


def battery_hours(
    day: ShootingDay,
    loads: Mapping[int, tuple[PassLoad, ...]],
    power: JobPower,
    gear: Gear,
    stock: Mapping[str, Stock],
    celsius: Mapping[int, float | None],
) -> BatteryHours:
    """``loads`` by the numbers of the passes, ``celsius`` by those of their places. All batteries are as cold as the
    coldest place of the day.
    """
    known = [celsius.get(each.of.place_id) for each in day.passes]
    coldest = min((each for each in known if each is not None), default=None)
    lamps = _lamps(day, loads, gear)
    kinds = {each.kind_id: gear.by_slug(BatteryKind, _slug(each.kind_id)) for each, _ in lamps.values()}
    own = {each.kind_id: each.plates for each, _ in lamps.values() if kinds[each.kind_id].mount == BUILT_IN}
    units = tuple(
        UnitKind(
            kind_id=kind_id,
            supply=kind.supply(1),
            count=own[kind_id] if kind_id in own else stock.get(kind.slug, Stock(count=0)).count,
            temperature_c=FULL_CAPACITY_FROM_C if coldest is None else coldest,
            healths=() if kind_id in own else stock.get(kind.slug, Stock(count=0)).healths,
        )
        for kind_id, kind in kinds.items()
    )
    chargers = (*_chargers(day, loads, power, kinds), *_by_heads(day, loads, kinds), *_stations(day, loads, kinds))
    return BatteryHours(
        day=BatteryDay(
            minutes=tuple(phase.minutes for phase in day.phases),
            kinds=units,
            lamps=tuple(each for each, _ in lamps.values()),
            chargers=chargers,
        ),
        lamps=_told_apart([told for _, told in lamps.values()]),
        kinds=kinds,
        temperature_c=coldest,
    )


def _told_apart(lamps: list[LampOnBattery]) -> tuple[LampOnBattery, ...]:
    names = Counter(each.name for each in lamps)
    return tuple(
        replace(each, name=f"{each.name}, {each.setup_name}") if names[each.name] > 1 else each for each in lamps
    )


def _slug(kind_id: str) -> str:
    """Cells built into one lamp are a kind of their own: no other lamp may have them."""
    return kind_id.partition("@")[0]


def _lamps(
    day: ShootingDay, loads: Mapping[int, tuple[PassLoad, ...]], gear: Gear
) -> dict[_Key, tuple[BatteryLamp, LampOnBattery]]:
    """All that draws from batteries in some pass, with its watts phase by phase. What two passes share counts once, as
    the one that draws more.
    """
    watts: dict[_Key, list[dict[object, float]]] = {}
    first: dict[_Key, tuple[PassLoad, BatteryKind, str]] = {}
    for at, phase in enumerate(day.phases):
        for burning in phase.burning:
            own = day.passes[burning.at].of
            for load in loads[own.setup_id]:
                kind = gear.find(BatteryKind, load.feed)
                if kind is None or load.watts <= 0.0:
                    continue
                chain, name = through_the_day(own, load)
                key = (0, "", kind.slug) if kind.mount == POWER_STATION else (chain, name, kind.slug)
                first.setdefault(key, (load, kind, own.setup.name))
                row = watts.setdefault(key, [{} for _ in day.phases])[at]
                row[chain, name] = max(_mean_w(load, burning.share), row.get((chain, name), 0.0))
    return {key: _lamp(key, *first[key], tuple(sum(each.values()) for each in row)) for key, row in watts.items()}


def _mean_w(load: PassLoad, share: float) -> float:
    """Of a lamp that burns for a share of the time and stands by in the rest; all else draws all the time."""
    return share * load.watts + (1.0 - share) * load.head.draw.idle_w if load.head else load.watts


def _lamp(
    key: _Key, load: PassLoad, kind: BatteryKind, setup_name: str, watts: tuple[float, ...]
) -> tuple[BatteryLamp, LampOnBattery]:
    """What hangs on power stations counts as one lamp on as many as its watts ask for."""
    lamp_id = ":".join(map(str, key))
    if kind.mount == POWER_STATION:
        plates, name = max(1, -int(-max(watts) // kind.supply(1).most_w)), kind.name
    else:
        plate = load.head.plate_for(kind.mount) if load.head else None
        plates, name = plate.plates if plate else 1, load.name
    kind_id = f"{kind.slug}@{lamp_id}" if kind.mount == BUILT_IN else kind.slug
    lamp = BatteryLamp(lamp_id=lamp_id, kind_id=kind_id, watts=watts, plates=plates)
    return lamp, LampOnBattery(lamp_id=lamp_id, name=name, kind=kind, setup_name=setup_name)


def _chargers(
    day: ShootingDay, loads: Mapping[int, tuple[PassLoad, ...]], power: JobPower, kinds: Mapping[str, BatteryKind]
) -> Iterator[Charger]:
    """Those that are fed charge while the crew is where they stand: charging is attended."""
    fed = {load.load_id for some in loads.values() for load in some if load.feed}
    for kit in power.chargers:
        fits = tuple(kind_id for kind_id in kinds if kind_id in kit.kinds)
        if fits and kit.piece_id in fed:
            rates = tuple(float(phase.place_id == kit.place_id) for phase in day.phases)
            yield replace(kit.charger, kind_ids=fits, rates=rates)


def _by_heads(
    day: ShootingDay, loads: Mapping[int, tuple[PassLoad, ...]], kinds: Mapping[str, BatteryKind]
) -> Iterator[Charger]:
    """Heads on the mains that charge what is on their own plates: slower while they are lit (typical)."""
    lit_share = float(typical("power")["charging_while_lit"])
    for timed in day.passes:
        for load in loads[timed.of.setup_id]:
            head = load.head
            if head is None or not head.charge_w or not load.feed or load.is_on_battery:
                continue
            for plate in head.battery_plates:
                fits = tuple(kind_id for kind_id, kind in kinds.items() if kind.mount == plate.mount)
                if not fits:
                    continue
                rates = tuple(
                    0.0
                    if not timed.rig_min <= phase.start_min < timed.end_min
                    else lit_share
                    if load.watts > 0.0 and timed.lit_min <= phase.start_min < timed.strike_min
                    else 1.0
                    for phase in day.phases
                )
                name = f"{timed.of.setup_id}:{load.load_id}:{plate.mount}"
                bay_w = head.charge_w / plate.plates
                yield Charger(charger_id=name, kind_ids=fits, bays=plate.plates, bay_w=bay_w, rates=rates)


def _stations(
    day: ShootingDay, loads: Mapping[int, tuple[PassLoad, ...]], kinds: Mapping[str, BatteryKind]
) -> Iterator[Charger]:
    """Power stations recharge wherever anything of a pass hangs on the mains, those that can while they feed lamps."""
    wired = {
        each.of.place_id
        for each in day.passes
        for load in loads[each.of.setup_id]
        if load.feed and not load.is_on_battery
    }
    rates = tuple(float(phase.place_id in wired) for phase in day.phases)
    for kind_id, kind in kinds.items():
        if kind.mount == POWER_STATION and kind.recharge_w:
            yield Charger(
                charger_id=kind_id + _OWN,
                kind_ids=(kind_id,),
                bays=64,
                bay_w=kind.recharge_w,
                rates=rates,
                while_feeding=kind.passes_through,
            )


@dataclass(frozen=True, slots=True, kw_only=True)
class Outcome:
    """When each lamp first goes dark, by its id, in minutes of the day; those that last are missing."""

    dark_min: dict[str, int]

    @classmethod
    def of(cls, found: BurntDay) -> "Outcome":
        """As it burnt."""
        dark: dict[str, int] = {}
        for event in found.events:
            if event.what in (Happening.DARK, Happening.REFUSES):
                dark.setdefault(event.lamp_id, event.minute)
        return cls(dark_min=dark)

    @property
    def first_min(self) -> int | None:
        """When the first of them does; None where all last."""
        return min(self.dark_min.values(), default=None)
