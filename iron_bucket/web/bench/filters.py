"""Search and filters of the bench list, and how many each would leave."""

import math
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import Head
from iron_bucket.core.bench.item import Item
from iron_bucket.formats.gear_rows import GEAR_KINDS

PAGE_ROWS = 60


@dataclass(frozen=True, slots=True, kw_only=True)
class BenchFilter:
    """What the list is cut down to; empty words cut nothing."""

    text: str = ""
    kind: str = "heads"
    technology: str = ""
    fitting: str = ""
    colour: str = ""
    own: str = ""
    page: int = 1


@dataclass(frozen=True, slots=True, kw_only=True)
class BenchList:
    """One page of it, and the counts behind every filter."""

    items: tuple[Item, ...]
    total: int
    pages: int
    kinds: tuple[tuple[str, str, int], ...]
    technologies: tuple[tuple[str, int], ...]
    fittings: tuple[tuple[str, int], ...]


def read_filter(words: Mapping[str, str]) -> BenchFilter:
    """From an address; a word that is none cuts nothing."""
    page = words.get("page", "1")
    kind = words.get("kind", "heads")
    return BenchFilter(
        text=words.get("text", "")[:80],
        kind=kind if kind in GEAR_KINDS and kind != "configurations" else "heads",
        technology=words.get("technology", ""),
        fitting=words.get("fitting", ""),
        colour=words.get("colour", ""),
        own=words.get("own", ""),
        page=int(page) if page.isdecimal() and 0 < int(page) < 10_000 else 1,
    )


def _colour(head: Head) -> str:
    if head.highest_cct_k > head.lowest_cct_k:
        return "variable"
    return "day" if head.lowest_cct_k >= 4500 else "tungsten"


def bench_list(gear: Gear, wanted: BenchFilter) -> BenchList:
    """The list that a filter leaves, and what each further filter would leave."""
    kinds = tuple(
        (kind, each.noun, len(getattr(gear, kind))) for kind, each in GEAR_KINDS.items() if kind != "configurations"
    )
    words = wanted.text.lower().split()
    found: list[Item] = [
        item
        for item in getattr(gear, wanted.kind)
        if all(word in f"{item.name} {item.maker}".lower() for word in words) and (wanted.own != "own" or item.is_owned)
    ]
    heads = [item for item in found if isinstance(item, Head)]
    technologies, fittings = (
        Counter(head.technology.value for head in heads),
        Counter(head.fitting for head in heads if head.fitting),
    )
    if wanted.kind == "heads":
        found = [
            head
            for head in heads
            if (not wanted.technology or head.technology.value == wanted.technology)
            and (not wanted.fitting or head.fitting == wanted.fitting)
            and (not wanted.colour or _colour(head) == wanted.colour)
        ]
    first = (wanted.page - 1) * PAGE_ROWS
    return BenchList(
        items=tuple(found[first : first + PAGE_ROWS]),
        total=len(found),
        pages=max(1, math.ceil(len(found) / PAGE_ROWS)),
        kinds=kinds,
        technologies=tuple(sorted(technologies.items())),
        fittings=tuple(sorted(fittings.items())),
    )
