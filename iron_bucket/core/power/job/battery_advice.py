"""What would make a day on batteries last: more of them, a charger elsewhere, a stop less, other heads."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from functools import partial

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.power.burn_day import first_dark_min, least_units
from iron_bucket.core.power.job.battery_hours import BatteryHours
from iron_bucket.core.power.job.pass_loads import PassLoad
from iron_bucket.core.power.job.same_light import heads_alike, with_head
from iron_bucket.core.power.job.shooting_day import ShootingDay
from iron_bucket.core.setups.suggest.other_heads import OtherHead

#: Half of the light.
STOP_DOWN = 0.5
#: Loads by the numbers of the passes.
Loads = Mapping[int, tuple[PassLoad, ...]]
#: The day on batteries with some loads.
Build = Callable[[Loads], BatteryHours]


@dataclass(frozen=True, slots=True, kw_only=True)
class Saving:
    """One change in words, and when the first lamp goes dark with it, in minutes of the day; None where all last."""

    words: str
    first_min: int | None


def enough_of_each(hours: BatteryHours) -> dict[str, int] | None:
    """The least number of each kind that lasts the day, by the ids of the kinds; None where no number does. Cells built
    into a lamp are left out: nobody brings more of them.
    """
    loose = tuple(each for each in hours.day.kinds if not hours.is_built_in(each.kind_id))
    lamps = tuple(each for each in hours.day.lamps if not hours.is_built_in(each.kind_id))
    return least_units(replace(hours.day, kinds=loose, lamps=lamps)) if loose else {}


def savings(loads: Loads, chains: Mapping[int, int], build: Build, gear: Gear) -> Iterator[Saving]:
    """Where a lamp goes dark: a stop more sensitivity with every lamp a stop down; then each lamp by itself a stop
    down, and as the most frugal head that gives the same light. ``chains``: of each pass the first that it varies.
    """
    now = _first(build(loads))
    if now is None:
        return
    lower = {setup_id: tuple(a_stop_down(load) for load in some) for setup_id, some in loads.items()}
    yield Saving(words="one stop more ISO, and every lamp one stop down", first_min=_first(build(lower)))
    for told in build(loads).lamps:
        its = list(_of_lamp(loads, chains, told.lamp_id))
        ways = [(f"{told.name} one stop down", a_stop_down)]
        other = _most_frugal(its[0], gear) if its else None
        if other:
            ways.append((f"{other.head.name} as {told.name}", partial(_as_head, gear=gear, slug=other.head.slug)))
        for words, change in ways if its else []:
            first = _first(build(_changed(loads, its, change)))
            if first is None or first > now:
                yield Saving(words=words, first_min=first)


def _of_lamp(loads: Loads, chains: Mapping[int, int], lamp_id: str) -> Iterator[PassLoad]:
    """A lamp of the day, pass by pass; nothing of what hangs together on a power station."""
    chain, piece_id, slug = lamp_id.split(":", 2)
    for setup_id, some in loads.items():
        if str(chains[setup_id]) == chain:
            yield from (load for load in some if load.load_id == piece_id and load.feed == slug and load.watts > 0.0)


def _changed(loads: Loads, its: list[PassLoad], change: Callable[[PassLoad], PassLoad]) -> Loads:
    """One lamp of the day otherwise in all its passes."""
    return {
        setup_id: tuple(change(load) if any(load is one for one in its) else load for load in some)
        for setup_id, some in loads.items()
    }


def _most_frugal(load: PassLoad, gear: Gear) -> OtherHead | None:
    """Of the heads that give the same light, ours before others; None where none draws less."""
    able = (each for each in heads_alike(load, gear) if each.watts < load.watts)
    return min(able, key=lambda each: (not each.head.is_owned, each.watts, each.head.slug), default=None)


def _as_head(load: PassLoad, gear: Gear, slug: str) -> PassLoad:
    """As it draws with that head, where that can give its light."""
    other = next((each for each in heads_alike(load, gear) if each.head.slug == slug), None)
    return load if other is None else with_head(load, other)


def _first(hours: BatteryHours) -> int | None:
    return first_dark_min(hours.day)


def a_stop_down(load: PassLoad) -> PassLoad:
    """A lamp at half of its level, no lower than it dims."""
    if load.lamp is None or load.fixture is None or load.watts <= 0.0:
        return load
    level = max(load.fixture.level(load.lamp) * STOP_DOWN, load.fixture.lowest_level)
    watts = min(float(load.fixture.head.draw.watts(level)), load.watts)
    return replace(load, watts=watts, va=float(load.fixture.head.draw.va_from_w(watts)))


def charging_places(hours: BatteryHours, day: ShootingDay) -> dict[int, int | None]:
    """By place, when the first lamp goes dark if every charger of the day stood there; None where all last."""
    found: dict[int, int | None] = {}
    for place_id in dict.fromkeys(each.of.place_id for each in day.passes):
        rates = tuple(float(phase.place_id == place_id) for phase in day.phases)
        chargers = tuple(replace(each, rates=rates) for each in hours.day.chargers)
        found[place_id] = _first(replace(hours, day=replace(hours.day, chargers=chargers)))
    return found
