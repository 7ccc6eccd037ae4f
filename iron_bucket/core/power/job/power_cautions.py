"""What can hurt somebody, or leave a set dark, about the power of one pass, each with the figure that shows it."""

from collections.abc import Iterator
from dataclasses import replace

from iron_bucket.core.cautions.rules import Caution
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.job.kit import Generator
from iron_bucket.core.power.job.load_board import BatteryBar, CircuitBar, Legs, LoadBoard
from iron_bucket.core.power.job.outlets import SourceLegs
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.rounding import at_most
from iron_bucket.core.quantities.units import UnitSystem

#: What protects people: docs/craft.md, section 8.
LEAKAGE_MA = 30.0
_ACTIONS = {
    "breaker": "Take one of the ways out; anything beyond a plug is a licensed electrician's.",
    "start": "Strike one at a time with nothing else starting, or hang it on a stronger circuit.",
    "leakage": "Put earth leakage protection before it, keep connectors off the ground, and dry.",
    "electrician": "A licensed electrician connects and tests it, and says what it may bear.",
    "neutral": "Spread the loads, take heads with corrected supplies, or have the neutral looked at.",
    "indoors": "Outdoors and downwind only, earthed, refuelled cold: its exhaust kills.",
    "battery-current": "Dim it, take a stronger battery, or more plates.",
    "battery-limit": "Count on that level, or feed it from the mains.",
    "surge": "Start it dimmed, or hang it on something stronger.",
    "battery-count": "Bring more, switch one off, or hang it on a circuit.",
    "outlets": "Bring a multiway, within what it gives.",
    "sag": "Ask for another circuit; wiring that loses so much gets warm.",
}


def power_cautions(
    board: LoadBoard, legs: tuple[SourceLegs, ...], surroundings: Surroundings, units: UnitSystem
) -> tuple[Caution, ...]:
    """Of circuits and of batteries."""
    rules = (_refused, _too_few, _limited, _of_station)
    of_batteries = (each for bar in board.batteries for rule in rules for each in rule(bar))
    return (*supply_cautions(board, legs, surroundings, units), *of_batteries)


def supply_cautions(
    board: LoadBoard, legs: tuple[SourceLegs, ...], surroundings: Surroundings, units: UnitSystem
) -> tuple[Caution, ...]:
    """Of circuits and what they come from; what is worst first."""
    return (
        *(each for bar in board.bars for each in _of_circuit(bar)),
        *_leakage(board, surroundings),
        *_electrician(legs),
        *(each for several in board.legs for each in _neutral(several)),
        *_indoors(legs, surroundings, units),
    )


def _told(code: str, title: str, trigger: str) -> Caution:
    return Caution(code=code, title=title, trigger=trigger, action=_ACTIONS[code])


def _of_circuit(bar: CircuitBar) -> Iterator[Caution]:
    if not bar.fits:
        yield _told("breaker", f"Too much on {bar.name}", overload_words(bar))
    elif bar.start_opens:
        most = f"{bar.generator.peak_a:.1f} A for a moment" if bar.generator else f"{bar.circuit.breaker_a:g} A"
        yield _told(
            "start", f"{bar.name} does not bear the start", f"{bar.start_a:.0f} A as the hardest starts, on {most}"
        )
    if bar.sag_v > 0.03 * bar.circuit.voltage_v:
        share = display.share(bar.sag_v / bar.circuit.voltage_v)
        yield _told("sag", f"{bar.name} sags", f"{bar.sag_v:.1f} V, {share}, under our {bar.ours_a:.1f} A, as measured")


def overload_words(bar: CircuitBar) -> str:
    """Amps against the limits, when it opens, and what goes dark with it."""
    others = f", {bar.circuit.used_a:.1f} A on it already" if bar.circuit.used_a else ""
    words = f"{bar.ours_a:.1f} A of ours{others}, {bar.limit_a:.1f} A planned of {bar.circuit.breaker_a:g} A"
    if bar.stalls:
        words += "; the generator stalls"
    elif bar.opens:
        words += f"; the breaker opens {bar.opens.words} (curve {bar.circuit.curve}, typical)"
    else:
        return words
    return f"{words}, and {_and(bar.dark)} {'goes' if len(bar.dark) == 1 else 'go'} dark"


def _and(names: tuple[str, ...]) -> str:
    return " and ".join(filter(None, (", ".join(names[:-1]), names[-1] if names else "")))


def _refused(bar: BatteryBar) -> Iterator[Caution]:
    for load in bar.refused:
        plates, kind = bar.plates_of(load), bar.kind.name
        gives = f"{plates} × {kind} give {bar.most_w_of(load):.0f} W" if plates else f"it takes no {kind}"
        trigger = f"it asks {load.watts:.0f} W; {gives}"
        yield _told("battery-current", f"{load.name} does not run on its batteries", trigger)


def _too_few(bar: BatteryBar) -> Iterator[Caution]:
    if bar.missing:
        has = f"{bar.count} × {bar.kind.name}"
        trigger = (
            f"{bar.watts:.0f} W on {has}, of {bar.kind.supply(1).most_w:.0f} W each"
            if bar.is_station
            else f"{bar.plates} on lamps at once; the job has {has}"
        )
        yield _told("battery-count", f"{bar.missing} more of {bar.kind.name}", trigger)


def _limited(bar: BatteryBar) -> Iterator[Caution]:
    for load in bar.limited:
        plate = load.head.plate_for(bar.kind.mount) if load.head else None
        if plate and load.lamp:
            most, level = display.share(plate.level_limit), display.share(load.lamp.level)
            trigger = f"up to {most} on {bar.kind.name}; it is set to {level}"
            yield _told("battery-limit", f"{load.name} gives less on batteries", trigger)


def _of_station(bar: BatteryBar) -> Iterator[Caution]:
    """Starts beyond its surge, and more plugs than it has outlets."""
    kind, some = bar.kind, replace(bar, count=max(bar.count, 1))
    if some.surge_w and bar.start_w > some.surge_w:
        trigger = f"{bar.start_w:.0f} W as the hardest starts, {some.surge_w:.0f} W for a moment"
        yield _told("surge", f"{kind.name} does not bear the start", trigger)
    if bar.is_station and some.places and len(bar.loads) > some.places:
        yield _told("outlets", f"Too few outlets on {kind.name}", f"{len(bar.loads)} loads, {some.places} outlets")


def _leakage(board: LoadBoard, surroundings: Surroundings) -> Iterator[Caution]:
    """Of circuits in use in a wet place, or with a load outside, that have no protection people can rely on."""
    place = surroundings.place
    for bar in board.bars:
        outside = [load for load in bar.loads if surroundings.room_at(load.x_m, load.y_m) is None]
        if not bar.loads or not (place.is_wet or outside) or 0.0 < bar.circuit.rcd_ma <= LEAKAGE_MA:
            continue
        where = "a wet place" if place.is_wet else f"{_and(tuple(load.name for load in outside))} outside"
        has = f"opens at {bar.circuit.rcd_ma:g} mA" if bar.circuit.rcd_ma else "none is noted"
        trigger = f"{where}; leakage protection of {LEAKAGE_MA:g} mA is asked for, {has}"
        yield _told("leakage", f"Leakage protection on {bar.name}", trigger)


def _electrician(legs: tuple[SourceLegs, ...]) -> Iterator[Caution]:
    for each in legs:
        source = each.source
        if each.needs_electrician and not isinstance(source, Generator):
            trigger = f"{source.kind.value}, {source.phases.value}, {source.breaker_a:g} A a leg"
            yield _told("electrician", f"{each.name}: licensed electrician", trigger)


def _neutral(several: Legs) -> Iterator[Caution]:
    most_a = max(several.amps)
    if not at_most(several.neutral_a, most_a):
        trigger = (
            f"{several.neutral_a:.1f} A in the neutral, {most_a:.1f} A on the fullest leg;"
            f" {several.harmonics_a:.1f} A of it are harmonics of electronic supplies (typical)"
        )
        yield _told("neutral", f"The neutral of {several.of.name} carries more than a leg", trigger)


def _indoors(legs: tuple[SourceLegs, ...], surroundings: Surroundings, units: UnitSystem) -> Iterator[Caution]:
    for each in legs:
        source = each.source
        room = surroundings.room_at(source.x_m, source.y_m) if isinstance(source, Generator) else None
        if room is not None:
            named = surroundings.place.rooms[room].name
            at = f"{display.length(source.x_m, units)} across, {display.length(source.y_m, units)} up the plan"
            yield _told("indoors", f"{each.name} stands indoors", f"in {named}, {at}")
