"""A refusal in the words of the trade: what a field is called, and not what the code calls it."""

import re

from iron_bucket.core.errors import BadValue

#: What a name without its unit would not tell.
_CALLED = {
    "illuminance_lx": "level",
    "throw_m": "distance",
    "at_m": "distance",
    "x_m": "place to the right",
    "y_m": "place up the plan",
    "z_m": "height",
    "cct_k": "colour temperature",
    "lowest_cct_k": "warmest colour",
    "highest_cct_k": "coolest colour",
    "light_k": "colour temperature",
    "full_w": "watts at full",
    "idle_w": "watts idle",
    "nameplate_w": "watts on the box",
    "weight_kg": "weight",
    "voltage_v": "voltage",
    "breaker_a": "breaker",
    "used_a": "amps drawn already",
    "planned_share": "planned share of the breaker",
    "planned_percent": "planned percent of the breaker",
    "low_v": "mains from",
    "high_v": "mains to",
    "tech": "kind of lamp",
    "cct": "colour",
    "iso": "ISO",
    "fps": "frames a second",
    "time_zone": "clock of the city",
    "peak_cd": "peak, in candela",
    "beam_deg": "beam angle",
    "field_deg": "field angle",
    "least_apparent_deg": "softness",
    "most_weight_kg": "most weight",
    "most_day_price": "most for a day",
    "most_noise_db": "noise limit",
    "burn_h": "burning time",
    "head_slug": "head",
}
_UNIT = re.compile(r"_(?:m|m2|mm|deg|k|lx|w|v|a|h|kg|c|db|s|cd|lm|min|mired|stops|wh|hz|nm|px)$")
_BEGINS = re.compile(r"^([a-z][a-z0-9]*(?:_[a-z0-9]+)+)(?= (?:is|of)\b)")


def called(field: str) -> str:
    """What a field of the code is called on a page."""
    return _CALLED.get(field) or _UNIT.sub("", field).replace("_", " ")


def in_words(bad: object) -> str:
    """The sentence of a refusal, its field named as people name it, from a capital on."""
    if isinstance(bad, BadValue):
        text = str(bad).replace(bad.field, called(bad.field), 1)
    else:
        text = _BEGINS.sub(lambda found: called(found[1]), str(bad))
    return text[:1].upper() + text[1:]
