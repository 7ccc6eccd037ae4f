"""The sentence's words, read into a need; and a need written back into an address. Units turn here."""

from collections.abc import Callable, Mapping
from types import MappingProxyType

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import Technology
from iron_bucket.core.errors import BadValue
from iron_bucket.core.exposure.incident import Camera, illuminance_lx
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.power.battery import FULL_CAPACITY_FROM_C
from iron_bucket.core.power.circuit import Circuit
from iron_bucket.core.quantities import display, parse
from iron_bucket.core.quantities.display import Displayed
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.selection.front_wish import FrontWish
from iron_bucket.core.selection.fronts import FrontKind
from iron_bucket.core.selection.need import BatteryFeed, Feed, Need
from iron_bucket.core.selection.ranking import SortBy
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.desk.pick_start import PickStart

#: Groups of technologies that the sentence offers in one word.
TECHNOLOGY_GROUPS: dict[str, tuple[Technology, ...]] = {
    "any lamp": (),
    "LED": tuple(each for each in Technology if each.is_led),
    "tungsten": (Technology.TUNGSTEN,),
    "HMI": (Technology.HMI,),
    "fluorescent": (Technology.FLUORESCENT,),
    "nothing hot": tuple(each for each in Technology if each.is_led or each is Technology.FLUORESCENT),
}
#: What the light may go through, by the words that offer it.
FRONT_GROUPS: dict[str, tuple[FrontKind, ...]] = {
    "anything": (),
    "nothing": (FrontKind.OPEN,),
    "a grid": (FrontKind.GRID,),
    "a box": (FrontKind.FACE,),
    "a frame": (FrontKind.FRAME,),
    "a bounce": (FrontKind.BOARD,),
    "a book light": (FrontKind.BOOK,),
    "anything but a bounce": tuple(each for each in FrontKind if each not in (FrontKind.BOARD, FrontKind.BOOK)),
    "nothing on a stand of its own": (FrontKind.OPEN, FrontKind.GRID, FrontKind.FACE),
}
#: Those that come in sizes.
SIZED_FRONTS = ("a box", "a frame", "a bounce", "a book light")
_LEVEL, _CAMERA = "level", "camera"


def starting_words(rules: HouseRules, units: UnitSystem, start: PickStart | None = None) -> dict[str, str]:
    """What the sentence says before anybody has typed: a face by a window; in a job, what its look and place say
    instead.
    """
    words = {
        "by": _LEVEL,
        "level": str(display.illuminance(640.0, units)),
        "t": "T2.8",
        "iso": "800",
        "shutter": "1/48",
        "nd": "0",
        "throw": str(display.length(3.0, units)),
        "even": "1",
        "width": str(display.length(1.5, units)),
        "soft": "12",
        "cct": "5600",
        "tol": "25",
        "tint": "",
        "feed": "socket",
        "circuit": "",
        "breaker": str(rules.breaker_a),
        "volts": str(rules.voltage_v),
        "used": "0",
        "kind": "",
        "count": "2",
        "hours": "2 h",
        "degrees": str(display.temperature(FULL_CAPACITY_FROM_C, units)),
        "ceiling": str(display.length(2.6, units)),
        "weight": "",
        "price": "",
        "noise": "",
        "own": "any",
        "tech": "any lamp",
        "through": "anything",
        "size": "",
        "sort": SortBy.RANK.value,
    }
    if start is None:
        return words
    return words | _of_look(start.look, rules, units) | _of_place(start, units)


def _of_look(look: Look | None, rules: HouseRules, units: UnitSystem) -> dict[str, str]:
    if look is None:
        return {}
    return {
        "level": str(display.illuminance(look.wanted_lx(rules.receptor), units)),
        "t": f"T{look.t_stop:g}",
        "iso": f"{look.iso:g}",
        "shutter": f"1/{1.0 / look.time_s:g}",
        "nd": f"{look.nd_stops + look.filter_stops:g}",
        "cct": f"{look.white_balance_k:.0f}",
    }


def _of_place(start: PickStart, units: UnitSystem) -> dict[str, str]:
    if start.place is None:
        return {}
    words = {"ceiling": str(display.length(start.ceiling_m, units)) if start.ceiling_m else ""}
    if start.place.most_noise_db is not None:
        words["noise"] = f"{start.place.most_noise_db:g}"
    if start.place.temperature_c is not None:
        words["degrees"] = str(display.temperature(start.place.temperature_c, units))
    name = next(iter(start.circuits), None)
    return words | ({"circuit": name} if name else {"feed": "battery"})


def echoes(words: Mapping[str, str], units: UnitSystem) -> dict[str, str]:
    """What was read of each word whose comma or point could be meant either way; empty where there is no doubt."""
    return {name: _echo(words.get(name, ""), read, units) for name, read in _ECHOED.items()}


def _echo(text: str, read: Callable[[str, UnitSystem], Displayed], units: UnitSystem) -> str:
    if not parse.has_thousands_mark(text):
        return ""
    try:
        return f"= {read(text, units)}"
    except BadValue:  # it is told beside the answer
        return ""


_ECHOED: Mapping[str, Callable[[str, UnitSystem], Displayed]] = MappingProxyType(
    {
        "level": lambda text, units: display.illuminance(parse.illuminance_lx(text, "level", units), units),
        "throw": lambda text, units: display.length(parse.length_m(text, "distance", units), units),
        "width": lambda text, units: display.length(parse.length_m(text, "width", units), units),
        "iso": lambda text, _: display.plain(parse.number(text, "ISO"), ""),
        "cct": lambda text, _: display.plain(parse.cct_k(text, "colour"), "K"),
        "price": lambda text, _: display.plain(parse.number(text, "price"), ""),
    }
)


def _maybe(words: Mapping[str, str], key: str) -> str | None:
    text = words.get(key, "").strip()
    return text if text and text.lower() not in ("any", "–", "-") else None


def read_need(
    words: Mapping[str, str],
    gear: Gear,
    rules: HouseRules,
    units: UnitSystem,
    circuits: Mapping[str, Circuit] = MappingProxyType({}),
) -> Need:
    """The need that a sentence states;

    ``circuits``: of the job's place, by name. Raises: BadValue with the word, what it was, and what would be accepted.
    """
    width, soft, cct, ceiling = (_maybe(words, key) for key in ("width", "soft", "cct", "ceiling"))
    weight, price, noise, tint = (_maybe(words, key) for key in ("weight", "price", "noise", "tint"))
    group = words.get("tech") or "any lamp"
    if group not in TECHNOLOGY_GROUPS:
        raise BadValue("tech", repr(group), "one of " + ", ".join(TECHNOLOGY_GROUPS))
    return Need(
        illuminance_lx=_level_lx(words, rules, units),
        throw_m=parse.length_m(words.get("throw", ""), "distance", units),
        width_m=parse.length_m(width, "width", units) if width else None,
        evenness_stops=parse.stops(words.get("even") or "1", "evenness"),
        least_apparent_deg=parse.number(soft, "softness", "°") if soft else None,
        cct_k=parse.cct_k(cct, "colour") if cct else None,
        tolerance_mired=parse.number(words.get("tol") or "25", "tolerance", "mired"),
        most_tint=parse.number(tint, "tint", is_fine=True) if tint else None,
        feed=_feed(words, gear, rules, units, circuits),
        ceiling_m=parse.length_m(ceiling, "ceiling", units) if ceiling else None,
        most_weight_kg=parse.mass_kg(weight, "weight", units) if weight else None,
        own_only=words.get("own") == "own",
        most_day_price=parse.number(price, "price") if price else None,
        technologies=TECHNOLOGY_GROUPS[group],
        most_noise_db=parse.number(noise, "noise", "dB") if noise else None,
        scrim_school=rules.scrim_school,
        front=_front(words, units),
    )


def _front(words: Mapping[str, str], units: UnitSystem) -> FrontWish | None:
    group = words.get("through") or "anything"
    if group not in FRONT_GROUPS:
        raise BadValue("through", repr(group), "one of " + ", ".join(FRONT_GROUPS))
    if not FRONT_GROUPS[group]:
        return None
    size = _maybe(words, "size") if group in SIZED_FRONTS else None
    return FrontWish(kinds=FRONT_GROUPS[group], size_m=parse.length_m(size, "size", units) if size else None)


def read_sort(words: Mapping[str, str]) -> SortBy:
    """The order of the list; by rank for a word that is none."""
    return SortBy(words["sort"]) if words.get("sort") in list(SortBy) else SortBy.RANK


def _level_lx(words: Mapping[str, str], rules: HouseRules, units: UnitSystem) -> float:
    if words.get("by") != _CAMERA:
        return parse.illuminance_lx(words.get("level", ""), "level", units)
    camera = Camera(
        t_stop=parse.t_stop(words.get("t", ""), "T-stop"),
        iso=parse.number(words.get("iso", ""), "ISO"),
        time_s=parse.shutter_s(words.get("shutter", ""), "shutter"),
        filter_stops=parse.stops(words.get("nd") or "0", "ND"),
    )
    return illuminance_lx(camera, rules.receptor)


def _feed(
    words: Mapping[str, str], gear: Gear, rules: HouseRules, units: UnitSystem, circuits: Mapping[str, Circuit]
) -> Feed | None:
    usual = str(display.temperature(FULL_CAPACITY_FROM_C, units))
    match words.get("feed", "socket"):
        case "socket" if words.get("circuit") in circuits:
            return circuits[words["circuit"]]
        case "socket":
            return Circuit(
                voltage_v=parse.number(words.get("volts") or str(rules.voltage_v), "voltage", "V"),
                breaker_a=parse.number(words.get("breaker") or str(rules.breaker_a), "breaker", "A"),
                planned_share=rules.planned_share,
                used_a=parse.number(words.get("used") or "0", "amps on it already", "A"),
            )
        case "battery":
            return BatteryFeed(
                kind=_battery(words.get("kind", ""), gear),
                count=_count(words.get("count", "")),
                burn_h=parse.hours(words.get("hours", ""), "hours"),
                temperature_c=parse.temperature_c(words.get("degrees") or usual, "temperature", units),
            )
    return None


def _battery(slug: str, gear: Gear) -> BatteryKind:
    kinds = {kind.slug: kind for kind in gear.batteries}
    if not kinds:
        raise BadValue("battery", "none on the bench", "a battery kind on the bench first")
    if slug and slug not in kinds:
        raise BadValue("battery", repr(slug), "one of " + ", ".join(kind.name for kind in gear.batteries))
    return kinds[slug] if slug else gear.batteries[0]


def _count(text: str) -> int:
    value = parse.number(text, "count")
    if value != int(value):
        raise BadValue("count", repr(text), "a whole number of batteries")
    return int(value)


def words_of(need: Need, words: Mapping[str, str], units: UnitSystem) -> dict[str, str]:
    """The words that say a changed need; those that the need leaves alone stay as they were typed."""
    changed = dict(words) | {"by": _LEVEL, "tol": f"{need.tolerance_mired:g}"}
    for key, value, text in (
        ("level", need.illuminance_lx, "{:.6g} lx"),
        ("width", need.width_m, "{:.4g} m"),
        ("soft", need.least_apparent_deg, "{:.4g}"),
        ("ceiling", need.ceiling_m, "{:.4g} m"),
        ("weight", need.most_weight_kg, "{:.4g} kg"),
        ("price", need.most_day_price, "{:.6g}"),
        ("noise", need.most_noise_db, "{:.4g}"),
        ("tint", need.most_tint, "{:.3g}"),
    ):
        changed[key] = parse.with_program_decimals(text.format(value)) if value is not None else ""
    changed["own"] = "own" if need.own_only else "any"
    if need.front is None:
        changed |= {"through": "anything", "size": ""}
    changed["tech"] = next(name for name, group in TECHNOLOGY_GROUPS.items() if group == need.technologies)
    if isinstance(need.feed, Circuit):
        changed |= {"circuit": "", "used": f"{need.feed.used_a:g}", "breaker": f"{need.feed.breaker_a:g}"}
    elif need.feed is not None:
        changed["count"] = str(need.feed.count)
    return changed
