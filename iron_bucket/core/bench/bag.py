"""A bag of sand, shot or water that holds a stand down."""

from dataclasses import dataclass

from iron_bucket.core.bench.item import Item


@dataclass(frozen=True, slots=True, kw_only=True)
class Bag(Item):
    """One kind of bag, by its weight filled."""
