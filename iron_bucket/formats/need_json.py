"""A need as JSON, and back. The format is described in docs/need-format.md."""

from enum import StrEnum
from typing import Any, TypeVar

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import Technology
from iron_bucket.core.errors import BadValue
from iron_bucket.core.exposure.incident import Camera, Receptor, illuminance_lx
from iron_bucket.core.exposure.shutter import exposure_time_s
from iron_bucket.core.modifiers.kinds import ScrimSchool
from iron_bucket.core.power.battery import FULL_CAPACITY_FROM_C
from iron_bucket.core.power.circuit import EIGHTY_PERCENT, Circuit
from iron_bucket.core.selection.front_wish import FrontWish
from iron_bucket.core.selection.fronts import FrontKind
from iron_bucket.core.selection.need import TYPICAL_TOLERANCE_MIRED, BatteryFeed, Feed, Need
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.json_text import parsed_json

NEED_LIMIT_BYTES = 100_000
Word = TypeVar("Word", bound=StrEnum)


def read_need(text: str, gear: Gear) -> Need:
    """A need from JSON; ``gear`` holds the battery kinds it may name. Raises: FormatError with field and value."""
    document = parsed_json(text, "need file", NEED_LIMIT_BYTES)
    try:
        fields = Fields(document)
        need = _need(fields, gear)
        fields.done()
        return need
    except BadValue as bad:
        raise FormatError("need file", None, bad) from bad


def _need(fields: Fields, gear: Gear) -> Need:
    return Need(
        illuminance_lx=_level_lx(fields),
        throw_m=fields.number("throw_m"),
        width_m=fields.perhaps("width_m"),
        evenness_stops=fields.number("evenness_stops", 1.0),
        least_apparent_deg=fields.perhaps("least_apparent_deg"),
        cct_k=fields.perhaps("cct_k"),
        tolerance_mired=fields.number("tolerance_mired", TYPICAL_TOLERANCE_MIRED),
        most_tint=fields.perhaps("most_tint"),
        feed=_feed(fields, gear),
        ceiling_m=fields.perhaps("ceiling_m"),
        most_weight_kg=fields.perhaps("most_weight_kg"),
        own_only=fields.yes("own_only"),
        most_day_price=fields.perhaps("most_day_price"),
        technologies=tuple(_word_of(Technology, each, "technologies") for each in fields.entries("technologies")),
        most_noise_db=fields.perhaps("most_noise_db"),
        scrim_school=fields.choice("scrim_school", ScrimSchool, ScrimSchool.HALF_AND_ONE),
        front=_front(fields),
    )


def _front(fields: Fields) -> FrontWish | None:
    if not fields.has("front"):
        return None
    wish = fields.inner("front")
    kinds = tuple(_word_of(FrontKind, each, "kinds") for each in wish.entries("kinds"))
    found = FrontWish(kinds=kinds or tuple(FrontKind), size_m=wish.perhaps("size_m"))
    wish.done()
    return found


def _word_of(kind: type[Word], value: object, key: str) -> Word:
    try:
        return kind(str(value))
    except ValueError:
        raise BadValue(key, repr(value), "any of " + ", ".join(each.value for each in kind)) from None


def _level_lx(fields: Fields) -> float:
    if not fields.has("camera"):
        return fields.number("illuminance_lx")
    if fields.has("illuminance_lx"):
        raise BadValue("camera", "given beside illuminance_lx", "one of the two")
    camera = fields.inner("camera")
    time_s = camera.perhaps("time_s")
    if time_s is None:
        time_s = exposure_time_s(angle_deg=camera.number("angle_deg"), fps=camera.number("fps"))
    level_lx = illuminance_lx(
        Camera(
            t_stop=camera.number("t_stop"),
            iso=camera.number("iso"),
            time_s=time_s,
            filter_stops=camera.number("filter_stops", 0.0),
        ),
        camera.choice("meter", Receptor, Receptor.DOME),
    )
    camera.done()
    return level_lx


def _feed(fields: Fields, gear: Gear) -> Feed | None:
    if not fields.has("feed"):
        return None
    feed = fields.inner("feed")
    if feed.has("circuit") == feed.has("battery"):
        raise BadValue("feed", "both or neither of circuit and battery", "one of the two")
    found: Feed
    if feed.has("circuit"):
        circuit = feed.inner("circuit")
        found = Circuit(
            voltage_v=circuit.number("voltage_v"),
            breaker_a=circuit.number("breaker_a"),
            planned_share=circuit.number("planned_share", EIGHTY_PERCENT),
            used_a=circuit.number("used_a", 0.0),
        )
        circuit.done()
    else:
        battery = feed.inner("battery")
        kinds = {kind.slug: kind for kind in gear.batteries}
        slug = battery.word("kind")
        if slug not in kinds:
            raise BadValue("kind", repr(slug), "a battery of the gear: " + ", ".join(kinds))
        found = BatteryFeed(
            kind=kinds[slug],
            count=battery.whole("count"),
            burn_h=battery.number("burn_h"),
            temperature_c=battery.number("temperature_c", FULL_CAPACITY_FROM_C),
        )
        battery.done()
    feed.done()
    return found


def _front_json(wish: FrontWish) -> dict[str, Any]:
    found: dict[str, Any] = {"kinds": [each.value for each in wish.kinds]}
    return found | ({"size_m": wish.size_m} if wish.size_m is not None else {})


def need_json(need: Need) -> dict[str, Any]:
    """A need as a JSON object; wishes that nobody has are left out."""
    feed: dict[str, Any] | None = None
    if isinstance(need.feed, Circuit):
        feed = {
            "circuit": {
                "voltage_v": need.feed.voltage_v,
                "breaker_a": need.feed.breaker_a,
                "planned_share": need.feed.planned_share,
                "used_a": need.feed.used_a,
            }
        }
    elif need.feed is not None:
        feed = {
            "battery": {
                "kind": need.feed.kind.slug,
                "count": need.feed.count,
                "burn_h": need.feed.burn_h,
                "temperature_c": need.feed.temperature_c,
            }
        }
    every = {
        "illuminance_lx": need.illuminance_lx,
        "throw_m": need.throw_m,
        "width_m": need.width_m,
        "evenness_stops": need.evenness_stops,
        "least_apparent_deg": need.least_apparent_deg,
        "cct_k": need.cct_k,
        "tolerance_mired": need.tolerance_mired,
        "most_tint": need.most_tint,
        "feed": feed,
        "ceiling_m": need.ceiling_m,
        "most_weight_kg": need.most_weight_kg,
        "own_only": need.own_only,
        "most_day_price": need.most_day_price,
        "technologies": [each.value for each in need.technologies],
        "most_noise_db": need.most_noise_db,
        "scrim_school": need.scrim_school.value,
        "front": _front_json(need.front) if need.front else None,
    }
    return {key: value for key, value in every.items() if value is not None}
