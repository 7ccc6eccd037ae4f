"""Gear that stands in set-ups, counted for the job without being put in twice.

Set-ups are lit one after the other, so a job needs of each thing as many as the set-up with most of them; what the
bucket holds already is not counted again.
"""

from collections import Counter, defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from iron_bucket.core.bench.head import Head
from iron_bucket.core.bucket.entry import LONGEST_PURPOSE, Entry, FedFrom
from iron_bucket.core.setups.sheet.pieces import Drawing, SetupPieces, Sort, sorts_of


@dataclass(frozen=True, slots=True, kw_only=True)
class PlacedEntries:
    """``entries`` beyond the bucket, with numbers below 0;

    ``left_out``: placed things that are not on the bench, and so not counted.
    """

    entries: tuple[Entry, ...]
    left_out: tuple[str, ...]


def placed_entries(pieces_of_each: Iterable[SetupPieces], held_already: Sequence[Entry]) -> PlacedEntries:
    """What set-ups hold beyond the bucket."""
    most: dict[Sort, list[Drawing]] = {}
    where: dict[Sort, list[str]] = defaultdict(list)
    left_out: list[str] = []
    for pieces in pieces_of_each:
        left_out += pieces.left_out
        for sort, drawings in pieces.by_sort.items():
            where[sort].append(pieces.setup_name)
            most[sort] = _greater(most[sort], drawings) if sort in most else drawings
    covered = _covered(held_already, most)
    beyond: list[Entry] = []
    for sort, drawings in most.items():
        purpose = ("placed in " + ", ".join(dict.fromkeys(where[sort])))[:LONGEST_PURPOSE]
        for entry, quantity in _joined([each.entry for each in drawings[covered[sort] :]]):
            beyond.append(replace(entry, entry_id=-1 - len(beyond), quantity=quantity, purpose=purpose))
    return PlacedEntries(entries=tuple(beyond), left_out=tuple(left_out))


def _greater(one: list[Drawing], other: list[Drawing]) -> list[Drawing]:
    """As many as the longer, each the one that draws more: what a circuit must bear on the heaviest set-up."""
    pairs = zip(one, other, strict=False)
    longer = one if len(one) > len(other) else other
    return [max(pair, key=Drawing.rank) for pair in pairs] + longer[min(len(one), len(other)) :]


def _covered(entries: Sequence[Entry], most: dict[Sort, list[Drawing]]) -> dict[Sort, int]:
    """How many of each thing the bucket brings for what is placed.

    What hangs on a pick serves that pick: it stands in for placed gear only where the picked head is a placed one.
    """
    covered: dict[Sort, int] = defaultdict(int)
    left = Counter({sort: len(several) for sort, several in most.items()})
    used: Counter[int] = Counter()
    for sort, entry in sorts_of(tuple(entries)):
        if entry.parent_id is None and isinstance(entry.item, Head):
            used[entry.entry_id] = min(entry.quantity, left[sort])
            left[sort] -= used[entry.entry_id]
            covered[sort] += used[entry.entry_id]
        elif entry.parent_id is None:
            covered[sort] += entry.quantity
    heads = {entry.entry_id: entry for entry in entries}
    for sort, entry in sorts_of(tuple(entries)):
        parent = heads.get(entry.parent_id) if entry.parent_id is not None else None
        if parent is not None and parent.quantity:
            covered[sort] += entry.quantity * used[parent.entry_id] // parent.quantity
    return covered


def _joined(entries: list[Entry]) -> list[tuple[Entry, int]]:
    """Those that are alike once, with how many there are of them."""
    alike: dict[tuple[float, FedFrom, str], list[Entry]] = defaultdict(list)
    for entry in entries:
        alike[entry.level, entry.fed_from, entry.setting].append(entry)
    return [(each[0], len(each)) for each in alike.values()]
