"""Why a candidate was passed over, in one short sentence with its figure, in the user's units."""

from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.selection.need import LEVEL_TOLERANCE_STOPS, BatteryFeed, Need
from iron_bucket.core.selection.pick import PassedOver, Picked
from iron_bucket.core.selection.reasons import Reason


def shortfall(picked: Picked, passed: PassedOver, system: UnitSystem = UnitSystem.METRIC) -> str:
    """The one figure that ruled it out: "0.7 stop short", "covers 1.1 m of 1.5 m", "dark after 1 h 10"."""
    need, head = picked.need, picked.bench.heads[passed.candidate.row]
    match passed.reason:
        case Reason.TECHNOLOGY:
            return f"is {head.technology.value}"
        case Reason.FRONT:
            parts = picked.bench.fronts[passed.candidate.front].parts
            return f"goes through {' and '.join(part.name for part in parts)}" if parts else "nothing stands before it"
        case Reason.NOT_OURS:
            return "not ours"
        case Reason.SUPPLY:
            return _supply(need)
        case Reason.HEAT:
            return f"box not rated for {head.draw.full_w.value:.0f} W of hot lamp"
        case Reason.DARK if isinstance(need.feed, BatteryFeed):
            return f"dark after {display.hours(need.feed.burn_h - passed.miss)}"
    return miss_text(need, passed.reason, passed.miss, system)


def _supply(need: Need) -> str:
    if isinstance(need.feed, BatteryFeed):
        return f"does not run off {need.feed.count} × {need.feed.kind.mount}"
    return f"does not run on {need.feed.voltage_v:.0f} V" if need.feed else "no supply"


#: Of the misses that are told by one figure in one unit.
_PLAIN = {
    Reason.NOISE: "{:.0f} dB too loud",
    Reason.CIRCUIT: "{:.1f} A over the circuit",
    Reason.BATTERY_CURRENT: "{:.1f} A more than the battery delivers",
    Reason.PRICE: "{:.0f} a day too dear",
    Reason.TINT: "{:.2f} of a full gel too green or magenta",
}


def miss_text(need: Need, reason: Reason, miss: float, system: UnitSystem = UnitSystem.METRIC) -> str:
    """A miss of one reason with its unit; the reasons without a measure have no figure."""
    match reason:
        case Reason.HEIGHT:
            return f"needs {display.length(miss, system)} more height"
        case Reason.HARD if need.least_apparent_deg:
            return f"appears {max(need.least_apparent_deg - miss, 0.0):.1f}° of {need.least_apparent_deg:.0f}°"
        case Reason.NARROW if need.width_m:
            return (
                f"covers {display.length(max(need.width_m - miss, 0.0), system)} of"
                f" {display.length(need.width_m, system)}"
            )
        case Reason.WEAK:
            return f"{display.stops(miss, signed=False)} short"
        case Reason.HOT:
            return f"lowest dim is {display.stops(miss + LEVEL_TOLERANCE_STOPS, signed=False)} too hot"
        case Reason.COLOUR:
            return f"{miss + need.tolerance_mired:.0f} mired off"
        case Reason.DARK:
            return f"{display.hours(miss)} too soon"
        case Reason.WEIGHT:
            return f"{display.mass(miss, system)} too heavy"
    return _PLAIN.get(reason, "").format(miss)


def range_text(need: Need, reason: Reason, low: float, high: float, system: UnitSystem = UnitSystem.METRIC) -> str:
    """The span of misses of one reason: what both ends say alike is said once, "0.1 stop to 3.0 stops short"."""
    least, most = (miss_text(need, reason, miss, system).split(" ") for miss in (low, high))
    if least == most:
        return " ".join(least)
    before = _alike(least, most)
    after = _alike(least[before:][::-1], most[before:][::-1])
    end = len(least) - after
    return " ".join([*least[:before], *least[before:end], "to", *most[before : len(most) - after], *least[end:]])


def _alike(one: list[str], other: list[str]) -> int:
    """How many words two texts have in common from their beginning."""
    return next(
        (place for place, (a, b) in enumerate(zip(one, other, strict=False)) if a != b), min(len(one), len(other))
    )
