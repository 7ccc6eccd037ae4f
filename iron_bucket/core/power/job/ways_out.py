"""Every single change that brings an overloaded circuit back within its limit, or feeds what hangs nowhere; each is
reckoned before it is offered.
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Any

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.places.lead_way import LeadWays
from iron_bucket.core.places.place import Place
from iron_bucket.core.power.apparent import a_from_va
from iron_bucket.core.power.job.load_board import BatteryBar, CircuitBar, LoadBoard
from iron_bucket.core.power.job.pass_loads import PassLoad
from iron_bucket.core.power.job.same_light import heads_alike, with_head
from iron_bucket.core.power.job.shared_board import nearest_outlet, takes_volts
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.rounding import at_most
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.plan.changes import Change, set_piece
from iron_bucket.core.setups.plan.written import dialled

#: Dimmers are moved by thirds of a stop, and nobody calls two stops less the same light.
_THIRDS, _MOST_THIRDS = 3, 6
_MOST_HEADS = 2


class Reach(StrEnum):
    """What a way out takes, the nearest at hand first."""

    MOVE = "move"
    DIM = "dim"
    BATTERY = "battery"
    HEAD = "head"
    OFF = "off"


@dataclass(frozen=True, slots=True, kw_only=True)
class WayOut:
    """``saves_a`` on the circuit; ``changes`` to the set-up, or ``feed`` of a load that is no lamp, by its id."""

    text: str
    reach: Reach
    saves_a: float
    load_id: str
    changes: tuple[Change, ...] = ()
    feed: str = ""

    @property
    def within(self) -> str:
        """Its words within a sentence: names keep their letters."""
        is_verb = self.reach in (Reach.DIM, Reach.OFF)
        return f"{self.text[:1].lower()}{self.text[1:]}" if is_verb else self.text


def ways_out(
    bar: CircuitBar, board: LoadBoard, place: Place, ways: LeadWays, gear: Gear, units: UnitSystem
) -> tuple[WayOut, ...]:
    """What is nearest at hand first, of that what saves least beyond what is needed."""
    over_a = -bar.spare_a
    found = [
        way
        for load in bar.loads
        if load.watts > 0.0
        for way in _of_load(load, bar, board, place, ways, gear, units)
        if at_most(over_a, way.saves_a)
    ]
    nearest = list(Reach)
    return tuple(sorted(found, key=lambda way: (nearest.index(way.reach), way.saves_a, way.text)))


def ways_in(
    load: PassLoad, board: LoadBoard, place: Place, ways: LeadWays, gear: Gear, units: UnitSystem
) -> tuple[WayOut, ...]:
    """Every single change that feeds a load that hangs nowhere: a circuit or batteries that bear it as it is, else a
    circuit that does after one change more.
    """
    found: list[WayOut] = []
    for bar in board.bars:
        if not bar.sockets or not takes_volts(load, bar):
            continue
        outlet, length_m = nearest_outlet(load, bar, place, ways)
        hung = replace(load, feed=outlet.socket_id)
        with_it = replace(bar, loads=(*bar.loads, hung))
        if with_it.fits:
            length = display.length(length_m + load.z_m, units)
            text = f"{load.name} on {bar.name}, {length} of lead from {outlet.name}"
            found.append(_fed(load, outlet.socket_id, WayOut(text=text, reach=Reach.MOVE, saves_a=0.0, load_id="")))
            continue
        rest = tuple(with_it if each.name == bar.name else each for each in board.bars)
        changed = replace(board, bars=rest, unfed=tuple(each for each in board.unfed if each.load_id != load.load_id))
        for way in ways_out(with_it, changed, place, ways, gear, units):
            is_elsewhere = way.load_id == load.load_id and way.reach in (Reach.MOVE, Reach.BATTERY, Reach.OFF)
            if not is_elsewhere and not way.feed:
                text = f"{load.name} on {bar.name}, and {way.within}"
                found.append(_fed(load, outlet.socket_id, replace(way, text=text)))
    found += [
        _on_battery(load, 0.0, battery)
        for battery in board.batteries
        if battery.has_room_for(load) and battery.can_feed(load)
    ]
    nearest = list(Reach)
    return tuple(sorted(found, key=lambda way: (nearest.index(way.reach), len(way.changes), way.saves_a, way.text)))


def _fed(load: PassLoad, socket_id: str, way: WayOut) -> WayOut:
    """The way with the load hung there, too."""
    if load.lamp is None:
        return replace(way, load_id=load.load_id, feed=socket_id)
    own = next((change for change in way.changes if change.piece_id == load.load_id), None)
    others = tuple(change for change in way.changes if change is not own)
    hung = set_piece("lamps", load.load_id, **(dict(own.to) if own else {}), feed=socket_id)
    return replace(way, load_id=load.load_id, changes=(hung, *others))


def _of_load(
    load: PassLoad, bar: CircuitBar, board: LoadBoard, place: Place, ways: LeadWays, gear: Gear, units: UnitSystem
) -> Iterator[WayOut]:
    own_a = bar.amps_of(load)
    for other in board.bars:
        if (
            other.name != bar.name
            and other.sockets
            and takes_volts(load, other)
            and other.amps_of(load) <= other.spare_a
        ):
            yield _moved(load, own_a, other, place, ways, units)
    for battery in board.batteries:
        if battery.has_room_for(load) and battery.can_feed(load):
            yield _on_battery(load, own_a, battery)
    if load.lamp is None:
        return
    yield from _dimmed(load, bar)
    yield from _other_heads(load, bar, gear)
    yield WayOut(
        text=f"Switch off {load.name}",
        reach=Reach.OFF,
        saves_a=own_a,
        load_id=load.load_id,
        changes=(set_piece("lamps", load.load_id, is_on=False),),
    )


def _moved(load: PassLoad, own_a: float, to: CircuitBar, place: Place, ways: LeadWays, units: UnitSystem) -> WayOut:
    outlet, length_m = nearest_outlet(load, to, place, ways)
    return WayOut(
        text=f"{load.name} to {to.name}, {display.length(length_m + load.z_m, units)} of lead from {outlet.name}",
        reach=Reach.MOVE,
        saves_a=own_a,
        load_id=load.load_id,
        **_hung(load, outlet.socket_id),
    )


def _hung(load: PassLoad, feed: str) -> dict[str, Any]:
    """Lamps are fed by their set-up, all else by the job."""
    return {"changes": (set_piece("lamps", load.load_id, feed=feed),)} if load.lamp else {"feed": feed}


def _dimmed(load: PassLoad, bar: CircuitBar) -> Iterator[WayOut]:
    """By the fewest thirds of a stop that do."""
    lamp, fixture = load.lamp, load.fixture
    if lamp is None or fixture is None:
        return
    level = fixture.level(lamp)
    for thirds in range(1, _MOST_THIRDS + 1):
        dimmed = level * 2.0 ** (-thirds / _THIRDS)
        if dimmed < fixture.lowest_level:
            return
        va = float(fixture.head.draw.draw_va(dimmed))
        saves_a = float(a_from_va(load.va - va, bar.circuit.voltage_v))
        if at_most(-bar.spare_a, saves_a):
            stops = display.stops(thirds / _THIRDS, signed=False)
            yield WayOut(
                text=f"Dim {load.name} {stops}, to {display.share(dimmed)}",
                reach=Reach.DIM,
                saves_a=saves_a,
                load_id=load.load_id,
                changes=(set_piece("lamps", load.load_id, level=dialled(dimmed)),),
            )
            return


def _on_battery(load: PassLoad, own_a: float, battery: BatteryBar) -> WayOut:
    plates = battery.count if battery.is_station else battery.plates_of(load)
    hours = float(battery.kind.supply(plates).burn_time_h(battery.watts * battery.is_station + load.watts))
    return WayOut(
        text=f"{load.name} on {plates} × {battery.kind.name}, for {display.hours(hours)}",
        reach=Reach.BATTERY,
        saves_a=own_a,
        load_id=load.load_id,
        **_hung(load, battery.kind.slug),
    )


def _other_heads(load: PassLoad, bar: CircuitBar, gear: Gear) -> Iterator[WayOut]:
    """Ours and the most frugal first."""
    able = []
    for other in heads_alike(load, gear):
        saves_a = bar.amps_of(load) - bar.amps_of(with_head(load, other))
        runs = other.head.mains is not None and other.head.mains.takes(bar.circuit.voltage_v)
        if runs and at_most(-bar.spare_a, saves_a):
            able.append((not other.head.is_owned, other.watts, other.head.slug, other, saves_a))
    for *_, other, saves_a in sorted(able, key=lambda row: row[:3])[:_MOST_HEADS]:
        was = load.head.name if load.head else ""
        yield WayOut(
            text=f"{other.head.name} for {was} as {load.name}, at {display.share(other.level)}",
            reach=Reach.HEAD,
            saves_a=saves_a,
            load_id=load.load_id,
            changes=(
                set_piece("lamps", load.load_id, configuration=other.configuration.slug, level=dialled(other.level)),
            ),
        )
