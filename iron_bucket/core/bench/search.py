"""Search that understands the trade: "bicolour 300 S-type under 4 kg", with filters and how many each would leave."""

import re
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import Head
from iron_bucket.core.bench.item import Item
from iron_bucket.core.quantities.units import UnitSystem, kg_from_lb

#: What may be written after a number, and the figure and size that it means.
_UNITS: dict[str, tuple[str, float]] = {
    "kg": ("weight_kg", 1.0),
    "lb": ("weight_kg", float(kg_from_lb(1.0))),
    "lbs": ("weight_kg", float(kg_from_lb(1.0))),
    "w": ("watts", 1.0),
    "kw": ("watts", 1000.0),
    "lm": ("lumens", 1.0),
    "klm": ("lumens", 1000.0),
    "db": ("fan_db", 1.0),
    "a day": ("day_price", 1.0),
    "/day": ("day_price", 1.0),
}
_UNDER = r"under|below|less than|up to|at most|max|<=?"
_OVER = r"over|above|more than|from|at least|min|>=?"
_LIMIT = re.compile(
    rf"({_UNDER}|{_OVER})\s*(\d+(?:[.,]\d+)?)\s*(kg|lbs?|kw|w|klm|lm|db(?:\(a\))?|a day|/day)?(?![\w.])"
)
_KELVIN = re.compile(r"\b(\d{4,5})\s*k\b")
#: Other spellings, brought to the words that the texts are made of.
_SPELLINGS = {
    "bi-colour": "bicolour",
    "bi-color": "bicolour",
    "bicolor": "bicolour",
    "rgb": "full colour",
    "full-colour": "full colour",
    "color": "colour",
    "daylight": "day",
    "battery-fed": "battery",
    "batteries": "battery",
    "owned": "ours",
    "own": "ours",
    "vlock": "v-lock",
    "fresnel": "lens",
}
FACETS = ("technology", "fitting", "colour", "own", "tag")


@dataclass(frozen=True, slots=True, kw_only=True)
class Limit:
    """One figure kept under or over a value."""

    figure: str
    value: float
    is_upper: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Wanted:
    """A query, understood: words that must all be there, limits, and a colour that the lamp must reach."""

    words: tuple[str, ...]
    limits: tuple[Limit, ...]
    cct_k: float | None


def wanted_of(text: str, system: UnitSystem = UnitSystem.METRIC) -> Wanted:
    """What somebody typed. A limit without a unit is a weight, in the user's system."""
    rest = " ".join(text.lower().replace("‑", "-").split())
    for spelling, word in _SPELLINGS.items():
        rest = re.sub(rf"(?<![\w-]){re.escape(spelling)}(?![\w-])", word, rest)
    limits = []
    for found in _LIMIT.finditer(rest):
        unit = (found[3] or ("lb" if system is UnitSystem.IMPERIAL else "kg")).replace("(a)", "")
        figure, size = _UNITS[unit]
        limits.append(
            Limit(
                figure=figure,
                value=float(found[2].replace(",", ".")) * size,
                is_upper=re.match(_UNDER, found[1]) is not None,
            )
        )
    rest = _LIMIT.sub(" ", rest)
    kelvin = _KELVIN.search(rest)
    return Wanted(
        words=tuple(_KELVIN.sub(" ", rest).split()), limits=tuple(limits), cct_k=float(kelvin[1]) if kelvin else None
    )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SearchIndex:
    """One kind of gear, ready to be searched.

    Shapes: every figure (N,), nan where a piece has none; ``facets``: words of each piece.
    """

    items: tuple[Item, ...]
    texts: tuple[str, ...]
    figures: Mapping[str, Array]
    facets: Mapping[str, tuple[tuple[str, ...], ...]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Found:
    """What is left, in the order of the index, and for each filter how many each of its words would leave."""

    items: tuple[Item, ...]
    counts: Mapping[str, tuple[tuple[str, int], ...]]


def search_index(items: tuple[Item, ...], gear: Gear) -> SearchIndex:
    """Lay some pieces out. Retired ones are left out; heads are found by what their configurations are called, too."""
    kept = tuple(
        sorted((item for item in items if not item.is_retired), key=lambda item: (item.name.lower(), item.slug))
    )
    optics: dict[str, list[str]] = {}
    for each in gear.configurations:
        optics.setdefault(each.head_slug, []).append(each.name)
    nan = float("nan")
    return SearchIndex(
        items=kept,
        texts=tuple(_text(item, optics.get(item.slug, [])) for item in kept),
        figures={
            "weight_kg": np.array([item.total_kg for item in kept]),
            "day_price": np.array([nan if item.day_price is None else item.day_price for item in kept]),
            "watts": np.array([item.draw.full_w.value if isinstance(item, Head) else nan for item in kept]),
            "lumens": np.array([item.lumens.value if isinstance(item, Head) else nan for item in kept]),
            "fan_db": np.array([item.quietest_db if isinstance(item, Head) else nan for item in kept]),
            "lowest_k": np.array([item.lowest_cct_k if isinstance(item, Head) else nan for item in kept]),
            "highest_k": np.array([item.highest_cct_k if isinstance(item, Head) else nan for item in kept]),
        },
        facets={facet: tuple(_facet(item, facet) for item in kept) for facet in FACETS},
    )


def _text(item: Item, optics: list[str]) -> str:
    """All words by which a piece may be asked for."""
    words = [item.name, item.maker, *item.tags, "ours" if item.is_owned else "", getattr(item, "fitting", "")]
    kind = getattr(item, "kind", None)
    words.append(kind.value if kind is not None else "")
    if isinstance(item, Head):
        words += [
            item.technology.value,
            f"{item.spigot_mm:g} mm",
            item.weather,
            item.globe,
            *item.control,
            *item.effects,
            *optics,
        ]
        words += [f"battery {plate.mount}" for plate in item.battery_plates]
        words += [mode.name for mode in item.modes] + (["hot"] if item.is_hot else [])
        words += ["mains"] if item.mains else []
    return " ".join(words).lower().replace("‑", "-")


def colour_word(head: Head) -> str:
    """Day, tungsten, or variable."""
    if head.highest_cct_k > head.lowest_cct_k:
        return "variable"
    return "day" if head.lowest_cct_k >= 4500.0 else "tungsten"


def _facet(item: Item, facet: str) -> tuple[str, ...]:
    if facet == "own":
        return ("own",) if item.is_owned else ()
    if facet == "tag":
        return item.tags
    fitting = getattr(item, "fitting", "")
    if facet == "fitting":
        return (fitting,) if fitting else ()
    if not isinstance(item, Head):
        return ()
    return (item.technology.value,) if facet == "technology" else (colour_word(item),)


def search(index: SearchIndex, wanted: Wanted, chosen: Mapping[str, str]) -> Found:
    """What a query and the chosen filters leave. ``chosen``: a word for each facet, empty for none."""
    asked = _asked(index, wanted)
    masks = {
        facet: np.array([chosen[facet] in words for words in index.facets[facet]], dtype=bool)
        for facet in FACETS
        if chosen.get(facet)
    }
    whole = np.logical_and.reduce([asked, *masks.values()])
    counts = {}
    for facet in FACETS:
        others = np.logical_and.reduce([asked, *(mask for name, mask in masks.items() if name != facet)])
        tally = Counter(word for place in np.flatnonzero(others) for word in index.facets[facet][place])
        counts[facet] = tuple(sorted(tally.items()))
    return Found(items=tuple(index.items[place] for place in np.flatnonzero(whole)), counts=counts)


def _asked(index: SearchIndex, wanted: Wanted) -> np.ndarray:
    mask = np.array([all(word in text for word in wanted.words) for text in index.texts], dtype=bool)
    for limit in wanted.limits:
        figure = index.figures[limit.figure]
        mask &= figure <= limit.value if limit.is_upper else figure >= limit.value  # nan is neither
    if wanted.cct_k is not None:
        mask &= (index.figures["lowest_k"] <= wanted.cct_k) & (index.figures["highest_k"] >= wanted.cct_k)
    return mask
