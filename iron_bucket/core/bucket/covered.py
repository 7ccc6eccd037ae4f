"""How much of what is derived the bucket holds already by hand."""

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence

from iron_bucket.core.bench.head import Head
from iron_bucket.core.bucket.entry import Entry
from iron_bucket.core.bucket.need import Sort


def sort_of(entry: Entry) -> Sort:
    """What an entry is counted as: a cloth in another size is another."""
    return entry.item.slug, round(entry.area_m2, 3)


def covered(entries: Sequence[Entry], needed: Mapping[Sort, int]) -> dict[Sort, int]:
    """How many of each thing the bucket brings for what is needed.

    What hangs on a pick serves that pick: it stands in for derived gear only where the picked head is a placed one.
    """
    found: dict[Sort, int] = defaultdict(int)
    left, used = Counter(needed), Counter[int]()
    for entry in entries:
        if entry.parent_id is None and isinstance(entry.item, Head):
            used[entry.entry_id] = min(entry.quantity, left[sort_of(entry)])
            left[sort_of(entry)] -= used[entry.entry_id]
            found[sort_of(entry)] += used[entry.entry_id]
        elif entry.parent_id is None:
            found[sort_of(entry)] += entry.quantity
    heads = {entry.entry_id: entry for entry in entries}
    for entry in entries:
        parent = heads.get(entry.parent_id) if entry.parent_id is not None else None
        if parent is not None and parent.quantity:
            found[sort_of(entry)] += entry.quantity * used[parent.entry_id] // parent.quantity
    return found
