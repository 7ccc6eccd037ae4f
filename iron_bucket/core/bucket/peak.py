"""How many of a thing a job needs: as many as are out at one time, and not the sum over its passes.

Passes follow each other by the order of the day; where one is rigged while another is shot, or stays up, both count.
What is used up is summed all the same.
"""

from collections import Counter, defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import zip_longest

from iron_bucket.core.bucket.gel_cuts import Cut, sheets_for
from iron_bucket.core.bucket.kit_pass import KitPass
from iron_bucket.core.bucket.need import Need, Sort, by_sort, quantity_of
from iron_bucket.core.modifiers.kinds import Sheet

#: What is the same thing in passes of one chain.
_Same = tuple[int, str, str]


@dataclass(frozen=True, slots=True, kw_only=True)
class Peak:
    """``quantity`` at the fullest time, in ``passes``; ``heaviest``: unit by unit the need that draws most in any pass;
    ``everywhere``: each need with the pass that it is of. ``cuts``: of a gel, how many pieces of each size: one that is
    cut serves every pass that needs its size, and no other.
    """

    quantity: int
    passes: tuple[KitPass, ...]
    heaviest: tuple[Need, ...]
    everywhere: tuple[tuple[KitPass, Need], ...]
    cuts: tuple[tuple[Cut, int], ...] = ()


def peaks_of(passes: Sequence[KitPass]) -> dict[Sort, Peak]:
    """Of everything that any pass needs. Most is out whenever a pass begins, so only those times are looked at."""
    everywhere: dict[Sort, list[tuple[KitPass, Need]]] = defaultdict(list)
    for each in passes:
        for sort, needs in each.by_sort.items():
            everywhere[sort] += ((each, need) for need in needs)
    fullest: dict[Sort, tuple[int, tuple[KitPass, ...]]] = {}
    heaviest: dict[Sort, tuple[Need, ...]] = {}
    cuts: dict[Sort, Counter[Cut]] = defaultdict(Counter)
    for together in out_together(passes):
        for sort, needs in _out(together).items():
            heaviest[sort] = _heavier(heaviest.get(sort, ()), needs)
            quantity = quantity_of(each for each in needs if not each.is_summed)
            cuts[sort] |= _cut(needs)
            if sort not in fullest or quantity > fullest[sort][0]:
                fullest[sort] = quantity, tuple(each for each in together if sort in each.by_sort)
    return {
        sort: Peak(
            quantity=_sheets(cuts[sort], told) or fullest[sort][0] + quantity_of(_used_up(told)),
            passes=fullest[sort][1],
            heaviest=heaviest[sort],
            everywhere=tuple(told),
            cuts=tuple(sorted(cuts[sort].items())),
        )
        for sort, told in everywhere.items()
    }


def _cut(needs: Iterable[Need]) -> Counter[Cut]:
    found: Counter[Cut] = Counter()
    for need in needs:
        if need.cut:
            found[need.cut] += need.pieces
    return found


def _sheets(cuts: Counter[Cut], told: list[tuple[KitPass, Need]]) -> int:
    """Of stock, that all sizes are cut from; 0 of what is not cut."""
    item = told[0][1].entry.item
    if not cuts or not isinstance(item, Sheet):
        return 0
    return sheets_for(cuts.elements(), (item.stock_w_m, item.stock_l_m))


def out_together(passes: Sequence[KitPass]) -> list[list[KitPass]]:
    """All that is out as each pass begins."""
    return [
        [each for each in passes if each.start_min <= start < each.end_min]
        for start in sorted({each.start_min for each in passes})
    ]


def _out(together: list[KitPass]) -> dict[Sort, tuple[Need, ...]]:
    """What passes hold at one time; a piece that both of one chain have is there once."""
    if len(together) == 1:
        return together[0].by_sort
    found: dict[tuple[Sort, _Same], Need] = {}
    for each in together:
        for sort, needs in each.by_sort.items():
            for need in needs:
                key = sort, (each.chain, need.holder, need.rule)
                if key not in found or _more(need) > _more(found[key]):
                    found[key] = need
    return by_sort(found.values())


def _more(need: Need) -> tuple[int, tuple[float, float]]:
    return need.pieces, need.rank()


def _heavier(one: tuple[Need, ...], other: tuple[Need, ...]) -> tuple[Need, ...]:
    """As many as the longer, each the one that draws more: what a circuit must bear on the heaviest pass."""
    pairs = zip_longest(one, other)
    return tuple(max((each for each in pair if each is not None), key=Need.rank) for pair in pairs)


def _used_up(told: Iterable[tuple[KitPass, Need]]) -> list[Need]:
    """What is used up, once in each chain of passes."""
    found: dict[_Same, Need] = {}
    for each, need in told:
        if need.is_summed:
            key = each.chain, need.holder, need.rule
            if key not in found or need.pieces > found[key].pieces:
                found[key] = need
    return list(found.values())
