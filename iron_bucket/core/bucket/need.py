"""One thing that a pass needs, by which rule, by which figure, and for which of its pieces."""

import math
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import replace
from typing import NamedTuple

from iron_bucket.core.bench.accessory import Accessory
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bucket.entry import Entry, FedFrom
from iron_bucket.core.bucket.gel_cuts import Cut, sheets_for
from iron_bucket.core.modifiers.kinds import Sheet

#: What counts as the same thing: its slug, and of a cloth its area.
Sort = tuple[str, float]


class Need(NamedTuple):
    """``entry``: the thing itself, once; ``pieces`` of it. ``holder``: the piece of the set-up that it is for.
    ``cut``: of a gel, the piece that is cut off; ``is_summed``: used up. ``watts``: what the entry draws.
    """

    entry: Entry
    pieces: int
    rule: str
    figure: str
    holder: str
    cut: Cut | None = None
    is_summed: bool = False
    watts: float = 0.0

    @property
    def sort(self) -> Sort:
        """What it is counted as."""
        return self.entry.item.slug, round(self.entry.area_m2, 3)

    def rank(self) -> tuple[float, float]:
        """Which of two a circuit must rather bear."""
        return self.watts, self.entry.level


def need(
    kind: str,
    item: Item,
    rule: str,
    holder: str,
    *,
    pieces: int = 1,
    figure: str = "",
    level: float = 1.0,
    fed_from: FedFrom = FedFrom.MAINS,
    area_m2: float = 1.0,
    setting: str = "",
    cut: Cut | None = None,
    is_summed: bool = False,
) -> Need:
    """A need for so many of one thing."""
    entry = Entry(
        entry_id=-1,
        parent_id=None,
        kind=kind,
        item=item,
        quantity=1,
        level=level,
        fed_from=fed_from,
        area_m2=area_m2,
        setting=setting,
    )
    return Need(entry, pieces, rule, figure, holder, cut, is_summed, entry.mains_w)


def by_sort(needs: Iterable[Need]) -> dict[Sort, tuple[Need, ...]]:
    """Of each sort all that need it, the one that draws most first."""
    found: dict[Sort, list[Need]] = defaultdict(list)
    for each in needs:
        found[each.sort].append(each)
    return {sort: tuple(sorted(each, key=Need.rank, reverse=True)) for sort, each in found.items()}


def quantity_of(needs: Iterable[Need]) -> int:
    """How many of a thing those needs come to: packs of what comes in packs, sheets of what is cut from sheets."""
    needs = tuple(needs)
    if not needs:
        return 0
    item, pieces = needs[0].entry.item, sum(each.pieces for each in needs)
    if isinstance(item, Accessory):
        return math.ceil(pieces / item.pack)
    if isinstance(item, Sheet) and item.stock_w_m and item.stock_l_m:
        cuts = [each.cut for each in needs if each.cut for _ in range(each.pieces)]
        return sheets_for(cuts, (item.stock_w_m, item.stock_l_m)) + sum(each.pieces for each in needs if not each.cut)
    return pieces


def entries_of(needs: Iterable[Need]) -> list[Entry]:
    """One entry for each that differs in level, feed or setting; packs and cut sheets are one entry."""
    found: list[Entry] = []
    for several in by_sort(needs).values():
        quantity, alike = quantity_of(several), _alike(several)
        if quantity != sum(alike.values()):
            found.append(replace(several[0].entry, quantity=quantity))
        else:
            found += [replace(entry, quantity=count) for entry, count in alike.items()]
    return found


def _alike(needs: tuple[Need, ...]) -> dict[Entry, int]:
    counts: dict[tuple[float, FedFrom, str], tuple[Entry, int]] = {}
    for each in needs:
        key = each.entry.level, each.entry.fed_from, each.entry.setting
        entry, count = counts.get(key, (each.entry, 0))
        counts[key] = entry, count + each.pieces
    return dict(counts.values())
