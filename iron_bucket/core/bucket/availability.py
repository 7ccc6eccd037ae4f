"""How many of a thing can go: of ours, less what is broken, with what others lend."""

from collections import Counter
from collections.abc import Iterable, Mapping

from iron_bucket.core.bench.item import Item
from iron_bucket.core.bucket.bucket_plan import Borrowed
from iron_bucket.core.modifiers.kinds import Cloth


def ready(item: Item, area_m2: float, away: Mapping[str, int]) -> int:
    """How many of ours, and of what others lend us, can go."""
    owned = item.owned_of(area_m2) if isinstance(item, Cloth) else item.owned
    return max(owned - away.get(item.slug, 0), 0)


def with_lent(away: Mapping[str, int], borrowed: Iterable[Borrowed]) -> Counter[str]:
    """What cannot go, less what others lend."""
    found = Counter(away)
    for lent in borrowed:
        found[lent.item] -= lent.count
    return found
