"""A stand, and its bag, as one flat row and back."""

from iron_bucket.core.bench.bag import Bag
from iron_bucket.core.bench.stand import TYPICAL_LEGS_M, Stand
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.item_rows import Row, item_fields, item_row


def stand_of(fields: Fields) -> Stand:
    """A kind of stand."""
    return Stand(
        **item_fields(fields),
        payload_kg=fields.number("payload_kg"),
        lowest_m=fields.number("lowest_m"),
        highest_m=fields.number("highest_m"),
        spigot_mm=fields.number("spigot_mm"),
        legs_m=fields.number("legs_m", TYPICAL_LEGS_M),
    )


def bag_of(fields: Fields) -> Bag:
    """A kind of bag."""
    return Bag(**item_fields(fields))


def stand_row(stand: Stand) -> Row:
    """The same as a row."""
    return {
        **item_row(stand),
        "payload_kg": stand.payload_kg,
        "lowest_m": stand.lowest_m,
        "highest_m": stand.highest_m,
        "spigot_mm": stand.spigot_mm,
        **({} if stand.legs_m == TYPICAL_LEGS_M else {"legs_m": stand.legs_m}),
    }
