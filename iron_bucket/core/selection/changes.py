"""The single change of a wish that would make a near miss fit."""

import math
from dataclasses import dataclass, replace
from typing import Any

from iron_bucket.core.power.circuit import Circuit
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.rounding import whole_down, whole_up
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.selection.need import BatteryFeed, Need
from iron_bucket.core.selection.pick import PassedOver
from iron_bucket.core.selection.reasons import Reason

#: What a wish is loosened by beyond the miss, so that rounding cannot undo it.
SLACK = 1e-3
STANDARD_BREAKERS_A = (10.0, 13.0, 15.0, 16.0, 20.0, 32.0, 63.0, 125.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Change:
    """What to do, in words, and the need as it then reads."""

    text: str
    need: Need


def single_change(need: Need, passed: PassedOver, system: UnitSystem = UnitSystem.METRIC) -> Change | None:
    """The change that meets a near miss; None where no wish can be loosened (a supply that the head does not take)."""
    changed = _loosened(need, passed.reason, passed.miss + SLACK)
    return Change(text=_text(changed, passed.reason, system), need=changed) if changed else None


def _up(value: float, places: int) -> float:
    """Rounded up: a wish loosened too little would not fit."""
    scale = 10.0**places
    return whole_up(value * scale) / scale


def _down(value: float, places: int) -> float:
    scale = 10.0**places
    return whole_down(value * scale) / scale


#: Wishes that are a limit: their field, and the decimals that are said of it.
_LIMITS = {
    Reason.WEIGHT: ("most_weight_kg", 1),
    Reason.PRICE: ("most_day_price", 0),
    Reason.NOISE: ("most_noise_db", 0),
    Reason.TINT: ("most_tint", 2),
}


#: How a loosened limit is said.
_ALLOWED = {
    Reason.PRICE: "spend {:.0f} a day",
    Reason.NOISE: "allow {:.0f} dB(A)",
    Reason.TINT: "allow {:g} of a gel of tint",
}


def _loosened(need: Need, reason: Reason, miss: float) -> Need | None:
    match reason:
        case Reason.WEAK:
            return replace(need, illuminance_lx=_down(need.illuminance_lx * 2.0**-miss, 1))
        case Reason.HOT:
            return replace(need, illuminance_lx=_up(need.illuminance_lx * 2.0**miss, 1))
        case Reason.COLOUR:
            return replace(need, tolerance_mired=_up(need.tolerance_mired + miss, 0))
        case Reason.HARD if need.least_apparent_deg and need.least_apparent_deg - miss > 0.2:
            return replace(need, least_apparent_deg=_down(need.least_apparent_deg - miss, 1))
        case Reason.NARROW if need.width_m and need.width_m - miss > 0.06:
            return replace(need, width_m=_down(need.width_m - miss, 2))
        case Reason.HEIGHT if need.ceiling_m:
            return replace(need, ceiling_m=_up(need.ceiling_m + miss, 2))
        case Reason.NOT_OURS:
            return replace(need, own_only=False)
        case Reason.TECHNOLOGY:
            return replace(need, technologies=())
        case Reason.FRONT:
            return replace(need, front=None)
    if reason in _LIMITS:
        name, places = _LIMITS[reason]
        limit = getattr(need, name)
        if limit is None:
            return None
        looser: dict[str, Any] = {name: _up(limit + miss, places)}
        return replace(need, **looser)
    return _fed_otherwise(need, reason, miss)


def _fed_otherwise(need: Need, reason: Reason, miss: float) -> Need | None:
    if isinstance(need.feed, Circuit) and reason is Reason.CIRCUIT:
        if need.feed.used_a >= miss:
            return replace(need, feed=replace(need.feed, used_a=_down(need.feed.used_a - miss, 1)))
        wanted_a = (need.feed.limit_a + miss) / need.feed.planned_share
        breaker = next((each for each in STANDARD_BREAKERS_A if each >= wanted_a), None)
        return replace(need, feed=replace(need.feed, breaker_a=breaker)) if breaker else None
    if isinstance(need.feed, BatteryFeed) and reason is Reason.DARK:
        burnt_h = max(need.feed.burn_h - miss, 1e-6)
        count = math.ceil(need.feed.count * need.feed.burn_h / burnt_h)
        return replace(need, feed=replace(need.feed, count=count)) if count <= 200 else None
    return None


def _asked(wish: float | None) -> float:
    """A wish that was loosened is there."""
    if wish is None:
        raise ValueError("nothing was asked that could be loosened")
    return wish


def _text(need: Need, reason: Reason, system: UnitSystem) -> str:
    match reason:
        case Reason.WEAK | Reason.HOT:
            return f"set {display.illuminance(need.illuminance_lx, system)} instead"
        case Reason.COLOUR:
            return f"allow {need.tolerance_mired:.0f} mired"
        case Reason.HARD:
            return f"take {need.least_apparent_deg:g}° for soft enough"
        case Reason.NARROW:
            return f"cover {display.length(_asked(need.width_m), system)}"
        case Reason.HEIGHT:
            return f"find {display.length(_asked(need.ceiling_m), system)} of height"
        case Reason.WEIGHT:
            return f"allow {display.mass(_asked(need.most_weight_kg), system)}"
        case Reason.NOT_OURS:
            return "hire it"
        case Reason.TECHNOLOGY:
            return "allow every technology"
        case Reason.FRONT:
            return "put it through anything else"
    if reason in _ALLOWED:
        return _ALLOWED[reason].format(_asked(getattr(need, _LIMITS[reason][0])))
    if isinstance(need.feed, BatteryFeed):
        return f"bring {need.feed.count} batteries"
    return f"plan on {need.feed.breaker_a:.0f} A with {need.feed.used_a:.1f} A on it" if need.feed else ""
